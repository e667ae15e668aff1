"""Where the picture of a source stands in the picture of the output."""

from collections.abc import Iterator
from dataclasses import dataclass, replace
from functools import lru_cache
from itertools import pairwise

import numpy as np
from numpy.typing import NDArray

from hovvet.core.picture.following import Axis, Followed
from hovvet.core.picture.strip import Size
from hovvet.core.plan.knots import place_at
from hovvet.core.plan.model import Blur, Crop, Pictured, PlaceKnot, Plain, Window
from hovvet.core.sheet.contents.framing import Framing
from hovvet.core.sheet.contents.punch import Punch
from hovvet.core.value import with_changes

FILL_DIVISOR = 10  # the fill is blurred at a tenth of the size: it looks the same and costs little
PUSH_LINES = 16  # straight lines that a slow push is made of
KNOT_FRAMES = 3  # frames from knot to knot while a window follows a face
FILL_SIGMA = 3.0  # pixels, at that size

# The small picture in a corner: its height and radius in parts of its width, its distance from the edges in parts of the output's.
CORNER_SHAPE, CORNER_ROUND, CORNER_GAP = 1.2, 0.12, 0.05


@dataclass(frozen=True)
class View:
    """The part of the source that is shown, where (one knot while it stands), what is behind it, and in which part of the
    output alone it is seen."""

    crop: Crop
    place: tuple[PlaceKnot, ...]
    backdrop: Blur | Plain | Pictured | None = None
    window: Window | None = None
    mirrored: bool = False


@lru_cache(maxsize=512)
def framed(framing: Framing, source: Size, output: Size) -> View:
    """How ``source`` (as shown, square pixels) stands in ``output``; one that follows a speaker, where none is known."""
    (sw, sh), (ow, oh) = source, output
    middle = PlaceKnot(frame=0, x=ow / 2, y=oh / 2, width=float(ow))
    if framing.mode in ("fill", "speaker"):
        focus = (framing.across, framing.down) if framing.mode == "fill" else (0.5, 0.5)
        return View(covering(source, output, focus), (middle,), mirrored=framing.mode == "fill" and framing.mirrored)
    fitting = float(ow) if sw * oh >= ow * sh else oh * sw / sh
    if framing.mode == "by hand":
        place = PlaceKnot(frame=0, x=framing.x * ow, y=framing.y * oh, width=fitting * framing.scale, turn=framing.turn)
    else:
        place = with_changes(middle, width=fitting * (1 - framing.padding))
    rounded = _rounded(place, source, output, framing.rounded)
    covers = framing.mode == "fit" and sw * oh == ow * sh and not framing.padding and rounded is None
    return View(
        Crop(x=0, y=0, width=sw, height=sh),
        (place,),
        None if covers else _behind(framing, source, output),
        rounded,
        framing.mirrored,
    )


def _behind(framing: Framing, source: Size, output: Size) -> Blur | Plain:
    if framing.colour is not None:
        return Plain(colour=framing.colour)
    return Blur(
        crop=covering(source, output, (0.5, 0.5)),
        width=_even(output[0] / FILL_DIVISOR),
        height=_even(output[1] / FILL_DIVISOR),
        sigma=FILL_SIGMA,
    )


def _rounded(place: PlaceKnot, source: Size, output: Size, share: float) -> Window | None:
    """The part of the output that an upright picture covers, with round corners; None where they are not wanted."""
    high = place.width * source[1] / source[0]
    x0, x1 = (_even_at(place.x + side * place.width / 2, output[0]) for side in (-1, 1))
    y0, y1 = (_even_at(place.y + side * high / 2, output[1]) for side in (-1, 1))
    if not share or place.turn or x1 - x0 < 2 or y1 - y0 < 2:
        return None
    return Window(x=x0, y=y0, width=x1 - x0, height=y1 - y0, radius=int(share * min(x1 - x0, y1 - y0)))


def _even_at(value: float, most: int) -> int:
    return min(max(int(value / 2 + 0.5) * 2, 0), most)


Free = tuple[int, int, int, int]  # pixels kept free at the left, top, right and bottom


@dataclass(frozen=True)
class Pane:
    """A part of the output that shows a part of the source of its own: as large as it is, ``closeness`` times closer."""

    window: Window
    closeness: float = 1.0

    @property
    def size(self) -> Size:
        """In pixels of the output."""
        return self.window.width, self.window.height

    def crop(self, source: Size, focus: tuple[float, float] = (0.5, 0.5)) -> Crop:
        """What of the source it shows, as near to the focus as can be."""
        return covering(source, self.size, focus, self.closeness)

    def sees(self, source: Size) -> tuple[Axis, float] | None:
        """Along which side of the source it sees only a part of it, and how much; None where it sees all."""
        crop = self.crop(source)
        if crop.width < source[0] - 1:
            return "x", crop.width / source[0]
        return ("y", crop.height / source[1]) if crop.height < source[1] - 1 else None


def whole(output: Size) -> Pane:
    """All of the output."""
    return Pane(Window(x=0, y=0, width=output[0], height=output[1]))


def panes(framing: Framing, output: Size) -> tuple[Pane, Pane]:
    """The two parts of the output that show two speakers."""
    (ow, oh), near = output, framing.closeness
    if framing.arrange == "one above the other":
        half = oh // 4 * 2
        return Pane(Window(x=0, y=0, width=ow, height=half), near), Pane(
            Window(x=0, y=half, width=ow, height=oh - half), near
        )
    if framing.arrange == "side by side":
        half = ow // 4 * 2
        return Pane(Window(x=0, y=0, width=half, height=oh), near), Pane(
            Window(x=half, y=0, width=ow - half, height=oh), near
        )
    side = _even(ow * framing.small)
    high, gap = _even(side * CORNER_SHAPE), _even(ow * CORNER_GAP)
    x, y = in_corner(framing.corner, (side, high), output, (gap, gap, gap, gap))
    small = Window(x=int(x), y=int(y), width=side, height=high, radius=int(side * CORNER_ROUND))
    return whole(output), Pane(small, near)


def rim(window: Window, share: float, output: Size) -> Window:
    """A window with a border around it, ``share`` of the output's width wide on each side, on even pixels."""
    wide = _even(output[0] * share)
    return Window(
        x=window.x - wide,
        y=window.y - wide,
        width=window.width + 2 * wide,
        height=window.height + 2 * wide,
        radius=window.radius + wide if window.radius else 0,
    )


def in_corner(corner: str, size: tuple[float, float], output: Size, free: Free) -> tuple[float, float]:
    """Where the left top of something of ``size`` is when it stands in a corner, such as "top left"."""
    left, top, right, bottom = free
    up, side = corner.split()
    x = left if side == "left" else output[0] - right - size[0]
    return x, top if up == "top" else output[1] - bottom - size[1]


def followed(
    path: Followed, axis: Axis, source: Size, pane: Pane, first: int, down: float = 0.5
) -> Iterator[tuple[int, int, View]]:
    """(first frame, one past last, view) of a pane that follows a face from output frame ``first`` on: crops that stand,
    and the whole picture moved while it moves. ``down``: where it is seen from top to bottom while it goes to the sides."""
    (sw, sh), (width, height) = source, pane.size
    crop = pane.crop(source, (0.5, down))
    x, y = pane.window.x + width / 2, pane.window.y + height / 2
    spare = sw - crop.width if axis == "x" else sh - crop.height
    length, side = (sw, crop.width) if axis == "x" else (sh, crop.height)
    offsets = np.clip(path.centres * length - side / 2, 0, spare)
    for a, b, stands in _runs(offsets, path.shot):
        if stands:
            off = _whole(offsets[a])
            shown = with_changes(crop, **({"x": off} if axis == "x" else {"y": off}))
            yield first + a, first + b, View(shown, (PlaceKnot(frame=0, x=x, y=y, width=float(width)),))
            continue
        # It leaves from and comes to whole pixels, where the crops beside it stand.
        ends = [_whole(offsets[k]) - offsets[k] for k in (a, b - 1)]
        moved = offsets[a:b] + np.linspace(ends[0], ends[1], b - a)
        scale = width / crop.width
        knots = tuple(
            PlaceKnot(
                frame=first + a + k,
                x=round(float(x + (sw / 2 - crop.width / 2 - (moved[k] if axis == "x" else crop.x)) * scale), 3),
                y=round(float(y + (sh / 2 - crop.height / 2 - (moved[k] if axis == "y" else crop.y)) * scale), 3),
                width=round(sw * scale, 3),
            )
            for k in sorted({*range(0, b - a, KNOT_FRAMES), b - a - 1})
        )
        yield first + a, first + b, View(Crop(x=0, y=0, width=sw, height=sh), knots)


def _runs(offsets: NDArray[np.float64], shot: NDArray[np.int64]) -> Iterator[tuple[int, int, bool]]:
    """(first, one past last, whether it stands) of stretches that stand or move, never over a cut."""
    cut = np.diff(shot) != 0
    still = np.concatenate([(np.abs(np.diff(offsets)) < 1e-3) | cut, [True]])
    edges = [0, *(np.flatnonzero((np.diff(still.astype(int)) != 0) | cut) + 1), len(offsets)]
    for a, b in pairwise(edges):
        if b > a:
            yield int(a), int(b), bool(still[a]) or b - a == 1


def _whole(offset: float) -> int:
    return int(offset) // 2 * 2


def panned(
    view: View, framing: Framing, source: Size, output: Size, span: tuple[int, int], shown: tuple[int, int]
) -> View:
    """A view that goes from one side of the source to the other over the frames of a ``span``, gently at both ends; of
    those the frames ``shown`` are seen. Where the source is too tall instead of too wide it goes from top to bottom."""
    (sw, sh), (ow, oh) = source, output
    scale = max(ow / sw, oh / sh)
    width, height = sw * scale, sh * scale
    begin, end = span

    def at(frame: int) -> PlaceKnot:
        part = eased(min(max((frame - begin) / max(end - 1 - begin, 1), 0.0), 1.0))
        if framing.pan == "to the left":
            part = 1 - part
        x, y = (
            (width / 2 + part * (ow - width), oh / 2) if width > ow + 1 else (ow / 2, height / 2 + part * (oh - height))
        )
        return PlaceKnot(frame=frame, x=round(x, 3), y=round(y, 3), width=round(width, 3))

    inner = {begin + (end - 1 - begin) * n // PUSH_LINES for n in range(PUSH_LINES + 1)}
    frames = sorted({shown[0], shown[1] - 1} | {frame for frame in inner if shown[0] < frame < shown[1] - 1})
    return replace(view, crop=Crop(x=0, y=0, width=sw, height=sh), place=tuple(at(frame) for frame in frames))


def closer(
    view: View, output: Size, first: int, last: int, punch: Punch, face: tuple[float, float] | None = None
) -> View:
    """A view seen closer from frame ``first`` up to ``last``. The point that it goes towards (a ``face``, in pixels of the
    source) stays in its place, so that the picture never uncovers what it covered."""
    own = view.place[0]
    seen = view.window or whole(output).window
    high = own.width * view.crop.height / view.crop.width
    if face is not None:
        there, scale = place_at(view.place, (first + last) // 2), own.width / view.crop.width
        across = (face[0] - view.crop.x - view.crop.width / 2) * scale
        x = there.x - across if view.mirrored else there.x + across
        y = there.y + (face[1] - view.crop.y - view.crop.height / 2) * scale
        x, y = min(max(x, seen.x), seen.x + seen.width), min(max(y, seen.y), seen.y + seen.height)
    elif len(view.place) > 1:  # it moves: what stays is a point of the output
        x, y = seen.x + punch.across * seen.width, seen.y + punch.down * seen.height
    else:
        x, y = own.x + (punch.across - 0.5) * own.width, own.y + (punch.down - 0.5) * high

    def at(frame: int, times: float) -> PlaceKnot:
        place = place_at(view.place, frame)
        return with_changes(
            place,
            frame=frame,
            x=round(x + (place.x - x) * times, 3),
            y=round(y + (place.y - y) * times, 3),
            width=round(place.width * times, 3),
        )

    moves = {knot.frame for knot in view.place} if len(view.place) > 1 else set()
    if punch.move == "at once" or last - first < 2:
        return replace(view, place=tuple(at(frame, punch.amount) for frame in sorted(moves or {first})))
    frames = sorted(moves | {first + (last - 1 - first) * n // PUSH_LINES for n in range(PUSH_LINES + 1)})

    def times(frame: int) -> float:
        return 1 + (punch.amount - 1) * eased(min(max((frame - first) / (last - 1 - first), 0.0), 1.0))

    return replace(view, place=tuple(at(frame, times(frame)) for frame in frames))


def eased(part: float) -> float:
    """From 0 to 1, gently at both ends."""
    return part * part * (3 - 2 * part)


def covering(source: Size, output: Size, focus: tuple[float, float], closeness: float = 1.0) -> Crop:
    """The largest part of the source in the shape of the output, or one ``closeness`` times smaller, with even sides, as
    near to the focus as can be."""
    (sw, sh), (ow, oh) = source, output
    cover = max(ow / sw, oh / sh) * closeness
    width, height = min(_even(ow / cover), sw - sw % 2), min(_even(oh / cover), sh - sh % 2)
    x = min(max(focus[0] * sw - width / 2, 0), sw - width)
    y = min(max(focus[1] * sh - height / 2, 0), sh - height)
    return Crop(x=int(x) // 2 * 2, y=int(y) // 2 * 2, width=max(width, 2), height=max(height, 2))


def _even(value: float) -> int:
    return max(2, int(value / 2 + 0.5) * 2)
