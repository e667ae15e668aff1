"""What each span of sentences is worth as a clip of its own."""

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from itertools import pairwise

import numpy as np
from numpy.typing import NDArray

from hovvet.core.passages.features import Features

SHORTEST = 15.0  # seconds of a passage
_USUAL, _LONG, _NEARLY = 30.0, 55.0, 0.92  # seconds that are best at least and at most; of the limit, if that is less
_REACH = 150.0  # seconds: what is longer loses more by that than it can have
_AROUND = 4  # sentences before a passage that it may lean on, and on either side that it is to differ from
_END, _NEXT, _INSIDE, _LENGTH = 0.9, 0.7, 2.0, 2.0
_ENDS_ALIKE, _CARRY, _TURNS, _CALL_BACK, _ANSWERED = 0.5, 1.5, 0.8, 0.3, 0.6
_DEEP, _PAUSE, _LONG_PAUSE = 0.5, 0.25, 1.5
_SPOILS = {"housekeeping": 1.2, "slide": 0.7}  # what each sentence of such a sign takes from a passage that holds it
_LEAD = 3  # new stems of the first sentence that count in full


@dataclass(frozen=True)
class Span:
    """Sentences ``first`` to ``last``, both in it; how many ``seconds`` of them are kept, and what they are worth."""

    first: int
    last: int
    seconds: float
    score: float


def spans(of: Features, longest: float, kept: Callable[[float, float], float]) -> Iterator[Span]:
    """Every span of sentences from ``SHORTEST`` to ``longest`` seconds, with what it is worth. ``kept`` says how many seconds
    of a stretch of the recording are left after its sweep."""
    scorer = _Scorer(of)
    best, longest = min(_LONG, _NEARLY * longest), min(longest, _REACH)
    n = len(of.sentences)
    for first in range(n):
        for last in range(first, n):
            seconds = kept(of.sentences[first].start, of.sentences[last].end)
            if seconds > longest:
                break
            if seconds >= SHORTEST:
                length = -max(_USUAL - seconds, 0.0) / 15 - max(seconds - best, 0.0) / 30
                yield Span(first, last, seconds, scorer.score(first, last, seconds) + _LENGTH * length)


class _Scorer:
    """The sums that all spans share."""

    def __init__(self, of: Features) -> None:
        self._of = of
        self._means = _sums(of.means)
        lasts = np.array([each.end - each.start for each in of.sentences])
        self._lasts, self._holds = _sums(lasts), _sums(of.holds * lasts)
        speakers = [each.speaker for each in of.sentences]
        self._spoilt = _sums(np.array([sum(_SPOILS.get(sign, 0.0) for sign in own) for own in of.signs]))
        changes = [0.0, *(float(a != b) for a, b in pairwise(speakers))]
        self._turns = _sums(np.array(changes))

    def score(self, first: int, last: int, seconds: float) -> float:
        """What a span is worth, but for its length."""
        of = self._of
        stems, begins, ends = of.stems, of.stems[first], of.stems[last]
        inside = (self._holds[last + 1] - self._holds[first]) / max(self._lasts[last + 1] - self._lasts[first], 1e-6)
        score = float(of.begins[first] + _END * of.ends[last] + _INSIDE * inside)
        score -= float(self._spoilt[last + 1] - self._spoilt[first])
        if last + 1 < len(stems):
            score += _NEXT * float(of.follows[last + 1])
            near = set().union(*stems[max(last - 1, first) : last + 1])
            score -= _share(stems[last + 1], near)
        middle = (first + last + 1) // 2
        if last > first:
            score += self._alike((first, middle), (middle, last + 1))
            score += _ENDS_ALIKE * float(of.means[first] @ of.means[last])
            score -= max(float(of.depth[first + 1 : last + 1].max()) - _DEEP, 0.0)
            pause = max(each.before for each in of.sentences[first + 1 : last + 1])
            score -= _PAUSE * max(pause - _LONG_PAUSE, 0.0)
        outside = [(max(first - _AROUND, 0), first), (last + 1, min(last + 1 + _AROUND, len(stems)))]
        score -= max((self._alike((first, last + 1), each) for each in outside if each[0] < each[1]), default=0.0)
        before = set().union(*stems[max(first - _AROUND, 0) : first])
        rest = set().union(*stems[first + 1 : last + 1])
        score += min(len((begins - before) & rest) / _LEAD, 1.0) - _CARRY * _share(begins, before)
        score -= _TURNS * float(self._turns[last + 1] - self._turns[first + 1]) / (seconds / 10)
        score += _CALL_BACK * bool(begins & ends and last > first)
        return score + _ANSWERED * answered(of, first, last)

    def _alike(self, one: tuple[int, int], other: tuple[int, int]) -> float:
        a, b = (self._means[end] - self._means[begin] for begin, end in (one, other))
        return float(a @ b) / max(float(np.linalg.norm(a) * np.linalg.norm(b)), 1e-9)


def answered(of: Features, first: int, last: int) -> bool:
    """Whether a span opens with a question that another person answers."""
    return (
        "question" in of.signs[first]
        and first < last
        and of.sentences[first].speaker != of.sentences[first + 1].speaker
    )


def _sums(values: NDArray[np.floating]) -> NDArray[np.float64]:
    """What the values before each place come to; shape (n + 1, …)."""
    return np.concatenate([np.zeros((1, *values.shape[1:])), np.cumsum(values.astype(np.float64), axis=0)])


def _share(of: frozenset[str], inside: set[str]) -> float:
    return len(of & inside) / len(of) if of else 0.0
