"""Breaking the words of one caption or title into lines of like length."""

from collections.abc import Mapping, Sequence
from functools import lru_cache
from itertools import combinations, pairwise

from hovvet.core.captions.layout import NO_BREAKS, USUAL, CaptionLayout
from hovvet.core.value import BreakHow
from hovvet.core.words.timed import Timed
from hovvet.core.words.vocabulary import ends_phrase, leans

_MOST_LINES = 3  # of a caption that a person has put together
# What makes lines worse, in letters by which they differ in length.
_TOO_LONG = 100.0  # for each letter that does not fit
_LEANING = 4.0  # a line that ends with a word that leans on the next
_PHRASE = -6.0  # one that ends where a phrase does is better


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
    count = min(filled([len(text) for text in texts], characters)[0], most)
    choices = ((0, *inner, len(texts)) for inner in combinations(range(1, len(texts)), count - 1))
    return min(choices, key=lambda edges: _uneven(texts, edges, characters))


def _uneven(texts: Sequence[str], edges: Sequence[int], characters: int) -> float:
    """How bad these lines would be."""
    lengths = [sum(len(text) for text in texts[a:b]) + b - a - 1 for a, b in pairwise(edges)]
    cost = max(lengths) - min(lengths) + _TOO_LONG * sum(max(length - characters, 0) for length in lengths)
    for at in edges[1:-1]:
        if leans(texts[at - 1]):
            cost += _LEANING
        if ends_phrase(texts[at - 1]):
            cost += _PHRASE
    return cost


def filled(lengths: Sequence[int], characters: int) -> tuple[int, int]:
    """How many lines words of so many letters take at least, and how many letters of the last are used."""
    taken = (1, 0)
    for length in lengths:
        taken = fill(taken, length, characters)
    return taken


def fill(taken: tuple[int, int], length: int, characters: int) -> tuple[int, int]:
    """The same, with one more word."""
    lines, used = taken
    if used and used + 1 + length > characters:
        return lines + 1, length
    return lines, used + length + (1 if used else 0)
