"""What it costs to end a caption somewhere: 0 would be a full phrase of comfortable length."""

from collections.abc import Sequence
from functools import lru_cache
from itertools import accumulate
from math import inf
from typing import NamedTuple

from hovvet.core.captions.layout import CaptionLayout
from hovvet.core.words.timed import Timed
from hovvet.core.words.vocabulary import bare, ends_phrase, ends_sentence, leans

PAUSE_BREAK = 0.45  # seconds of silence at which a caption must end
LONE_PAUSE = 1.0  # seconds of silence over which a short word that would stand alone still joins its neighbour
_LONE_LETTERS = 5  # a caption of one word this long or shorter is a flicker

EACH = 3.0  # each caption costs something, so that few are made
NO_PAUSE = 6.0  # ends where neither a phrase ends nor anybody pauses; the less, the longer the pause
LEANING = 4.0  # and its last word leans on the next
READ_PAST = 5.0  # a sentence ends inside it
LONE = 8.0  # is one short word
FLICKERS = 40.0  # is seen no time at all; the less, the nearer that is to the shortest
TOO_LONG = 10.0  # lasts longer than the longest


class _Traits(NamedTuple):
    """Of a word as it is written: short enough to flicker, leaning on the next; whether it ends a phrase, a sentence."""

    short: bool
    leans: bool
    phrase: bool
    sentence: bool


@lru_cache(maxsize=20_000)
def _traits(text: str) -> _Traits:
    return _Traits(len(bare(text)) <= _LONE_LETTERS, leans(text), ends_phrase(text), ends_sentence(text))


class Costs:
    """What the search asks again and again, told once for each word. A caption is the words from ``first`` up to ``end``."""

    def __init__(self, words: Sequence[Timed], layout: CaptionLayout) -> None:
        texts = [word.text for word in words]
        traits = [_traits(text) for text in texts]
        self.letters = [len(text) for text in texts]
        self._start = [*(word.start for word in words), inf]  # after the last word nothing follows
        self._stop = [word.end for word in words]
        self._short = [each.short for each in traits]
        self._traits = traits
        self._shortest, self._longest = layout.shortest, layout.longest
        self._sentences = [0, *accumulate(each.sentence for each in traits)]  # ended before each word

    def pause(self, n: int) -> bool:
        """Whether a pause that ends a caption follows a word; not the last one."""
        return n + 1 < len(self._stop) and self._start[n + 1] - self._stop[n] >= PAUSE_BREAK

    def joins(self, first: int, end: int) -> bool:
        """Whether a short word that would stand alone, at either end of a caption, joins the rest over a pause."""
        lone = self._short[first] or self.ends_short(first, end)
        return lone and self._start[first + 1] - self._stop[first] < LONE_PAUSE

    def ends_short(self, first: int, end: int) -> bool:
        """Whether all that stands after its first word is one short one."""
        return first == end - 2 and self._short[end - 1]

    def ending(self, end: int) -> float:
        """What one that ends before word ``end`` costs, wherever it begins."""
        cost = EACH + READ_PAST * self._sentences[end - 1]
        if end < len(self._stop) and not self._traits[end - 1].phrase:
            gap = self._start[end] - self._stop[end - 1]
            cost += NO_PAUSE * max(0.0, 1 - gap / PAUSE_BREAK)
            if self._traits[end - 1].leans:
                cost += LEANING
        return cost

    def ended(self, end: int) -> float:
        """What is taken off again for the sentences that ended before word ``end``: each is read past once at most."""
        return READ_PAST * self._sentences[end]

    def beginning(self, first: int, end: int) -> float:
        """What one costs for beginning with word ``first``."""
        cost = LONE if first == end - 1 and self._short[first] else 0.0
        lasts = self._start[end] - self._start[first]  # until the next one begins
        if lasts < self._shortest:
            cost += FLICKERS * (self._shortest - lasts) / self._shortest
        if self._stop[end - 1] - self._start[first] > self._longest:
            cost += TOO_LONG
        return cost
