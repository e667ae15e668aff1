"""How loud each speaker is."""

from typing import Annotated, ClassVar, Literal

from pydantic import Field

from hovvet.core.sheet.contents.base import Content, Group, Lane, Offer
from hovvet.core.value import APART, Value


class SpeakerLevel(Value):
    """So many dB on what one speaker says."""

    speaker: Annotated[str, Field(min_length=1, max_length=80)]
    """By the key that words carry."""
    volume: Annotated[float, Field(ge=-12, le=12)]
    """dB."""


class Voices(Content):
    """Those who speak are brought to the same loudness, as they are where nothing is laid; a speaker who has an amount of
    their own at that instead."""

    kind: Literal["voices"] = "voices"
    even: Annotated[bool, Field(title="Even out the speakers")] = True
    amounts: Annotated[
        tuple[SpeakerLevel, ...], Field(max_length=40, title="Of each speaker", json_schema_extra=APART)
    ] = ()

    lane: ClassVar[Lane] = "sound"
    title: ClassVar[str] = "Speaker levels"
    group: ClassVar[Group | None] = "sound"
    offers: ClassVar[tuple[Offer, ...]] = (Offer(label="Speaker levels", place=60, over="clip"),)

    @property
    def travels(self) -> bool:
        """Amounts are of the speakers of one recording: others are called by the same keys elsewhere."""
        return not self.amounts

    def of(self, speaker: str) -> float | None:
        """dB that a person gave a speaker."""
        return next((each.volume for each in self.amounts if each.speaker == speaker), None)

    def label(self) -> str:
        """Whether they are evened out."""
        return self.title if self.even else "Speakers as recorded"
