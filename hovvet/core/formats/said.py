"""The words of a clip as they run along with its file."""

from collections.abc import Iterator, Sequence
from itertools import groupby

from hovvet.core.plan.model import Plan, PlanWord
from hovvet.core.sheet.model import WordRef
from hovvet.core.value import Value


class SaidWord(Value):
    """A word that is heard. ``start`` and ``end`` in seconds of the file."""

    n: int
    """Its position among the words of the plan: names it in this file."""
    text: str
    start: float
    end: float
    ref: WordRef | None
    """Names it on the sheet; None for what a voice over the clip says."""


class SaidParagraph(Value):
    """What one voice says, up to a pause or the next voice."""

    voice: int
    """Counted as they are first heard."""
    words: tuple[SaidWord, ...]


_PAUSE = 0.9  # seconds after which another paragraph begins


def said(plan: Plan) -> list[SaidParagraph]:
    """All that is heard, in paragraphs."""
    return [
        SaidParagraph(voice=words[0][1].voice, words=tuple(_word(*each) for each in words))
        for words in _runs(plan.words)
    ]


def _word(n: int, word: PlanWord) -> SaidWord:
    ref = WordRef(origin=word.origin, word=word.id) if word.layer is None and word.origin else None
    return SaidWord(n=n, text=word.text, start=word.start, end=word.end, ref=ref)


def _runs(words: Sequence[PlanWord]) -> Iterator[list[tuple[int, PlanWord]]]:
    for _, own in groupby(enumerate(words), key=lambda each: each[1].voice):
        run: list[tuple[int, PlanWord]] = []
        for n, word in own:
            if run and word.start - run[-1][1].end >= _PAUSE:
                yield run
                run = []
            run.append((n, word))
        yield run
