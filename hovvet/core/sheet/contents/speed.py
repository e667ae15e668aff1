"""A stretch of speech, faster or slower."""

from typing import Annotated, ClassVar, Literal

from pydantic import Field

from hovvet.core.sheet.contents.base import Content, Group, Lane, Offer

SLOWEST, FASTEST = 0.25, 4.0
LONGEST_RAMP = 2.0  # seconds of the recording


class Speed(Content):
    """Played at ``rate`` times its speed, reached and left over ``ramp`` seconds of the recording, eased; its sound
    stretched with its pitch kept, or muted."""

    kind: Literal["speed"] = "speed"
    rate: Annotated[float, Field(ge=SLOWEST, le=FASTEST, title="Speed (x)")] = 1.5
    ramp: Annotated[float, Field(ge=0, le=LONGEST_RAMP, title="Ease in and out (s)")] = 0.3
    sound: Annotated[Literal["stretched", "muted"], Field(title="Sound")] = "stretched"
    """Stretched with its pitch kept, or muted."""

    lane: ClassVar[Lane] = "picture"
    most: ClassVar[int] = 200
    title: ClassVar[str] = "Speed"
    group: ClassVar[Group | None] = "time"
    offers: ClassVar[tuple[Offer, ...]] = (Offer(label="Speed", place=10, keys=("R",)),)

    def label(self) -> str:
        """The rate, and whether it is heard."""
        return f"Speed {self.rate:g}x" + (", muted" if self.sound == "muted" else "")
