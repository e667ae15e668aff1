"""Pictures over words: where they stand and how they move, and what of a recording is seen when."""

from collections.abc import Iterator
from typing import NamedTuple

from hovvet.core.compile.framing import CORNER_ROUND, PUSH_LINES, Free, View, covering, eased, framed, in_corner
from hovvet.core.picture.strip import Size
from hovvet.core.plan.model import Crop, PlaceKnot, TimeKnot, Window
from hovvet.core.sheet.contents.broll import Broll
from hovvet.core.sheet.contents.framing import Framing

CORNER_SHAPE = 9 / 16  # of a picture in a corner: its height to its width
_NEAR = 1.02  # times as wide as its window a picture has to be, to be placed so
CLOSER = 1.15  # times as large a still is when it has come closer


def view_of(
    broll: Broll, size: Size, output: Size, first: int, last: int, is_still: bool, safe: Free = (0, 0, 0, 0)
) -> View:
    """How a picture of ``size`` stands in the output from frame ``first`` up to ``last``."""
    if broll.fit == "in a corner":
        return _within_window(broll, size, _corner(broll, output, safe))
    if broll.fit in ("upper or left half", "lower or right half"):
        return _within_window(broll, size, _half(output, broll.fit == "lower or right half"))
    if broll.fit == "whole":
        return framed(Framing(), size, output)
    (sw, sh), (ow, oh) = size, output
    if not is_still or broll.move == "stands still":
        return framed(Framing(mode="fill", across=broll.across, down=broll.down), size, output)
    frames = sorted({first + (last - 1 - first) * n // PUSH_LINES for n in range(PUSH_LINES + 1)})
    if broll.move == "from part to part":
        parts = parts_of(broll, size, output)
        return View(
            Crop(x=0, y=0, width=sw, height=sh),
            tuple(_between(*parts, eased((n - first) / max(last - 1 - first, 1)), n, size, output) for n in frames),
        )
    scale = max(ow / sw, oh / sh)
    width, height = sw * scale, sh * scale
    focus = covering(size, output, (broll.across, broll.down))
    # Where the middle of the picture stands when the focus is in the middle of the output.
    x, y = ow / 2 + (sw / 2 - focus.x - focus.width / 2) * scale, oh / 2 + (sh / 2 - focus.y - focus.height / 2) * scale

    def at(frame: int) -> PlaceKnot:
        part = eased((frame - first) / max(last - 1 - first, 1))
        if broll.move in ("to the left", "goes away"):
            part = 1 - part
        if broll.move in ("comes closer", "goes away"):
            times = 1 + (CLOSER - 1) * part
            px, py = ow / 2 + (x - ow / 2) * times, oh / 2 + (y - oh / 2) * times
            return PlaceKnot(frame=frame, x=round(px, 3), y=round(py, 3), width=round(width * times, 3))
        if width > ow + 1:
            return PlaceKnot(
                frame=frame, x=round(width / 2 + part * (ow - width), 3), y=round(y, 3), width=round(width, 3)
            )
        return PlaceKnot(
            frame=frame, x=round(x, 3), y=round(height / 2 + part * (oh - height), 3), width=round(width, 3)
        )

    return View(Crop(x=0, y=0, width=sw, height=sh), tuple(at(frame) for frame in frames))


class Part(NamedTuple):
    """A part of a picture that fills the output: its middle, and its width, in pixels of the picture."""

    x: float
    y: float
    width: float


def parts_of(broll: Broll, size: Size, output: Size) -> tuple[Part, Part]:
    """The parts of a picture of ``size`` with which a moving still begins and ends; never beyond its edges."""
    first = _within(size, output, broll.from_across, broll.from_down, broll.from_size)
    return first, _within(size, output, broll.to_across, broll.to_down, broll.to_size)


def _within(size: Size, output: Size, across: float, down: float, share: float) -> Part:
    (sw, sh), (ow, oh) = size, output
    width = min(sw, sh * ow / oh) * share
    height = width * oh / ow
    x, y = (
        min(max(at * side, part / 2), side - part / 2) for at, side, part in ((across, sw, width), (down, sh, height))
    )
    return Part(x, y, width)


def _between(a: Part, b: Part, share: float, frame: int, size: Size, output: Size) -> PlaceKnot:
    """Where the whole picture stands while what is ``share`` of the way from one part to the other fills the output."""
    x, y, width = (p + (q - p) * share for p, q in zip(a, b, strict=True))
    scale = output[0] / width
    return PlaceKnot(
        frame=frame,
        x=round(output[0] / 2 + (size[0] / 2 - x) * scale, 3),
        y=round(output[1] / 2 + (size[1] / 2 - y) * scale, 3),
        width=round(size[0] * scale, 3),
    )


def _corner(broll: Broll, output: Size, safe: Free) -> Window:
    left, top, right, bottom = safe
    room = output[0] - left - right, output[1] - top - bottom
    width = int(min(output[0] * broll.small, room[0], room[1] / CORNER_SHAPE)) // 2 * 2
    height = int(width * CORNER_SHAPE) // 2 * 2
    x, y = (int(at) // 2 * 2 for at in in_corner(broll.corner, (width, height), output, safe))
    return Window(x=x, y=y, width=width, height=height, radius=int(width * CORNER_ROUND))


def _half(output: Size, second: bool) -> Window:
    """One half of the output, split along its longer side, on even pixels."""
    width, height = output
    if width > height:
        left = width // 4 * 2
        return Window(x=left if second else 0, y=0, width=width - left if second else left, height=height)
    top = height // 4 * 2
    return Window(x=0, y=top if second else 0, width=width, height=height - top if second else top)


def _within_window(broll: Broll, size: Size, window: Window) -> View:
    """A picture that fills a window around its point."""
    crop = covering(size, (window.width, window.height), (broll.across, broll.down))
    # A very small picture has sides of few pixels: its part is not just of the window's shape.
    width = max(float(window.width), round(window.height * crop.width / crop.height, 3))
    width = width if width > window.width * _NEAR else float(window.width)
    place = PlaceKnot(frame=0, x=window.x + window.width / 2, y=window.y + window.height / 2, width=width)
    return View(crop, (place,), window=window)


def shown(
    broll: Broll, length: float, fps: float, first: int, last: int
) -> Iterator[tuple[int, int, tuple[TimeKnot, ...]]]:
    """(from frame, up to frame, knots) of a recording of ``length`` seconds over the frames ``first`` up to ``last``."""
    begins = min(broll.start, max(length - 1 / fps, 0.0)) * fps
    has = max(int(length * fps - begins), 1)  # whole frames that there are from there on
    wanted = last - first
    if has >= wanted:
        yield first, last, (TimeKnot(frame=first, source=round(begins, 3)),)
    elif broll.short == "slowed down":
        yield (
            first,
            last,
            (TimeKnot(frame=first, source=round(begins, 3)), TimeKnot(frame=last, source=round(begins + has, 3))),
        )
    elif broll.short == "looped":
        for at in range(first, last, has):
            yield at, min(at + has, last), (TimeKnot(frame=at, source=round(begins, 3)),)
    else:
        yield first, first + has, (TimeKnot(frame=first, source=round(begins, 3)),)
        if broll.short == "held":
            still = round(begins + has - 1, 3)
            yield first + has, last, (TimeKnot(frame=first + has, source=still), TimeKnot(frame=last, source=still))
