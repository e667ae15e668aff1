"""Where a clip goes: shape, longest length, loudness, safe area."""

from collections.abc import Mapping
from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field, model_validator

from hovvet.core.errors import CoreError
from hovvet.core.value import with_changes

SMALLEST, LARGEST = 64, 4096  # pixels

Side = Annotated[int, Field(ge=SMALLEST, le=LARGEST, multiple_of=2)]
Margin = Annotated[int, Field(ge=0, le=LARGEST)]


class Outlet(BaseModel):
    """``width`` x ``height`` in pixels, even; ``longest`` in seconds; ``lufs`` integrated loudness;
    ``peak`` true peak in dBTP; ``safe`` the margins (left, top, right, bottom) in pixels that
    an outlet may cover with its own controls; ``file_limit`` in bytes, None for none;
    ``post_letters`` and ``post_hashtags`` how much the text beside it may have."""

    model_config = ConfigDict(frozen=True)

    key: str
    name: Annotated[str, Field(min_length=1, max_length=60)]
    width: Side
    height: Side
    longest: Annotated[float, Field(ge=1, le=4 * 3600)]
    lufs: Annotated[float, Field(ge=-31, le=-8)] = -14.0
    peak: Annotated[float, Field(ge=-9, le=0)] = -1.5
    safe: tuple[Margin, Margin, Margin, Margin] = (60, 120, 60, 120)
    file_limit: Annotated[int, Field(ge=1_000_000)] | None = None
    post_letters: Annotated[int, Field(ge=20, le=20_000)] = 2_200
    post_hashtags: Annotated[int, Field(ge=0, le=60)] = 8

    def too_long(self, seconds: float) -> bool:
        """Whether a clip lasts longer than the outlet takes."""
        return seconds > self.longest

    @model_validator(mode="after")
    def _room(self) -> "Outlet":
        left, top, right, bottom = self.safe
        if left + right > self.width // 2 or top + bottom > self.height // 2:
            raise ValueError("the safe area must leave at least half of the picture")
        return self


def grid_square(outlet: Outlet) -> tuple[int, int, int, int] | None:
    """The margins (left, top, right, bottom, in pixels) of the square in the middle, which is all that the grid of a profile
    shows of a tall clip; None where the clip is not taller than wide."""
    spare = outlet.height - outlet.width
    return (0, spare // 2, 0, spare - spare // 2) if spare > 0 else None


OUTLETS: dict[str, Outlet] = {
    outlet.key: outlet
    for outlet in (
        Outlet(key="tall", name="Tall feed", width=1080, height=1920, longest=60, safe=(80, 220, 80, 420)),
        Outlet(key="portrait", name="Portrait feed", width=1080, height=1350, longest=90, safe=(60, 80, 60, 120)),
        Outlet(
            key="square",
            name="Square feed",
            width=1080,
            height=1080,
            longest=90,
            safe=(60, 60, 60, 80),
            post_letters=1_000,
            post_hashtags=5,
        ),
        Outlet(
            key="wide",
            name="Wide player",
            width=1920,
            height=1080,
            longest=180,
            safe=(120, 60, 120, 70),
            post_letters=5_000,
            post_hashtags=12,
        ),
    )
}


NEW_OUTLET = with_changes(OUTLETS["tall"], key="new", name="New outlet", safe=(60, 120, 60, 120))  # to begin from


def outlet_name(key: str, outlets: Mapping[str, Outlet] = OUTLETS) -> str:
    """What an outlet is called; "a deleted outlet" where it is not known (any more)."""
    return outlets[key].name if key in outlets else "a deleted outlet"


def outlet(key: str, outlets: Mapping[str, Outlet] = OUTLETS) -> Outlet:
    """The outlet with this key. Raises CoreError when there is none."""
    try:
        return outlets[key]
    except KeyError:
        raise CoreError(f"There is no outlet “{key}”. Choose one of: {', '.join(outlets)}.") from None
