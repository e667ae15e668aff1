"""Breaking words into captions, and deciding when each is on screen.

The breaks are chosen together, by dynamic programming over all places where a
caption could end, so that an early break cannot spoil a later one.
"""

from collections.abc import Mapping, Sequence
from functools import lru_cache
from itertools import accumulate, combinations, pairwise
from math import inf
from types import MappingProxyType
from typing import NamedTuple, Protocol

from hovvet.core.captions.layout import USUAL, CaptionLayout
from hovvet.core.plan.model import Caption, PlanWord
from hovvet.core.time import Rate
from hovvet.core.value import BreakHow, with_changes
from hovvet.core.words.vocabulary import bare, ends_phrase, ends_sentence

PAUSE_BREAK = 0.45  # seconds of silence at which a caption must end
OPENING = 0.3  # seconds: a clip whose first word begins within these opens with its caption
_LONE_LETTERS = 5  # a caption of one word this long or shorter is a flicker, and joins its neighbour where it can
_TIE = 1e-6  # costs nearer than this are the same: the last decimals of times decide nothing
_MOST_LINES = 3  # of a caption that a person has put together
_LONE_PAUSE = 1.0  # seconds of silence over which it still joins

NO_BREAKS: Mapping[int, BreakHow] = MappingProxyType({})

# Small words that lean on what follows: a line should not end with one.
_LEANING = frozenset(
    (
        "a an the and but or so of to in on at by for from with as is are was were be if my your his her our "
        "their its i we you they he she it that this not no"
    ).split()
)


def lay_out_captions(
    words: Sequence[PlanWord],
    rate: Rate,
    frames: int,
    layout: CaptionLayout = USUAL,
    breaks: Mapping[int, BreakHow] = NO_BREAKS,
) -> tuple[Caption, ...]:
    """Captions for the words of a plan of ``frames`` frames, within the limits of a layout, with a person's own ``breaks``
    at words, by their positions.

    No caption begins before its first word, but for the one whose word begins within 0.3 s of the clip: the first frame,
    which many see as a still, has it already; and those that are to come earlier. None overlaps the next.
    """
    seen = [n for n, word in enumerate(words) if word.written]
    said = [_Seen(words[n].written, words[n].start, words[n].end) for n in seen]
    own = _breaks([words[n] for n in seen], {k: breaks[n] for k, n in enumerate(seen) if n in breaks} if breaks else {})
    groups = break_phrases(said, layout, own)
    starts: list[int] = [min(rate.frame_from(said[first].start), max(frames - 1, 0)) for first, _ in groups]
    if starts and said[0].start <= OPENING:
        starts[0] = 0
    captions: list[Caption] = []
    for n, (first, last) in enumerate(groups):
        limit = starts[n + 1] if n + 1 < len(groups) else frames
        wanted = max(said[last - 1].end + layout.linger, said[first].start + layout.shortest)
        end = min(rate.frame(wanted) + words[seen[last - 1]].longer, limit)
        if limit - end < layout.flicker * rate.fps:
            end = limit
        begin = max(starts[n] - words[seen[first]].earlier, 0)
        if begin < starts[n] and captions:
            begin = max(begin, captions[-1].first + 1)
            captions[-1] = with_changes(captions[-1], last=min(captions[-1].last, begin))
        if end > begin:
            lines = break_lines(said, first, last, layout, own)
            letters = sum(len(word.text) for word in said[first:last]) + last - first - 1
            fast = letters > layout.fastest * rate.seconds(end - begin)
            placed = tuple(tuple(seen[k] for k in line) for line in lines)
            captions.append(Caption(lines=placed, first=begin, last=end, fast=fast))
    return tuple(captions)


def _breaks(words: Sequence[PlanWord], own: dict[int, BreakHow]) -> Mapping[int, BreakHow]:
    """A person's own breaks, and those where somebody else goes on, or what nobody says stands."""
    for k in range(1, len(words)):
        before, word = words[k - 1], words[k]
        if before.aside or word.aside or (before.voice != word.voice and k not in own):
            own[k] = "caption"
    return own


class _Seen(NamedTuple):
    """A word as captions write it."""

    text: str
    start: float
    end: float


class Timed(Protocol):
    """A word with its times in seconds."""

    @property
    def text(self) -> str: ...
    @property
    def start(self) -> float: ...
    @property
    def end(self) -> float: ...


class _Traits(NamedTuple):
    """Of a word as it is written: short enough to flicker, leaning on the next; whether it ends a phrase, a sentence."""

    short: bool
    leans: bool
    phrase: bool
    sentence: bool


@lru_cache(maxsize=20_000)
def _traits(text: str) -> _Traits:
    return _Traits(len(bare(text)) <= _LONE_LETTERS, text.lower() in _LEANING, ends_phrase(text), ends_sentence(text))


class _Features:
    """What the search looks at again and again, told once for each word."""

    def __init__(self, words: Sequence[Timed]) -> None:
        texts = [word.text for word in words]
        self.start = [word.start for word in words]
        self.end = [word.end for word in words]
        self.length = [len(text) for text in texts]
        traits = [_traits(text) for text in texts]
        self.short = [each.short for each in traits]
        self.leans = [each.leans for each in traits]
        self.phrase = [each.phrase for each in traits]
        self.sentences = [0, *accumulate(each.sentence for each in traits)]  # ended before each word

    def follows(self, end: int) -> float:
        """When the word after a caption begins that ends before word ``end``."""
        return self.start[end] if end < len(self.start) else inf

    def always(self, end: int) -> float:
        """What a caption that ends before word ``end`` costs wherever it begins; 0 would be a full phrase of comfortable
        length."""
        cost = 3.0  # each caption costs something, so that few are made
        if end < len(self.start) and not self.phrase[end - 1]:
            gap = self.start[end] - self.end[end - 1]
            cost += 6.0 * max(0.0, 1 - gap / PAUSE_BREAK)
            if self.leans[end - 1]:
                cost += 4.0
        return cost


def break_phrases(
    words: Sequence[Timed], layout: CaptionLayout = USUAL, breaks: Mapping[int, BreakHow] = NO_BREAKS
) -> list[tuple[int, int]]:
    """Group words into captions: (first, one past last) positions, covering all words in order. A person's ``breaks`` go
    before all limits."""
    count = len(words)
    told = _Features(words)
    start, stop, short, sentences = told.start, told.end, told.short, told.sentences
    shortest, longest = layout.shortest, layout.longest
    joined = {n for n, how in breaks.items() if how != "caption" and n > 0}
    begins = {n for n, how in breaks.items() if how == "caption"}
    parted = [
        n + 1 < count and n + 1 not in joined and start[n + 1] - stop[n] >= PAUSE_BREAK for n in range(count)
    ]  # whether a pause that ends a caption follows each word
    origin = [0] * (count + 1)
    before = [0.0] * (count + 1)  # the best up to each word, less the sentences that have ended: those are counted once
    lowest = 0  # the first word from which on all up to ``end`` fit
    filled = (1, 0)  # the lines those take, and what of the last is used
    for end in range(1, count + 1):
        filled = _fill(filled, told.length[end - 1], layout.characters)
        while lowest < end - 1 and (filled[0] > layout.lines or lowest < end - layout.words):
            lowest += 1
            filled = _filled(told.length, lowest, end, layout.characters)
        if end in joined:
            before[end] = inf
            continue
        # A sentence that ends inside a caption is read past.
        always = told.always(end) + 5.0 * sentences[end - 1]
        follows, stops = told.follows(end), stop[end - 1]
        least = inf
        tied = True  # whether a person wants all words from ``first`` on in one caption
        for first in range(end - 1, -1, -1):
            cost = before[first] + always
            pause = False
            if first == end - 1:
                if short[first]:
                    cost += 8.0
            elif first + 1 in begins:
                break
            else:
                tied = tied and first + 1 in joined
                pause = parted[first]
                if pause and not _joins(told, first, end):
                    break
            if first < lowest and not tied:
                break
            lasts = follows - start[first]
            if lasts < shortest:
                cost += 40.0 * (shortest - lasts) / shortest
            if stops - start[first] > longest:
                cost += 10.0
            if cost < least - _TIE:
                least, origin[end] = cost, first
            if pause and not (first == end - 2 and short[end - 1]):
                break  # the short word before the pause joined what follows it; nothing before that does
        before[end] = least - 5.0 * sentences[end]
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
    return _filled(lengths, first, end, characters)[0]


def _filled(lengths: Sequence[int], first: int, end: int, characters: int) -> tuple[int, int]:
    """The same, and how many letters of the last line are used."""
    filled = (1, 0)
    for length in lengths[first:end]:
        filled = _fill(filled, length, characters)
    return filled


def _fill(filled: tuple[int, int], length: int, characters: int) -> tuple[int, int]:
    """Lines and what of the last is used, with one more word."""
    lines, used = filled
    if used and used + 1 + length > characters:
        return lines + 1, length
    return lines, used + length + (1 if used else 0)


def break_lines(
    words: Sequence[Timed],
    first: int,
    end: int,
    layout: CaptionLayout = USUAL,
    breaks: Mapping[int, BreakHow] = NO_BREAKS,
) -> tuple[tuple[int, ...], ...]:
    """The words of one caption on as few lines as they take, of like length; where a person has broken lines, as broken."""
    own = [n for n in range(first + 1, end) if breaks.get(n) == "line"] if breaks else []
    if own:
        return tuple(tuple(range(a, b)) for a, b in pairwise((first, *own, end)))
    most = max(layout.lines, _MOST_LINES) if any(n in breaks for n in range(first + 1, end)) else layout.lines
    edges = even_lines(tuple(word.text for word in words[first:end]), layout.characters, most)
    return tuple(tuple(range(first + a, first + b)) for a, b in pairwise(edges))


@lru_cache(maxsize=20_000)
def even_lines(texts: tuple[str, ...], characters: int, most: int) -> tuple[int, ...]:
    """Where lines of like length begin, and the end of the last; looked up for all but the captions an edit changes."""
    count = min(_lines([len(text) for text in texts], 0, len(texts), characters), most)
    choices = ((0, *inner, len(texts)) for inner in combinations(range(1, len(texts)), count - 1))
    return min(choices, key=lambda edges: _uneven(texts, edges, characters))


def _uneven(texts: Sequence[str], edges: Sequence[int], characters: int) -> float:
    """How bad these lines would be."""
    lengths = [sum(len(text) for text in texts[a:b]) + b - a - 1 for a, b in pairwise(edges)]
    cost = max(lengths) - min(lengths) + 100.0 * sum(max(length - characters, 0) for length in lengths)
    for at in edges[1:-1]:
        if texts[at - 1].lower() in _LEANING:
            cost += 4
        if ends_phrase(texts[at - 1]):
            cost -= 6
    return cost
