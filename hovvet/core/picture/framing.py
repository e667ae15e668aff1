"""Where the picture of a source stands in the picture of the output."""

from collections.abc import Iterator
from dataclasses import dataclass, replace
from functools import lru_cache
from itertools import pairwise

import numpy as np
from numpy.typing import NDArray

from hovvet.core.picture.following import Axis, Followed
from hovvet.core.plan.model import Blur, Crop, PlaceKnot, Plain, place_at
from hovvet.core.sheet.contents.framing import Framing
from hovvet.core.sheet.contents.punch import Punch

FILL_DIVISOR = 10  # the fill is blurred at a tenth of the size: it looks the same and costs little
PUSH_LINES = 16  # straight lines that a slow push is made of
KNOT_FRAMES = 3  # frames from knot to knot while a window follows a face
FILL_SIGMA = 3.0  # pixels, at that size

Size = tuple[int, int]  # width, height in pixels


@dataclass(frozen=True)
class View:
    """The part of the source that is shown, where (one knot while it stands), and what is behind it."""

    crop: Crop
    place: tuple[PlaceKnot, ...]
    backdrop: Blur | Plain | None = None


@lru_cache(maxsize=512)
def framed(framing: Framing, source: Size, output: Size) -> View:
    """How ``source`` (as shown, square pixels) stands in ``output``; one that follows a speaker, where none is known."""
    (sw, sh), (ow, oh) = source, output
    whole = Crop(x=0, y=0, width=sw, height=sh)
    middle = PlaceKnot(frame=0, x=ow / 2, y=oh / 2, width=float(ow))
    if framing.mode != "fit":
        focus = (framing.across, framing.down) if framing.mode == "fill" else (0.5, 0.5)
        return View(covering(source, output, focus), (middle,))
    width = float(ow) if sw * oh >= ow * sh else oh * sw / sh
    place = middle.model_copy(update={"width": width})
    if sw * oh == ow * sh:
        return View(whole, (place,))
    if framing.colour is not None:
        return View(whole, (place,), Plain(colour=framing.colour))
    blur = Blur(
        crop=covering(source, output, (0.5, 0.5)),
        width=_even(ow / FILL_DIVISOR),
        height=_even(oh / FILL_DIVISOR),
        sigma=FILL_SIGMA,
    )
    return View(whole, (place,), blur)


def window(source: Size, output: Size) -> tuple[Axis, float] | None:
    """Along which side of the source the output sees only a part of it, and how much; None where it sees all."""
    crop = covering(source, output, (0.5, 0.5))
    if crop.width < source[0] - 1:
        return "x", crop.width / source[0]
    return ("y", crop.height / source[1]) if crop.height < source[1] - 1 else None


def followed(path: Followed, axis: Axis, source: Size, output: Size, first: int) -> Iterator[tuple[int, int, View]]:
    """(first frame, one past last, view) of a window that follows a face from output frame ``first`` on: crops that stand,
    and the whole picture moved while it moves."""
    (sw, sh), (ow, oh) = source, output
    crop = covering(source, output, (0.5, 0.5))
    spare = sw - crop.width if axis == "x" else sh - crop.height
    length, side = (sw, crop.width) if axis == "x" else (sh, crop.height)
    offsets = np.clip(path.centres * length - side / 2, 0, spare)
    for a, b, stands in _runs(offsets, path.shot):
        if stands:
            off = _whole(offsets[a])
            shown = crop.model_copy(update={"x": off} if axis == "x" else {"y": off})
            yield first + a, first + b, View(shown, (PlaceKnot(frame=0, x=ow / 2, y=oh / 2, width=float(ow)),))
            continue
        # It leaves from and comes to whole pixels, where the crops beside it stand.
        ends = [_whole(offsets[k]) - offsets[k] for k in (a, b - 1)]
        moved = offsets[a:b] + np.linspace(ends[0], ends[1], b - a)
        scale = ow / crop.width
        knots = tuple(
            PlaceKnot(
                frame=first + a + k,
                x=round(float(sw / 2 - (moved[k] if axis == "x" else crop.x)) * scale, 3),
                y=round(float(sh / 2 - (moved[k] if axis == "y" else crop.y)) * scale, 3),
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


def closer(view: View, output: Size, first: int, last: int, punch: Punch) -> View:
    """A view seen closer from frame ``first`` up to ``last``. The point that it goes towards stays in its place, so that the
    picture never uncovers what it covered."""
    own = view.place[0]
    high = own.width * view.crop.height / view.crop.width
    if len(view.place) > 1:  # it moves: what stays is a point of the output
        x, y = punch.across * output[0], punch.down * output[1]
    else:
        x, y = own.x + (punch.across - 0.5) * own.width, own.y + (punch.down - 0.5) * high

    def at(frame: int, times: float) -> PlaceKnot:
        place = place_at(view.place, frame)
        return place.model_copy(
            update={
                "frame": frame,
                "x": round(x + (place.x - x) * times, 3),
                "y": round(y + (place.y - y) * times, 3),
                "width": round(place.width * times, 3),
            }
        )

    moves = {knot.frame for knot in view.place} if len(view.place) > 1 else set()
    if punch.move == "at once" or last - first < 2:
        return replace(view, place=tuple(at(frame, punch.amount) for frame in sorted(moves or {first})))
    frames = sorted(moves | {first + (last - 1 - first) * n // PUSH_LINES for n in range(PUSH_LINES + 1)})

    def times(frame: int) -> float:
        return 1 + (punch.amount - 1) * _eased(min(max((frame - first) / (last - 1 - first), 0.0), 1.0))

    return replace(view, place=tuple(at(frame, times(frame)) for frame in frames))


def _eased(part: float) -> float:
    """From 0 to 1, gently at both ends."""
    return part * part * (3 - 2 * part)


def covering(source: Size, output: Size, focus: tuple[float, float]) -> Crop:
    """The largest part of the source in the shape of the output, with even sides, as near to the focus as can be."""
    (sw, sh), (ow, oh) = source, output
    cover = max(ow / sw, oh / sh)
    width, height = min(_even(ow / cover), sw - sw % 2), min(_even(oh / cover), sh - sh % 2)
    x = min(max(focus[0] * sw - width / 2, 0), sw - width)
    y = min(max(focus[1] * sh - height / 2, 0), sh - height)
    return Crop(x=int(x) // 2 * 2, y=int(y) // 2 * 2, width=max(width, 2), height=max(height, 2))


def _even(value: float) -> int:
    return max(2, int(value / 2 + 0.5) * 2)
