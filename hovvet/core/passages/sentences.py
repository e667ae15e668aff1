"""What is said, in sentences: by the full stops of the transcript, by who speaks, and by pauses where stops are lost."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from functools import cached_property

from hovvet.core.passages.rules import STOP_WORDS
from hovvet.core.words.transcript import Word, plain_text
from hovvet.core.words.vocabulary import bare, ends_sentence

_SURE_PAUSE = 0.9  # seconds after which another sentence begins, whatever the transcript says
_PAUSE, _MANY = 0.3, 9  # seconds that end a sentence of at least so many words where no stop does
_LONGEST = 48  # words; what is longer is parted at its longest pause


@dataclass(frozen=True)
class Sentence:
    """Words ``first`` to ``last`` of a transcript (positions, both in it). ``before`` and ``after`` are the pauses around it in
    seconds."""

    first: int
    last: int
    start: float
    end: float
    speaker: str
    text: str
    before: float
    after: float

    @cached_property
    def words(self) -> tuple[str, ...]:
        """Its words, without case and punctuation."""
        return tuple(word for each in self.text.split() if (word := bare(each)))

    @cached_property
    def content(self) -> tuple[str, ...]:
        """Those of its words that say what it is about."""
        return tuple(word for word in self.words if len(word) > 2 and word not in STOP_WORDS)


def sentences(words: Sequence[Word]) -> list[Sentence]:
    """All that is said, in order. Filler sounds are in no text, but in the sentence that they stand in."""
    made: list[Sentence] = []
    edges = list(_edges(words))
    for first, end in edges:
        said = [word for word in words[first:end] if word.kind == "word"]
        if not said:
            continue
        before = words[first].start - words[first - 1].end if first else _SURE_PAUSE
        after = words[end].start - words[end - 1].end if end < len(words) else _SURE_PAUSE
        made.append(
            Sentence(
                first=first,
                last=end - 1,
                start=words[first].start,
                end=words[end - 1].end,
                speaker=words[first].speaker,
                text=plain_text(said),
                before=max(before, 0.0),
                after=max(after, 0.0),
            )
        )
    return made


def _edges(words: Sequence[Word]) -> Iterator[tuple[int, int]]:
    """(first, one past last) of each sentence."""
    first = 0
    for n in range(1, len(words) + 1):
        if n < len(words) and not _parts(words, first, n):
            continue
        yield from _short(words, first, n)
        first = n


def _parts(words: Sequence[Word], first: int, n: int) -> bool:
    """Whether another sentence begins with word ``n``, the present one with ``first``."""
    pause = words[n].start - words[n - 1].end
    return (
        ends_sentence(words[n - 1].text)
        or words[n].speaker != words[n - 1].speaker
        or pause >= _SURE_PAUSE
        or (pause >= _PAUSE and n - first >= _MANY and not words[n - 1].text.endswith(","))
    )


def _short(words: Sequence[Word], first: int, end: int) -> Iterator[tuple[int, int]]:
    """A stretch, parted at its longest pauses until no part is too long."""
    if end - first <= _LONGEST:
        yield first, end
        return
    quarter = max((end - first) // 4, 1)
    at = max(range(first + quarter, end - quarter), key=lambda n: words[n].start - words[n - 1].end)
    yield from _short(words, first, at)
    yield from _short(words, at, end)
