"""What a sweep looks for, and how much it leaves."""

from collections.abc import Mapping, Sequence
from typing import Annotated, Self

from pydantic import BaseModel, ConfigDict, Field, FiniteFloat

from hovvet.core.sweep.finds import FindKind
from hovvet.core.sweep.phrases import PHRASES, phrases_of
from hovvet.core.words.vocabulary import ENGLISH, filler_sounds

DEFAULT_KINDS: tuple[FindKind, ...] = ("filler", "pause")  # of a sweep nobody has chosen kinds for
Phrase = Annotated[str, Field(min_length=1, max_length=60)]


class SweepSettings(BaseModel):
    """Kinds to look for, the words that count, and what is left of pauses (seconds).

    Pauses of ``pause_from`` seconds and more are shortened to ``pause_left``. ``fillers`` are single
    words that are filler sounds wherever they stand. ``phrases`` that Hovvet knows are taken only where
    they say nothing; others are taken wherever they stand.
    """

    model_config = ConfigDict(frozen=True, extra="forbid")

    kinds: frozenset[FindKind] = Field(default_factory=lambda: frozenset[FindKind](DEFAULT_KINDS))
    pause_from: FiniteFloat = Field(default=0.7, ge=0.3, le=10)
    pause_left: FiniteFloat = Field(default=0.35, ge=0.1, le=2)
    fillers: Annotated[tuple[Phrase, ...], Field(max_length=200)] = tuple(sorted(filler_sounds()))
    phrases: Annotated[tuple[Phrase, ...], Field(max_length=200)] = PHRASES

    @classmethod
    def usual(cls, language: str = ENGLISH) -> Self:
        """What is usual in a language (ISO 639-1)."""
        return cls(fillers=tuple(sorted(filler_sounds(language))), phrases=phrases_of(language))

    def changed(
        self,
        pauses: Mapping[str, float],
        more_fillers: Sequence[str] = (),
        fewer_fillers: Sequence[str] = (),
        more_phrases: Sequence[str] = (),
        fewer_phrases: Sequence[str] = (),
    ) -> Self:
        """These settings with other times of pauses, and with words put into the lists or taken out.

        Raises pydantic's ValidationError when they would no longer make sense.
        """
        values = self.model_dump() | dict(pauses)
        values["fillers"] = _with(self.fillers, more_fillers, fewer_fillers)
        values["phrases"] = _with(self.phrases, more_phrases, fewer_phrases)
        return type(self).model_validate(values)


def _with(words: Sequence[str], more: Sequence[str], fewer: Sequence[str]) -> tuple[str, ...]:
    gone = {word.strip().lower() for word in fewer}
    wanted = dict.fromkeys([*words, *(word.strip().lower() for word in more)])
    return tuple(word for word in wanted if word and word not in gone)
