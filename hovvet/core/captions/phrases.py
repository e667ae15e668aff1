"""Breaking words into captions.

The breaks are chosen together, by dynamic programming over all places where a
caption could end, so that an early break cannot spoil a later one.
"""

from collections.abc import Iterator, Mapping, Sequence, Set
from math import inf

from hovvet.core.captions.layout import NO_BREAKS, USUAL, CaptionLayout
from hovvet.core.captions.lines import fill, filled
from hovvet.core.captions.phrase_costs import Costs
from hovvet.core.value import BreakHow
from hovvet.core.words.timed import Timed

_TIE = 1e-6  # costs nearer than this are the same: the last decimals of times decide nothing


def break_phrases(
    words: Sequence[Timed], layout: CaptionLayout = USUAL, breaks: Mapping[int, BreakHow] = NO_BREAKS
) -> list[tuple[int, int]]:
    """Group words into captions: (first, one past last) positions, covering all words in order. A person's ``breaks`` go
    before all limits."""
    costs = Costs(words, layout)
    joined = {n for n, how in breaks.items() if how != "caption" and n > 0}
    begins = {n for n, how in breaks.items() if how == "caption"}
    parted = [n + 1 not in joined and costs.pause(n) for n in range(len(words))]
    origin = [0] * (len(words) + 1)
    best = [0.0] * (len(words) + 1)  # the least that captions cost up to each word
    for end, lowest in enumerate(_lowest(costs.letters, layout), 1):
        if end in joined:
            best[end] = inf
            continue
        ending, least = costs.ending(end), inf
        for first in _beginnings(end, lowest, costs, joined, begins, parted):
            cost = best[first] + ending + costs.beginning(first, end)
            if cost < least - _TIE:
                least, origin[end] = cost, first
        best[end] = least - costs.ended(end)
    groups = []
    end = len(words)
    while end > 0:
        groups.append((origin[end], end))
        end = origin[end]
    return groups[::-1]


def _lowest(letters: Sequence[int], layout: CaptionLayout) -> Iterator[int]:
    """For each word, the first one from which on all up to it fit into a caption."""
    lowest = 0
    taken = (1, 0)  # the lines that those take, and what of the last is used
    for n, length in enumerate(letters):
        taken = fill(taken, length, layout.characters)
        while lowest < n and (taken[0] > layout.lines or lowest <= n - layout.words):
            lowest += 1
            taken = filled(letters[lowest : n + 1], layout.characters)
        yield lowest


def _beginnings(
    end: int, lowest: int, costs: Costs, joined: Set[int], begins: Set[int], parted: Sequence[bool]
) -> Iterator[int]:
    """The words with which a caption may begin that ends before word ``end``, the last one first."""
    yield end - 1
    tied = True  # whether a person wants all words from ``first`` on in one caption
    for first in range(end - 2, -1, -1):
        tied = tied and first + 1 in joined
        if first + 1 in begins or (parted[first] and not costs.joins(first, end)) or (first < lowest and not tied):
            return
        yield first
        if parted[first] and not costs.ends_short(first, end):
            return  # the short word before the pause joined what follows it; nothing before that does
