"""The transcript as a page to read: paragraphs, and the pauses between words."""

from collections.abc import Iterator, Sequence

from pydantic import BaseModel, ConfigDict

from hovvet.core.time import EPSILON
from hovvet.core.words.transcript import Word
from hovvet.core.words.vocabulary import ends_sentence

SHOWN_PAUSE = 0.3  # seconds: a pause from this length on stands in the text
_PARAGRAPH_PAUSE = 0.9
_PARAGRAPH_WORDS = 90


class Pause(BaseModel):
    """Silence between two words, in seconds; ``after`` is the word before it, if any."""

    model_config = ConfigDict(frozen=True)

    after: int | None
    start: float
    end: float


class Paragraph(BaseModel):
    """A run of words by one speaker: positions ``first`` to ``last``, both included."""

    model_config = ConfigDict(frozen=True)

    first: int
    last: int
    speaker: str


def pauses(words: Sequence[Word], duration: float, shortest: float = SHOWN_PAUSE) -> list[Pause]:
    """Every gap of at least ``shortest`` seconds before, between and after the words."""
    found = []
    after, at = None, 0.0
    for word in words:
        if word.start - at >= shortest - EPSILON:
            found.append(Pause(after=after, start=at, end=word.start))
        after, at = word.id, word.end
    if duration - at >= shortest:
        found.append(Pause(after=after, start=at, end=duration))
    return found


def paragraphs(words: Sequence[Word]) -> list[Paragraph]:
    """Break where the speaker changes, and at a sentence end with a long pause or much text before it."""
    return list(_paragraphs(words))


def _paragraphs(words: Sequence[Word]) -> Iterator[Paragraph]:
    first = 0
    for n in range(1, len(words) + 1):
        if n < len(words):
            last, word = words[n - 1], words[n]
            rested = word.start - last.end >= _PARAGRAPH_PAUSE or n - first >= _PARAGRAPH_WORDS
            if word.speaker == last.speaker and not (rested and ends_sentence(last.text)):
                continue
        if first < n:
            yield Paragraph(first=first, last=n - 1, speaker=words[first].speaker)
        first = n
