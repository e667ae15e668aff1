"""A voice recorded for the clip."""

from typing import Annotated, ClassVar, Literal

from pydantic import Field

from hovvet.core.sheet.contents.base import Group, Lane, Offer, Showing
from hovvet.core.sheet.contents.over_speech import OverSpeech
from hovvet.core.value import APART, Value


class Take(Value):
    """One of several recordings of the same: it is heard from ``start`` seconds on."""

    media: Annotated[str, Field(min_length=1, max_length=64, pattern=r"^[\w.-]+$")]
    start: Annotated[float, Field(ge=0, le=200_000)] = 0.0


class VoiceOver(OverSpeech, Showing):
    """A recording heard from ``start`` seconds on, up to ``end`` (0: to its end), ``later`` milliseconds later than its words
    begin; ``takes`` are all that were recorded for it."""

    kind: Literal["voice_over"] = "voice_over"
    start: Annotated[float, Field(ge=0, le=200_000, title="Starts at (s)", json_schema_extra=APART)] = 0.0
    end: Annotated[float, Field(ge=0, le=200_000, title="Ends at (s)", json_schema_extra=APART)] = 0.0
    later: Annotated[int, Field(ge=-2_000, le=2_000, title="Later by (ms)")] = 0
    takes: Annotated[tuple[Take, ...], Field(max_length=40, title="Takes", json_schema_extra=APART)] = ()

    lane: ClassVar[Lane] = "sound"
    alone: ClassVar[bool] = False
    most: ClassVar[int] = 100
    title: ClassVar[str] = "Voice-over"
    group: ClassVar[Group | None] = "sound"
    offers: ClassVar[tuple[Offer, ...]] = (Offer(label="Voice-over", place=75, here=True, keys=("Shift+O",)),)

    @property
    def media_shown(self) -> tuple[str, ...]:
        """Also the other takes, so that they can be compared at once."""
        return tuple(dict.fromkeys((*super().media_shown, *(each.media for each in self.takes))))
