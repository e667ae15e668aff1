"""What was said laid along a script: each word said stands for one of the script, or was added, and what was begun anew is found
again at the beginning of a line.

The cheapest path through a hidden Markov model of reading aloud (Viterbi, "Error bounds for convolutional codes", IEEE Transactions
on Information Theory 13, 1967): one goes on to the next word, leaves some out, adds some, or goes back.
"""

from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray
from rapidfuzz import fuzz, process

from hovvet.core.words.vocabulary import is_filler_sound

LIKE, NEAR = 75.0, 0.25  # of 100: from there on two words are taken for one heard badly, at this cost
OTHERWISE = 1.2  # what it costs that another word was said,
LEFT_OUT, ADDED, FILLER = 0.8, 0.8, 0.05  # that one was left out, that one was added, a filler sound among them,
BACK, WITHIN = 2.5, 4.0  # that one goes to the beginning of a line, and to any other word
_SAID, _PUT_IN, _GONE_BACK, _SKIPPED = range(4)
Costs = NDArray[np.float32]


class Along:
    """Goes along a script word by word. ``costs[n]`` is the least cost with which one can stand before word ``n`` by now."""

    def __init__(self, script: Sequence[str], starts: Sequence[int], language: str) -> None:
        self._script, self._language = list(script), language
        self._jump = np.full(len(script), WITHIN, np.float32)
        self._jump[[start for start in starts if start < len(script)]] = BACK
        self.costs: Costs = np.append(self._jump - np.float32(BACK), np.float32(WITHIN - BACK))
        self._skips = np.arange(len(script) + 1, dtype=np.float32) * np.float32(LEFT_OUT)
        self._known: dict[str, Costs] = {}

    def begin_at(self, word: int, sure: float) -> None:
        """Stand before a word; to stand elsewhere costs ``sure``."""
        self.costs = np.full(len(self._script) + 1, sure, np.float32)
        self.costs[word] = 0.0

    def hear(self, word: str) -> tuple[NDArray[np.uint8], int]:
        """Go on by a word that was said: how one came to stand before each word of the script, and from where one went back."""
        before = self.costs
        said = before[:-1] + self._unlike(word)
        source = int(np.argmin(before))
        back = before[source] + self._jump + self._unlike(word)
        here = before + np.float32(FILLER if is_filler_sound(word, self._language) else ADDED)
        how = np.full(len(here), _PUT_IN, np.uint8)
        for candidate, kind in ((said, _SAID), (back, _GONE_BACK)):
            better = candidate < here[1:]
            how[1:][better] = kind
            here[1:][better] = candidate[better]
        skipped = np.minimum.accumulate(here - self._skips) + self._skips
        how[skipped < here - 1e-4] = _SKIPPED
        self.costs = skipped
        return how, source

    def _unlike(self, word: str) -> Costs:
        known = self._known.get(word)
        if known is None:
            (alike,) = process.cdist([word], self._script, scorer=fuzz.ratio)
            known = np.where(alike >= 100, 0.0, np.where(alike >= LIKE, NEAR, OTHERWISE)).astype(np.float32)
            self._known[word] = known
        return known


def align(
    said: Sequence[str], script: Sequence[str], starts: Sequence[int], language: str
) -> list[tuple[int | None, bool]]:
    """For each word said the word of the script that it stands for (None: it was added), and whether one went back (or far ahead)
    before it. Words as ``bare`` gives them; ``starts`` is where lines begin."""
    if not said or not script:
        return [(None, False)] * len(said)
    along = Along(script, starts, language)
    steps = [along.hear(word) for word in said]
    at = int(np.argmin(along.costs))
    found: list[tuple[int | None, bool]] = []
    for how, source in reversed(steps):
        while how[at] == _SKIPPED:
            at -= 1
        if how[at] == _PUT_IN:
            found.append((None, False))
        else:
            found.append((at - 1, bool(how[at] == _GONE_BACK)))
            at = at - 1 if how[at] == _SAID else source
    return found[::-1]
