"""Transitions: how one stretch goes over into the next."""

from typing import Annotated, ClassVar, Literal

from pydantic import Field

from hovvet.core.sheet.contents.base import Content, Group, Lane, Offer
from hovvet.core.value import Colour, called

SHORTEST_TRANSITION, LONGEST_TRANSITION = 0.1, 2.0  # seconds


class Transition(Content):
    """The transitions before its words: a plain cut, a crossfade, or a dip through a ``colour``, over ``seconds``; the sound of
    it crosses over ``sound`` seconds (0: as short as it can be without a click)."""

    kind: Literal["transition"] = "transition"
    picture: Annotated[
        Literal["cut", "crossfade", "dip"],
        Field(
            title="Transition",
            json_schema_extra=called({"cut": "Cut", "crossfade": "Crossfade", "dip": "Dip to colour"}),
        ),
    ] = "crossfade"
    """A plain cut, a crossfade, or a dip through a colour."""
    seconds: Annotated[float, Field(ge=SHORTEST_TRANSITION, le=LONGEST_TRANSITION, title="Length (s)")] = 0.5
    """How long it takes."""
    colour: Annotated[Colour, Field(title="Dip to colour")] = "#000000"
    sound: Annotated[float, Field(ge=0, le=LONGEST_TRANSITION, title="Audio crossfade (s)")] = 0.0

    lane: ClassVar[Lane] = "picture"
    title: ClassVar[str] = "Transition"
    group: ClassVar[Group | None] = "time"
    offers: ClassVar[tuple[Offer, ...]] = (
        Offer(label="Transition into these words", place=30, keys=("C",)),
        Offer(label="Transition at every cut", place=40, over="clip"),
    )

    def label(self) -> str:
        """What kind of transition, and how long."""
        return "Cut" if self.picture == "cut" else f"{self.picture.capitalize()} {self.seconds:g} s"
