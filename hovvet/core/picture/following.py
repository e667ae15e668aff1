"""How a calm operator keeps a face in view: still while it stays near the middle, eased moves when it leaves that."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from itertools import pairwise
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from hovvet.core.picture.faces import Faces, Floats, Track
from hovvet.core.picture.talking import Watched

Axis = Literal["x", "y"]
_ZONE = 0.36  # of the window: the face may wander over this much before the frame moves
_FASTEST = 0.5  # windows a second
_QUICKEST = 0.8  # seconds: no move is shorter


@dataclass(frozen=True)
class Followed:
    """Where the middle of the window is for each frame, in shares of the picture; frames with another number of ``shot``
    are of another view, with nothing moving between them. ``known``: a face was found for some of them."""

    centres: Floats
    shot: NDArray[np.int64]
    known: bool


def follow(faces: Faces, whom: Sequence[Watched], axis: Axis, window: float, seconds: Floats) -> Followed:
    """Follow faces over the moments of the recording that output frames show.

    Parameters
    ----------
    window : share of the picture's width (``x``) or height (``y``) that is seen
    seconds : shape (frames,), moments of the recording, rising or standing

    The frame stands still while a face stays within the middle third, and moves at no more than half a window a second.
    Where no face is known it stays where it was; without any, in the middle.
    """
    centres = np.full(len(seconds), 0.5)
    shot = np.zeros(len(seconds), np.int64)
    if not len(seconds):
        return Followed(centres, shot, False)
    begins = np.array([each.start for each in whom])
    of = np.maximum(np.searchsorted(begins, seconds, side="right") - 1, 0)
    last, known = 0.5, False
    for n in np.unique(of):
        members = np.flatnonzero(of == n)
        shot[members] = n
        track = whom[n].track
        if track is not None:
            own = seconds[members]
            knots = calm(*_seen(faces, track, axis, float(own[0]), float(own[-1])), window)
            centres[members] = _along(knots, own, window)
            known = True
        else:
            centres[members] = last
        last = float(centres[members[-1]])
    half = window / 2
    return Followed(np.clip(centres, half, 1 - half), shot, known)


def _seen(faces: Faces, track: Track, axis: Axis, start: float, end: float) -> tuple[Floats, Floats]:
    """Times and places of a face while it is watched, smoothed; the looks next to the stretch count too."""
    times, smooth = faces.moments[track.first : track.first + len(track.x)], track.smooth["xy".index(axis)]
    a = max(int(np.searchsorted(times, start, side="right")) - 1, 0)
    b = min(max(int(np.searchsorted(times, end, side="right")) + 1, a + 1), len(times))
    return times[a:b], smooth[a:b]


def calm(times: Floats, places: Floats, window: float) -> list[tuple[float, float]]:
    """Knots (seconds, place) between which the window goes: two alike are a stand."""
    stands = list(_stands(times, places, window * _ZONE))
    halves = [max(abs(b[2] - a[2]) * 1.5 / (_FASTEST * window), _QUICKEST) / 2 for a, b in pairwise(stands)]
    knots: list[tuple[float, float]] = []
    for n, (start, end, place) in enumerate(stands):
        begins = start + halves[n - 1] if n else start
        ends = end - halves[n] if n + 1 < len(stands) else end
        if begins < ends:
            knots += [(begins, place), (ends, place)]
        else:
            knots.append(((start + end) / 2, place))
    return [knot for n, knot in enumerate(knots) if n == 0 or knot[0] > knots[n - 1][0] + 1e-6]


def _stands(times: Floats, places: Floats, zone: float) -> Iterator[tuple[float, float, float]]:
    """(start, end, place) of the longest stretches in which a face stays within the zone."""
    first = 0
    low = high = float(places[0])
    for n in range(1, len(places) + 1):
        place = float(places[n]) if n < len(places) else None
        if place is not None and max(high, place) - min(low, place) <= zone:
            low, high = min(low, place), max(high, place)
            continue
        start = (times[first - 1] + times[first]) / 2 if first else times[first]
        end = (times[n - 1] + times[n]) / 2 if n < len(times) else times[n - 1]
        yield float(start), float(end), (low + high) / 2
        if place is not None:
            first, low, high = n, place, place


def _along(knots: Sequence[tuple[float, float]], seconds: Floats, window: float) -> Floats:
    """The places at some moments: gently from knot to knot (Fritsch and Carlson, 1980), never too fast."""
    if len(knots) == 1:
        return np.full(len(seconds), knots[0][1])
    from scipy.interpolate import PchipInterpolator  # here: slow to load, and seldom needed

    at, places = (np.array(each) for each in zip(*knots, strict=True))
    made: Floats = PchipInterpolator(at, places)(np.clip(seconds, at[0], at[-1])).round(6)
    steps = np.diff(seconds) * _FASTEST * 1.15 * window
    if np.all(np.abs(np.diff(made)) <= steps + 1e-9):
        return made
    for n in range(1, len(made)):
        made[n] = min(max(made[n], made[n - 1] - steps[n - 1]), made[n - 1] + steps[n - 1])
    return made
