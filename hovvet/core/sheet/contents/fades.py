"""Fades at the ends of the clip."""

from typing import Annotated, ClassVar, Literal

from pydantic import Field

from hovvet.core.sheet.contents.base import Content, Group, Lane, Offer
from hovvet.core.value import Colour

LONGEST_FADE = 5.0  # seconds


class Fades(Content):
    """Picture and sound fade in from a ``colour`` at the beginning of the clip, and out to it at the end, in seconds."""

    kind: Literal["fades"] = "fades"
    fade_in: Annotated[float, Field(ge=0, le=LONGEST_FADE, title="Fade in (s)")] = 0.0
    fade_out: Annotated[float, Field(ge=0, le=LONGEST_FADE, title="Fade out (s)")] = 0.5
    colour: Annotated[Colour, Field(title="Colour")] = "#000000"
    """From which it fades in, and to which out."""

    lane: ClassVar[Lane] = "picture"
    most: ClassVar[int] = 20
    title: ClassVar[str] = "Fade in and out"
    group: ClassVar[Group | None] = "time"
    offers: ClassVar[tuple[Offer, ...]] = (Offer(label="Fade in and out", place=50, over="clip"),)

    def label(self) -> str:
        """The lengths of both."""
        return f"Fade in {self.fade_in:g} s, out {self.fade_out:g} s"
