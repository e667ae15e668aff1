"""Breaking words into captions, and deciding when each is on screen.

The breaks are chosen together, by dynamic programming over all places where a
caption could end, so that an early break cannot spoil a later one.
"""

from collections.abc import Sequence
from itertools import accumulate
from math import inf
from typing import Protocol

from hovvet.core.plan.model import Caption, PlanWord
from hovvet.core.time import Rate
from hovvet.core.words.vocabulary import bare, ends_phrase, ends_sentence

LINE_CHARACTERS = 22
LINES = 2
SHORTEST = 0.7  # seconds a caption stays, where the speech allows
LONGEST = 5.0
LINGER = 0.5  # seconds a caption may stay after its last word
FLICKER = 0.2  # a gap between two captions shorter than this is closed
PAUSE_BREAK = 0.45  # seconds of silence at which a caption must end
OPENING = 0.3  # seconds: a clip whose first word begins within these opens with its caption
_LONE_LETTERS = 5  # a caption of one word this long or shorter is a flicker, and joins its neighbour where it can
_LONE_PAUSE = 1.0  # seconds of silence over which it still joins
_MOST_WORDS = 24

# Small words that lean on what follows: a line should not end with one.
_LEANING = frozenset(
    (
        "a an the and but or so of to in on at by for from with as is are was were be if my your his her our "
        "their its i we you they he she it that this not no"
    ).split()
)


def lay_out_captions(words: Sequence[PlanWord], rate: Rate, frames: int) -> tuple[Caption, ...]:
    """Captions for the words of a plan of ``frames`` frames.

    At most two lines of 22 characters (a longer word has its line to itself); no
    caption begins before its first word, but for the one whose word begins within 0.3 s
    of the clip: the first frame, which many see as a still, has it already. None overlaps the next.
    """
    groups = break_phrases(words)
    starts: list[int] = [min(rate.frame_from(words[first].start), max(frames - 1, 0)) for first, _ in groups]
    if starts and words[0].start <= OPENING:
        starts[0] = 0
    captions = []
    for n, (first, last) in enumerate(groups):
        limit = starts[n + 1] if n + 1 < len(groups) else frames
        said = words[last - 1].end
        wanted = max(said + LINGER, words[first].start + SHORTEST)
        end = min(rate.frame(wanted), limit)
        if limit - end < FLICKER * rate.fps:
            end = limit
        if end > starts[n]:
            captions.append(Caption(lines=break_lines(words, first, last), first=starts[n], last=end))
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


def break_phrases(words: Sequence[Timed]) -> list[tuple[int, int]]:
    """Group words into captions: (first, one past last) positions, covering all words in order."""
    count = len(words)
    told = _Features(words)
    best = [inf] * (count + 1)
    origin = [0] * (count + 1)
    best[0] = 0.0
    lowest = 0  # the first word from which on all up to ``end`` fit
    for end in range(1, count + 1):
        lowest = max(lowest, end - _MOST_WORDS)
        while lowest < end - 1 and not _fit(told.length, lowest, end):
            lowest += 1
        costs = _Costs(told, end)
        for first in range(end - 1, lowest - 1, -1):
            parted = first < end - 1 and told.start[first + 1] - told.end[first] >= PAUSE_BREAK
            if parted and not _joins(told, first, end):
                break
            cost = best[first] + costs.of(first)
            if cost < best[end]:
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


def _fit(lengths: Sequence[int], first: int, end: int) -> bool:
    lines, used = 1, 0
    for length in lengths[first:end]:
        if used and used + 1 + length > LINE_CHARACTERS:
            lines, used = lines + 1, length
        else:
            used += length + (1 if used else 0)
    return lines <= LINES


class _Costs:
    """How bad captions would be that end with one word; 0 is a full phrase of comfortable length."""

    def __init__(self, told: _Features, end: int) -> None:
        self._told, self._last = told, end - 1
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
        if self._follows - start < SHORTEST:
            cost += 40.0 * (SHORTEST - self._follows + start) / SHORTEST
        if told.end[last] - start > LONGEST:
            cost += 10.0
        # A sentence that ends inside a caption is read past.
        return cost + 5.0 * (told.sentences[last] - told.sentences[first])


def break_lines(words: Sequence[PlanWord], first: int, end: int) -> tuple[tuple[int, ...], ...]:
    """The words of one caption on one line if they fit, else on two of like length."""
    positions = tuple(range(first, end))
    if _length(words, first, end) <= LINE_CHARACTERS or end - first == 1:
        return (positions,)
    best, at = inf, first + 1
    for n in range(first + 1, end):
        above, below = _length(words, first, n), _length(words, n, end)
        cost = abs(above - below) + 100.0 * (max(above - LINE_CHARACTERS, 0) + max(below - LINE_CHARACTERS, 0))
        if words[n - 1].text.lower() in _LEANING:
            cost += 4
        if ends_phrase(words[n - 1].text):
            cost -= 6
        if cost < best:
            best, at = cost, n
    return positions[: at - first], positions[at - first :]


def _length(words: Sequence[PlanWord], first: int, end: int) -> int:
    return sum(len(words[n].text) for n in range(first, end)) + end - first - 1
