"""How one stretch goes over into the next."""

from typing import Annotated, ClassVar, Literal

from pydantic import Field

from hovvet.core.sheet.contents.base import Content, Group, Lane, Offer
from hovvet.core.value import Colour

SHORTEST_JOIN, LONGEST_JOIN = 0.1, 2.0  # seconds


class Join(Content):
    """The joins before its words: a plain cut, a crossfade, or a dip through a ``colour``, over ``seconds``; the sound of
    it crosses over ``sound`` seconds (0: as short as it can be without a click)."""

    kind: Literal["join"] = "join"
    picture: Annotated[Literal["cut", "crossfade", "dip"], Field(title="Picture")] = "crossfade"
    seconds: Annotated[float, Field(ge=SHORTEST_JOIN, le=LONGEST_JOIN, title="Seconds")] = 0.5
    colour: Annotated[Colour, Field(title="Colour of the dip")] = "#000000"
    sound: Annotated[float, Field(ge=0, le=LONGEST_JOIN, title="Sound crosses over, seconds")] = 0.0

    lane: ClassVar[Lane] = "picture"
    title: ClassVar[str] = "Join"
    group: ClassVar[Group | None] = "time"
    offers: ClassVar[tuple[Offer, ...]] = (
        Offer(label="Crossfade into these words", place=30, keys=("C",)),
        Offer(label="All joins", place=40, over="clip"),
    )

    def label(self) -> str:
        """What kind of join, and how long."""
        return "Cut" if self.picture == "cut" else f"{self.picture.capitalize()} {self.seconds:g} s"
