"""Where things may stand on screen while they are moved by hand. The page follows the pointer by the same rules
(``web/src/stage/seen.ts``, held by ``tests/golden/placing.json``)."""

from collections.abc import Sequence
from typing import NamedTuple

from hovvet.core.compile.scene import Box
from hovvet.core.value import SNAP_LINES, SNAP_WITHIN
from hovvet.core.view.rows import Bar

_STEPS = 1000  # in which places and sizes are told: thousandths of the output


class Edge(NamedTuple):
    """A line that something's edge may stand on: where its middle is then, and where the line is."""

    at: float
    line: float


def within(value: float, least: float, most: float) -> float:
    """A value within its limits, in thousandths."""
    return int(min(max(value, least), most) * _STEPS + 0.5) / _STEPS


def edges_of(size: float, free: tuple[float, float]) -> tuple[Edge, Edge]:
    """The lines on which the edges of something of a size may stand: those of the safe area, from one to the other."""
    return Edge(free[0] + size / 2, free[0]), Edge(free[1] - size / 2, free[1])


def snapped(value: float, least: float, most: float, edges: Sequence[Edge] = ()) -> tuple[float, float | None]:
    """A value within its limits, drawn to the middle or a third of the output, or to an edge, that it is near to; and
    that line (None for none)."""
    lines = [*(Edge(line, line) for line in SNAP_LINES), *edges]
    near = next((each for each in lines if abs(each.at - value) < SNAP_WITHIN), None)
    return within(near.at if near else value, least, most), near.line if near else None


def overlapping(bars: Sequence[Bar], layer: str, box: Box) -> str | None:
    """The first layer that stands on screen where a ``box`` is, while a layer is there; None where none does."""
    own = next((each for each in bars if each.layer == layer), None)
    starts, ends = (own.start or 0.0, own.end or 0.0) if own else (0.0, 0.0)
    for bar in bars:
        other = bar.box
        if other is None or bar.layer == layer or not ((bar.start or 0.0) < ends and (bar.end or 0.0) > starts):
            continue
        if box.meets(other):
            return bar.layer
    return None
