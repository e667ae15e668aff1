"""What of a look a layer of the plan carries, and for which of its frames."""

from collections.abc import Iterator, Sequence
from itertools import pairwise
from typing import TypeVar

from hovvet.core.colour.grade import CORNERS_FROM, CORNERS_MOST, EDGES_MOST, EDGES_REACH, Grade
from hovvet.core.plan.model import Corners, Edges

Laid = TypeVar("Laid")


def latest(laid: Sequence[tuple[int, int, Laid]], start: int, end: int) -> tuple[int, int, Laid] | None:
    """Of what lies over all frames from ``start`` up to ``end`` the latest; None where nothing does."""
    return next((each for each in reversed(laid) if each[0] <= start and end <= each[1]), None)


def over_spans(laid: Sequence[tuple[int, int, Laid]], first: int, last: int) -> Iterator[tuple[int, int, Laid | None]]:
    """The frames from ``first`` up to ``last`` in stretches over which one thing lies, or none."""
    edges = {first, last, *(at for a, b, _ in laid for at in (a, b) if first < at < last)}
    for start, end in pairwise(sorted(edges)):
        found = latest(laid, start, end)
        yield start, end, found[2] if found else None


def colours_of(look: Grade | None) -> Grade | None:
    """What of a look is done to each pixel by itself."""
    return look.colours if look and look.changes_colours else None


def corners_of(look: Grade | None) -> Corners | None:
    """How a look darkens the corners of the output."""
    return Corners(begin=CORNERS_FROM, dark=round(look.vignette * CORNERS_MOST, 4)) if look and look.vignette else None


def edges_of(look: Grade | None, height: int) -> Edges | None:
    """How a look sharpens a source so many pixels high."""
    if look is None or not look.sharpen:
        return None
    return Edges(amount=round(look.sharpen * EDGES_MOST, 4), sigma=round(height * EDGES_REACH, 4))
