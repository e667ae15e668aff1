"""Breaking words into captions, and deciding when each is on screen.

The breaks are chosen together, by dynamic programming over all places where a
caption could end, so that an early break cannot spoil a later one.
"""

from collections.abc import Sequence
from itertools import accumulate, combinations, pairwise
from math import inf
from typing import Protocol

from hovvet.core.captions.layout import USUAL, CaptionLayout
from hovvet.core.plan.model import Caption, PlanWord
from hovvet.core.time import Rate
from hovvet.core.words.vocabulary import bare, ends_phrase, ends_sentence

PAUSE_BREAK = 0.45  # seconds of silence at which a caption must end
OPENING = 0.3  # seconds: a clip whose first word begins within these opens with its caption
_LONE_LETTERS = 5  # a caption of one word this long or shorter is a flicker, and joins its neighbour where it can
_TIE = 1e-6  # costs nearer than this are the same: the last decimals of times decide nothing
_LONE_PAUSE = 1.0  # seconds of silence over which it still joins

# Small words that lean on what follows: a line should not end with one.
_LEANING = frozenset(
    (
        "a an the and but or so of to in on at by for from with as is are was were be if my your his her our "
        "their its i we you they he she it that this not no"
    ).split()
)


def lay_out_captions(
    words: Sequence[PlanWord], rate: Rate, frames: int, layout: CaptionLayout = USUAL
) -> tuple[Caption, ...]:
    """Captions for the words of a plan of ``frames`` frames, within the limits of a layout.

    No caption begins before its first word, but for the one whose word begins within 0.3 s of the clip: the first frame,
    which many see as a still, has it already. None overlaps the next.
    """
    groups = break_phrases(words, layout)
    starts: list[int] = [min(rate.frame_from(words[first].start), max(frames - 1, 0)) for first, _ in groups]
    if starts and words[0].start <= OPENING:
        starts[0] = 0
    captions = []
    for n, (first, last) in enumerate(groups):
        limit = starts[n + 1] if n + 1 < len(groups) else frames
        said = words[last - 1].end
        wanted = max(said + layout.linger, words[first].start + layout.shortest)
        end = min(rate.frame(wanted), limit)
        if limit - end < layout.flicker * rate.fps:
            end = limit
        if end > starts[n]:
            lines = break_lines(words, first, last, layout)
            letters = sum(len(word.text) for word in words[first:last]) + last - first - 1
            fast = letters > layout.fastest * rate.seconds(end - starts[n])
            captions.append(Caption(lines=lines, first=starts[n], last=end, fast=fast))
    return tuple(captions)


class Timed(Protocol):
    """A word with its times in seconds."""

    @property
    def text(self) -> str: ...
    @property
    def start(self) -> float: ...
    @property
    def end(self) -> float: ...


class _Features:
    """What the search looks at again and again, told once for each word."""

    def __init__(self, words: Sequence[Timed]) -> None:
        texts = [word.text for word in words]
        self.start = [word.start for word in words]
        self.end = [word.end for word in words]
        self.length = [len(text) for text in texts]
        self.short = [len(bare(text)) <= _LONE_LETTERS for text in texts]
        self.leans = [text.lower() in _LEANING for text in texts]
        self.phrase = [ends_phrase(text) for text in texts]
        self.sentences = [0, *accumulate(ends_sentence(text) for text in texts)]  # ended before each word


def break_phrases(words: Sequence[Timed], layout: CaptionLayout = USUAL) -> list[tuple[int, int]]:
    """Group words into captions: (first, one past last) positions, covering all words in order."""
    count = len(words)
    told = _Features(words)
    best = [inf] * (count + 1)
    origin = [0] * (count + 1)
    best[0] = 0.0
    lowest = 0  # the first word from which on all up to ``end`` fit
    for end in range(1, count + 1):
        lowest = max(lowest, end - layout.words)
        while lowest < end - 1 and _lines(told.length, lowest, end, layout.characters) > layout.lines:
            lowest += 1
        costs = _Costs(told, end, layout)
        for first in range(end - 1, lowest - 1, -1):
            parted = first < end - 1 and told.start[first + 1] - told.end[first] >= PAUSE_BREAK
            if parted and not _joins(told, first, end):
                break
            cost = best[first] + costs.of(first)
            if cost < best[end] - _TIE:
                best[end], origin[end] = cost, first
            if parted and not (first == end - 2 and told.short[end - 1]):
                break  # the short word before the pause joined what follows it; nothing before that does
    groups = []
    end = count
    while end > 0:
        groups.append((origin[end], end))
        end = origin[end]
    return groups[::-1]


def _joins(told: _Features, first: int, end: int) -> bool:
    """Whether a short word that would stand alone, at either end of a caption, joins the rest over a pause."""
    lone = told.short[first] or (first == end - 2 and told.short[end - 1])
    return lone and told.start[first + 1] - told.end[first] < _LONE_PAUSE


def _lines(lengths: Sequence[int], first: int, end: int, characters: int) -> int:
    """How many lines these words take at least."""
    lines, used = 1, 0
    for length in lengths[first:end]:
        if used and used + 1 + length > characters:
            lines, used = lines + 1, length
        else:
            used += length + (1 if used else 0)
    return lines


class _Costs:
    """How bad captions would be that end with one word; 0 is a full phrase of comfortable length."""

    def __init__(self, told: _Features, end: int, layout: CaptionLayout) -> None:
        self._told, self._last = told, end - 1
        self._shortest, self._longest = layout.shortest, layout.longest
        self._follows = told.start[end] if end < len(told.start) else inf
        self._always = 3.0  # each caption costs something, so that few are made
        if end < len(told.start) and not told.phrase[end - 1]:
            gap = told.start[end] - told.end[end - 1]
            self._always += 6.0 * max(0.0, 1 - gap / PAUSE_BREAK)
            if told.leans[end - 1]:
                self._always += 4.0

    def of(self, first: int) -> float:
        """The cost of the caption that begins with a word."""
        told, last, cost = self._told, self._last, self._always
        start = told.start[first]
        if first == last and told.short[last]:
            cost += 8.0
        if self._follows - start < self._shortest:
            cost += 40.0 * (self._shortest - self._follows + start) / self._shortest
        if told.end[last] - start > self._longest:
            cost += 10.0
        # A sentence that ends inside a caption is read past.
        return cost + 5.0 * (told.sentences[last] - told.sentences[first])


def break_lines(
    words: Sequence[PlanWord], first: int, end: int, layout: CaptionLayout = USUAL
) -> tuple[tuple[int, ...], ...]:
    """The words of one caption on as few lines as they take, of like length."""
    lengths = [len(words[n].text) for n in range(first, end)]
    count = min(_lines(lengths, 0, end - first, layout.characters), layout.lines)
    best, chosen = inf, tuple[int, ...]((first, end))
    for inner in combinations(range(first + 1, end), count - 1):
        edges = (first, *inner, end)
        cost = _uneven(words, edges, layout.characters)
        if cost < best:
            best, chosen = cost, edges
    return tuple(tuple(range(a, b)) for a, b in pairwise(chosen))


def _uneven(words: Sequence[PlanWord], edges: Sequence[int], characters: int) -> float:
    """How bad these lines would be."""
    lengths = [sum(len(words[n].text) for n in range(a, b)) + b - a - 1 for a, b in pairwise(edges)]
    cost = max(lengths) - min(lengths) + 100.0 * sum(max(length - characters, 0) for length in lengths)
    for at in edges[1:-1]:
        if words[at - 1].text.lower() in _LEANING:
            cost += 4
        if ends_phrase(words[at - 1].text):
            cost -= 6
    return cost
