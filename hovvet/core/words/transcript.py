"""The transcript: words with a stable id, text, times, confidence, speaker and kind."""

from bisect import bisect_left
from collections.abc import Iterable
from functools import cached_property
from typing import Annotated, Literal, Self

from pydantic import BaseModel, ConfigDict, Field, FiniteFloat, model_validator

from hovvet.core.time import EPSILON
from hovvet.core.words.vocabulary import ENGLISH

WordKind = Literal["word", "filler", "sound"]
SpeakerBy = Literal["nobody", "voices", "hand"]  # who said so: nobody yet, a suggestion from the voices, a person
# Of speakers nobody has coloured: dark enough to be read on paper, and told apart by most eyes.
COLOURS = ("#2b5fc7", "#a54b26", "#47713f", "#7a4b7f", "#7d6200", "#19707b", "#a03d63", "#5b6270")
DOUBTFUL = 0.5  # confidence: below it the recogniser was not sure, and a person should look
SPOKEN_FOR = 0.15  # seconds after its end for which a word still counts as the one being heard
Seconds = Annotated[FiniteFloat, Field(ge=0)]


class Word(BaseModel):
    """One spoken word. ``start`` and ``end`` are seconds of the recording."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    id: Annotated[int, Field(ge=1)]
    text: Annotated[str, Field(min_length=1, max_length=200)]
    start: Seconds
    end: Seconds
    confidence: Annotated[FiniteFloat, Field(ge=0, le=1)] = 1.0
    speaker: Annotated[str, Field(max_length=80)] = "S1"
    speaker_by: SpeakerBy = "nobody"
    kind: WordKind = "word"


class Speaker(BaseModel):
    """How a speaker is called and coloured. ``key`` is what the words carry, such as ``S1``."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    key: Annotated[str, Field(min_length=1, max_length=80)]
    name: Annotated[str, Field(max_length=80)] = ""
    colour: Annotated[str, Field(pattern=r"^(#[0-9a-f]{6})?$")] = ""


class Transcript(BaseModel):
    """All words of one recording in spoken order; ``duration`` is in seconds.

    Every word ends after it starts, no word starts before the one before it
    ends, and ids are unique: a transcript that breaks this is refused.
    """

    model_config = ConfigDict(frozen=True, extra="forbid")

    version: Literal[1] = 1
    duration: Seconds
    language: Annotated[str, Field(pattern=r"^[a-z]{2}$")] = ENGLISH  # ISO 639-1
    words: tuple[Word, ...] = ()
    speakers: tuple[Speaker, ...] = ()

    @model_validator(mode="after")
    def _in_order(self) -> Self:
        at = 0.0
        for word in self.words:
            if word.end <= word.start:
                raise ValueError(f"word {word.id} ends at or before its start")
            if word.start < at - EPSILON:
                raise ValueError(f"word {word.id} starts before the word before it ends")
            at = word.end
        if len(self.position) != len(self.words):
            raise ValueError("two words have the same id")
        if self.words and at > self.duration + 0.5:
            raise ValueError("the last word ends after the recording")
        return self

    @cached_property
    def position(self) -> dict[int, int]:
        """Where each word id stands in ``words``."""
        return {word.id: n for n, word in enumerate(self.words)}

    def word(self, word_id: int) -> Word:
        """The word with this id. Raises KeyError when there is none."""
        return self.words[self.position[word_id]]

    def between(self, start: float, end: float) -> tuple[Word, ...]:
        """The words whose middle lies within ``start`` to ``end`` seconds."""
        positions = self.positions(start, end)
        return self.words[positions.start : positions.stop]

    def positions(self, start: float, end: float) -> range:
        """Where the words stand whose middle lies within ``start`` to ``end`` seconds."""
        return range(bisect_left(self._middles, start), bisect_left(self._middles, end))

    @property
    def speaker_keys(self) -> list[str]:
        """Who speaks, in the order they are first heard, then those who are named but say nothing."""
        keys = dict.fromkeys(word.speaker for word in self.words)
        return list(keys | dict.fromkeys(speaker.key for speaker in self.speakers))

    def cast(self) -> list[Speaker]:
        """Every speaker with a name and a colour, those that were given or else the usual ones."""
        known = {speaker.key: speaker for speaker in self.speakers}
        return [
            Speaker(
                key=key,
                name=self.speaker_name(key),
                colour=(known[key].colour if key in known else "") or COLOURS[n % len(COLOURS)],
            )
            for n, key in enumerate(self.speaker_keys)
        ]

    def speaker_name(self, key: str) -> str:
        """What a speaker is called: the name given, else "Speaker 1" for ``S1``, else the key itself."""
        named = next((speaker.name for speaker in self.speakers if speaker.key == key), "")
        return named or (f"Speaker {key[1:]}" if key[:1] == "S" and key[1:].isdigit() else key)

    @cached_property
    def _middles(self) -> list[float]:
        return [(word.start + word.end) / 2 for word in self.words]


def plain_text(words: Iterable[Word]) -> str:
    """The words as one line of text."""
    return " ".join(word.text for word in words)
