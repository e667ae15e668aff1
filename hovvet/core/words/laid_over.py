"""A person's corrections laid over the words of another recogniser: by where they were said, as far as they fit."""

from collections.abc import Iterator, Sequence
from typing import NamedTuple

from rapidfuzz import fuzz
from rapidfuzz.distance import Levenshtein

from hovvet.core.spans import Span
from hovvet.core.value import with_changes
from hovvet.core.words.corrections import Rewrite, Rewritten, correct
from hovvet.core.words.transcript import Transcript, Word, plain_text
from hovvet.core.words.vocabulary import bare

_FITS = 55.0  # of 100: likeness of what is heard now to what was heard, or corrected, before
_FEW = 2  # words on either side among which a correction may be heard rightly
_BESIDE = 0.05  # seconds by which the times of two recognisers may differ


class Corrected(NamedTuple):
    """What a stretch of a recording (seconds) was heard as, and what a person made of it."""

    span: Span
    heard: str
    text: str


def corrections_in(first: Transcript, now: Transcript) -> list[Corrected]:
    """The places at which a transcript reads otherwise than it was ``first`` recognised."""
    made = []
    for (a, b), (c, d) in _changed([word.text for word in first.words], [word.text for word in now.words]):
        heard, read = first.words[a:b], now.words[c:d]
        either = heard or read
        made.append(Corrected((either[0].start, either[-1].end), plain_text(heard), plain_text(read)))
    return made


def _changed(before: Sequence[str], after: Sequence[str]) -> Iterator[tuple[tuple[int, int], tuple[int, int]]]:
    """(first, one past last) in both of each run that is not the same. What was only put in takes a word beside it along."""
    runs: list[tuple[int, int, int, int]] = []
    for op in Levenshtein.opcodes(list(before), list(after)):
        if op.tag == "equal":
            continue
        if runs and (runs[-1][1], runs[-1][3]) == (op.src_start, op.dest_start):
            runs[-1] = (runs[-1][0], op.src_end, runs[-1][2], op.dest_end)
        else:
            runs.append((op.src_start, op.src_end, op.dest_start, op.dest_end))
    for a, b, c, d in runs:
        if a == b and a:
            a, c = a - 1, c - 1
        elif a == b and b < len(before):
            b, d = b + 1, d + 1
        yield (a, b), (c, d)


def laid_over(fresh: Transcript, first: Transcript, now: Transcript) -> tuple[Transcript, list[Corrected]]:
    """New words of a recording (``fresh``) with what a person had made of its old ones (``first`` as recognised, ``now`` as
    corrected), speakers included; and the corrections that no longer fit."""
    changes: list[Rewritten] = []
    left: list[Corrected] = []
    for each in corrections_in(first, now):
        words = [word for word in fresh.words if _inside(word, each.span)]
        read, wanted = plain_text(words), each.text
        if wanted and f" {_bare(wanted)} " in f" {_bare(plain_text(_around(fresh, words)))} ":
            continue  # it is heard rightly now
        if (
            words
            and wanted
            and max(fuzz.ratio(_bare(read), _bare(each.heard)), fuzz.ratio(_bare(read), _bare(wanted))) >= _FITS
        ):
            changes.append(Rewritten(words=tuple(word.id for word in words), text=wanted))
        else:
            left.append(each)
    made = correct(fresh, Rewrite(changes=tuple(changes))) if changes else fresh
    return with_changes(made, words=tuple(_spoken(made.words, now.words)), speakers=now.speakers), left


def _around(fresh: Transcript, words: Sequence[Word]) -> Sequence[Word]:
    """Some words and a few on either side."""
    if not words:
        return words
    first, last = fresh.position[words[0].id], fresh.position[words[-1].id]
    return fresh.words[max(first - _FEW, 0) : last + 1 + _FEW]


def _inside(word: Word, span: Span) -> bool:
    middle = (word.start + word.end) / 2
    return span[0] - _BESIDE <= middle <= span[1] + _BESIDE


def _bare(text: str) -> str:
    return " ".join(filter(None, map(bare, text.split())))


def _spoken(words: Sequence[Word], before: Sequence[Word]) -> Iterator[Word]:
    """Words said by whoever said what stood at their place before."""
    n = 0
    for word in words:
        middle = (word.start + word.end) / 2
        while n + 1 < len(before) and abs((before[n + 1].start + before[n + 1].end) / 2 - middle) <= abs(
            (before[n].start + before[n].end) / 2 - middle
        ):
            n += 1
        yield (with_changes(word, speaker=before[n].speaker, speaker_by=before[n].speaker_by) if before else word)
