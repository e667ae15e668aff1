"""Progress bars as shapes of the script."""

from collections.abc import Iterator
from typing import NamedTuple

from hovvet.core.captions.ass import Shape
from hovvet.core.captions.notation import rounded
from hovvet.core.plan.outlets import Outlet
from hovvet.core.sheet.contents.progress import Progress
from hovvet.core.time import Rate

_PART = 5.0  # seconds of the longest part that it is drawn in: a chunk's script reaches back no further than twice that
_REST = "#FFFFFF"


class _Bar(NamedTuple):
    """Where it stands in the output, in pixels."""

    left: int
    top: int
    width: int
    height: int


def bar_of(progress: Progress, outlet: Outlet) -> _Bar:
    """Where a whole bar stands."""
    height = max(round(progress.thickness * outlet.height / 2) * 2, 2)
    if progress.place == "inside, at the top":
        left, top, right, _ = outlet.safe
        return _Bar(left, top, outlet.width - left - right, height)
    return _Bar(0, 0 if progress.place == "along the top" else outlet.height - height, outlet.width, height)


def progress_shapes(progress: Progress, first: int, last: int, outlet: Outlet, rate: Rate) -> Iterator[Shape]:
    """What of a bar is to come, and what has been, from frame ``first`` up to ``last``; it is full at its end."""
    bar = bar_of(progress, outlet)
    radius = bar.height / 2 if progress.place.startswith("inside") else 0
    drawing = rounded(bar.width, bar.height, radius)
    bottom = bar.top + bar.height
    if progress.rest:
        yield Shape(first, last, bar.left, bar.top, _REST, progress.rest, "", drawing)
    step = max(rate.frame(_PART), 1)
    for begin in range(first, last, step):
        end = min(begin + step, last)
        a, b = (bar.left + round(bar.width * (at - first) / (last - first)) for at in (begin, end))
        lasts = round(rate.seconds(end - begin) * 1000)
        grows = f"\\clip({bar.left},{bar.top},{a},{bottom})\\t(0,{lasts},\\clip({bar.left},{bar.top},{b},{bottom}))"
        yield Shape(begin, end, bar.left, bar.top, progress.colour, 1.0, grows, drawing)
