"""What holds between the knots of a plan: a frame of a source, a value, a place."""

from bisect import bisect_right
from collections.abc import Sequence

from hovvet.core.plan.model import Knot, PlaceKnot, TimeKnot

_PLACES = 6  # decimals of what lies between knots: the same wherever in the clip that is


def source_frame(knots: Sequence[TimeKnot], frame: int) -> int:
    """Which frame of its source a video shows at an output frame; past the first and last knot it goes on at their
    pace."""
    if len(knots) == 1:
        return int(knots[0].source) + frame - knots[0].frame
    n = min(max(bisect_right(knots, frame, key=_frame_of) - 1, 0), len(knots) - 2)
    a, b = knots[n], knots[n + 1]
    at = a.source + (frame - a.frame) * (b.source - a.source) / (b.frame - a.frame)
    return int(at + 0.5) if at >= 0 else 0


def _frame_of(knot: TimeKnot) -> int:
    return knot.frame


def value_at(knots: Sequence[Knot], at: int) -> float:
    """The value at a frame or sample: straight lines between knots, level before the first and after the last; 1
    without any."""
    if not knots:
        return 1.0
    n = bisect_right(knots, at, key=lambda knot: knot.at)
    if n == 0:
        return knots[0].value
    if n == len(knots):
        return knots[-1].value
    a, b = knots[n - 1], knots[n]
    return round(a.value + (b.value - a.value) * (at - a.at) / (b.at - a.at), _PLACES)


def place_at(knots: Sequence[PlaceKnot], frame: int) -> PlaceKnot:
    """Where a layer stands at a frame: straight lines between knots, still before the first and after the last."""
    n = bisect_right(knots, frame, key=lambda knot: knot.frame)
    if n == 0:
        return knots[0]
    if n == len(knots):
        return knots[-1]
    a, b = knots[n - 1], knots[n]
    part = (frame - a.frame) / (b.frame - a.frame)
    return PlaceKnot(
        frame=frame,
        x=round(a.x + (b.x - a.x) * part, _PLACES),
        y=round(a.y + (b.y - a.y) * part, _PLACES),
        width=round(a.width + (b.width - a.width) * part, _PLACES),
        turn=round(a.turn + (b.turn - a.turn) * part, _PLACES),
    )
