"""Choosing the best spans: each stretch of a recording is in one passage at most."""

from collections.abc import Iterable

from hovvet.core.passages.scoring import Span

FLOOR, STRONG = 4.5, 5.5  # what a passage has to be worth to be shown, and to be called strong
MOST_AN_HOUR, FEWEST = 8, 8  # passages that are shown of an hour, and of less than that
_OVERLAP = 0.1  # of the shorter of two, which they may share


def chosen(spans: Iterable[Span], most: int, floor: float = FLOOR) -> list[Span]:
    """The spans that are worth most, best first, none of them over another."""
    taken: list[Span] = []
    for span in sorted((each for each in spans if each.score >= floor), key=lambda each: (-each.score, each.first)):
        if len(taken) == most:
            break
        if all(_shared(span, other) <= _OVERLAP for other in taken):
            taken.append(span)
    return taken


def _shared(one: Span, other: Span) -> float:
    """In sentences, of the shorter one."""
    both = min(one.last, other.last) - max(one.first, other.first) + 1
    return max(both, 0) / min(one.last - one.first + 1, other.last - other.first + 1)


def most_of(seconds: float) -> int:
    """How many passages are shown of a recording of so many seconds."""
    return max(FEWEST, round(MOST_AN_HOUR * seconds / 3600))
