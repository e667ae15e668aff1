"""Whether two transcripts are of one talk: the same words, as far apart in one as in the other. A text that is read again has the
same words at other times."""

import re
from collections import Counter
from collections.abc import Iterable

import numpy as np

_RUN = 4  # words that are compared together
_TIMED = 0.08  # seconds: words of one talk are found so near to one another
_DRIFT = 200e-6  # of one clock against the other, at most
_SURE = 0.45  # of the shorter one's runs that are in the other, too; more than half where they are of one talk
_TRIED = 60  # runs by which it is told that two are of other talks
_FEWEST = 20  # runs from which on that tells anything
Heard = Iterable[tuple[str, float]]  # what is heard, and at which second it begins


def are_alike(first: Heard, second: Heard) -> bool:
    """Whether two sequences of words are heard of one talk."""
    fewer, more = sorted((_bare(first), _bare(second)), key=len)
    if not _may_be(fewer, more):
        return False
    one, other = _runs(fewer), _runs(more)
    shared = [(one[run], other[run]) for run in one.keys() & other.keys()]
    if len(shared) < max(_SURE * len(one), _FEWEST):
        return False
    times, lags = np.array([a for a, _ in shared]), np.array([b - a for a, b in shared])
    near = np.abs(lags - np.median(lags)) < 1.0
    slope = np.clip(np.polyfit(times[near], lags[near], 1)[0], -_DRIFT, _DRIFT) if near.sum() > 1 else 0.0
    straight = lags - slope * times
    timed = np.abs(straight - np.median(straight)) <= _TIMED
    return bool(timed.sum() >= _SURE * len(one))


def _bare(heard: Heard) -> list[tuple[str, float]]:
    """Words without their marks."""
    return [(bare, at) for text, at in heard if (bare := re.sub(r"\W", "", text.lower()))]


def _may_be(fewer: list[tuple[str, float]], more: list[tuple[str, float]]) -> bool:
    """Whether some runs of one are in the other: told by few of them, for most pairs are of other talks."""
    runs = len(fewer) - _RUN + 1
    if runs < _FEWEST:
        return False
    text = f" {' '.join(bare for bare, _ in more)} "
    tried = range(0, runs, max(runs // _TRIED, 1))
    there = sum(f" {' '.join(bare for bare, _ in fewer[n : n + _RUN])} " in text for n in tried)
    return there >= _SURE / 2 * len(tried)


def _runs(words: list[tuple[str, float]]) -> dict[tuple[str, ...], float]:
    """The runs of words that are there once, and when each begins."""
    runs = [tuple(bare for bare, _ in words[n : n + _RUN]) for n in range(len(words) - _RUN + 1)]
    often = Counter(runs)
    return {run: words[n][1] for n, run in enumerate(runs) if often[run] == 1}
