"""Text read by a voice."""

from functools import lru_cache
from typing import Annotated, ClassVar, Literal

from pydantic import Field, field_validator

from hovvet.core.captions.title_styles import TEMPLATES
from hovvet.core.engines.narrator import FASTEST, LONGEST, NARRATOR_NAMES, SLOWEST, Narrator
from hovvet.core.plan.model import Spoken, spoken
from hovvet.core.sheet.contents.base import Group, Lane, Offer
from hovvet.core.sheet.contents.over_speech import OverSpeech
from hovvet.core.text import clean
from hovvet.core.value import APART, PERCENT, called
from hovvet.core.words.spoken_text import sentences

LONGEST_TEXT = 20_000  # letters: about twenty minutes


class Narration(OverSpeech):
    """A ``text`` that a voice reads (``narrator``), so many times as fast as usual (``pace``), with a ``pause`` in seconds between
    its sentences. Each sentence may stand as a title while it is read (``template``)."""

    kind: Literal["narration"] = "narration"
    text: Annotated[str, Field(max_length=LONGEST_TEXT, title="Text", json_schema_extra=APART)] = ""
    narrator: Annotated[Narrator, Field(title="Voice", json_schema_extra=called(NARRATOR_NAMES))] = "natural"
    pace: Annotated[float, Field(ge=SLOWEST, le=FASTEST, title="Pace (%)", json_schema_extra=PERCENT)] = 1.0
    pause: Annotated[float, Field(ge=0, le=3, title="Pause between sentences (s)")] = 0.3
    template: Annotated[str, Field(max_length=40, title="Titles in step", json_schema_extra=APART)] = ""
    """Of titles with its sentences; "" for none."""

    lane: ClassVar[Lane] = "sound"
    alone: ClassVar[bool] = False
    most: ClassVar[int] = 100
    title: ClassVar[str] = "Narration"
    group: ClassVar[Group | None] = "sound"
    offers: ClassVar[tuple[Offer, ...]] = (Offer(label="Narration from text", place=80, here=True),)

    @field_validator("text")
    @classmethod
    def _clean(cls, text: str) -> str:
        return clean(text)

    @field_validator("template")
    @classmethod
    def _known(cls, key: str) -> str:
        if key and key not in TEMPLATES:
            raise ValueError(f"there is no template {key!r}")
        return key

    @property
    def spoken(self) -> tuple[Spoken, ...]:
        """Its sentences."""
        return _spoken(self.text, self.narrator, self.pace)

    def label(self) -> str:
        """How it begins."""
        return " ".join(self.text.split())[:60] or self.title


@lru_cache(maxsize=256)
def _spoken(text: str, narrator: Narrator, pace: float) -> tuple[Spoken, ...]:
    return tuple(spoken(each, narrator, pace) for each in sentences(text, LONGEST))
