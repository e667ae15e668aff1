"""What a sweep looks for, and how much it leaves."""

from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field

from hovvet.core.sweep.finds import FindKind
from hovvet.core.sweep.phrases import PHRASES
from hovvet.core.words.vocabulary import FILLER_SOUNDS

Phrase = Annotated[str, Field(min_length=1, max_length=60)]


class SweepSettings(BaseModel):
    """Kinds to look for, the words that count, and what is left of pauses (seconds).

    Pauses of ``pause_from`` seconds and more are shortened to ``pause_left``. ``fillers`` are single
    words that are filler sounds wherever they stand. ``phrases`` that Hovvet knows are taken only where
    they say nothing; others are taken wherever they stand.
    """

    model_config = ConfigDict(frozen=True, extra="forbid")

    kinds: frozenset[FindKind] = Field(default_factory=lambda: frozenset[FindKind]({"filler", "pause"}))
    pause_from: float = Field(default=0.7, ge=0.3, le=10)
    pause_left: float = Field(default=0.35, ge=0.1, le=2)
    fillers: Annotated[tuple[Phrase, ...], Field(max_length=200)] = tuple(sorted(FILLER_SOUNDS))
    phrases: Annotated[tuple[Phrase, ...], Field(max_length=200)] = PHRASES
