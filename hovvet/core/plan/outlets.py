"""Where a clip goes: shape, longest length, loudness, safe area."""

from pydantic import BaseModel, ConfigDict

from hovvet.core.errors import CoreError


class Outlet(BaseModel):
    """``width`` x ``height`` in pixels; ``longest`` in seconds; ``lufs`` integrated loudness;
    ``peak`` true peak in dBTP; ``safe`` the margins (left, top, right, bottom) in pixels that
    an outlet may cover with its own controls."""

    model_config = ConfigDict(frozen=True)

    key: str
    name: str
    width: int
    height: int
    longest: float
    lufs: float = -14.0
    peak: float = -1.5
    safe: tuple[int, int, int, int] = (60, 120, 60, 120)


OUTLETS: dict[str, Outlet] = {
    outlet.key: outlet
    for outlet in (
        Outlet(key="tall", name="Tall feed", width=1080, height=1920, longest=60, safe=(80, 220, 80, 420)),
        Outlet(key="portrait", name="Portrait feed", width=1080, height=1350, longest=90, safe=(60, 80, 60, 120)),
        Outlet(key="square", name="Square feed", width=1080, height=1080, longest=90, safe=(60, 60, 60, 80)),
        Outlet(key="wide", name="Wide player", width=1920, height=1080, longest=180, safe=(120, 60, 120, 70)),
    )
}


def outlet_name(key: str) -> str:
    """What an outlet is called; its key where it is not known (any more)."""
    return OUTLETS[key].name if key in OUTLETS else key


def outlet(key: str) -> Outlet:
    """The outlet with this key. Raises CoreError when there is none."""
    try:
        return OUTLETS[key]
    except KeyError:
        raise CoreError(f"There is no outlet “{key}”. Choose one of: {', '.join(OUTLETS)}.") from None
