"""Music brought to a length with its own beginning and ending: bars are left out or repeated where that is heard least."""

from functools import lru_cache
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from hovvet.core.sound.beats import Beats
from hovvet.core.spans import Span

MOST = 0.025  # by so much it may be stretched
_BAR = 4  # beats
_KEPT = 4  # beats of its beginning and of its ending that stay
_TIMES, _MORE = 60, 3  # that a part is repeated at most, and more often than it has to be
_UNEVEN = 1.2  # dB between what comes at a join, and what would have come
_LATE, _AGAIN = 0.15, 0.1  # what it costs to begin a beat later, and to hear a part once more
_HARSH = 1.2  # a join that costs more is heard
Floats = NDArray[np.float64]


class Fit(NamedTuple):
    """What of a piece is heard, one part after the other (seconds), all of it ``stretch`` times as long."""

    parts: tuple[Span, ...]
    stretch: float


@lru_cache(maxsize=256)
def fitted(beats: Beats, wanted: float) -> Fit | None:
    """A piece brought to ``wanted`` seconds; None where it has no beat, or cannot be brought there without being heard. Where
    bars alone do not come near enough, it begins up to three beats later."""
    if beats.ends and abs(wanted / beats.ends - 1) <= MOST / 4:
        return Fit(((0.0, beats.ends),), wanted / beats.ends)
    at = np.array(beats.times)
    if len(at) < 2 * _KEPT + _BAR or wanted <= 0:
        return None
    shorter = wanted < beats.ends
    joins = _joins(beats, shorter)
    least = 1 if shorter else int((wanted - beats.ends) // (at[-_KEPT] - at[_BAR])) + 1
    best: tuple[float, Fit] | None = None
    for late in range(_BAR):
        begin = float(at[late]) if late else 0.0
        for times in (1,) if shorter else range(least, min(least + _MORE, _TIMES) + 1):
            apart = times * (
                at[:, None] - at[None, :]
            )  # what is left out, or heard again, where it goes on from i with j
            stretch = wanted / np.maximum(beats.ends - begin + apart, 1e-3)
            costs = np.where(np.abs(stretch - 1) <= MOST, joins + 8 * np.abs(stretch - 1), np.inf)
            costs += _LATE * late + _AGAIN * (times - 1)
            i, j = (int(n) for n in np.unravel_index(int(np.argmin(costs)), costs.shape))
            if costs[i, j] <= _HARSH + _AGAIN * (times - 1) and (best is None or costs[i, j] < best[0]):
                back = () if shorter else ((float(at[j]), float(at[i])),) * (times - 1)
                parts = ((begin, float(at[i])), *back, (float(at[j]), beats.ends))
                best = float(costs[i, j]), Fit(parts, float(stretch[i, j]))
    return best[1] if best else None


@lru_cache(maxsize=16)
def _joins(beats: Beats, shorter: bool) -> Floats:
    """How much a join from one beat on with another is heard: other notes, another level, another place in the bar. Infinite
    for what cannot be."""
    chroma, level = np.array(beats.chroma), np.array(beats.level)
    notes = 1 - chroma @ chroma.T  # between what would come at i, and what comes at j instead
    before = np.roll(np.roll(notes, 1, 0), 1, 1)
    n = np.arange(len(level))
    apart = n[None, :] - n[:, None]
    uneven = np.abs(level[:, None] - level[None, :])
    costs: Floats = notes + 0.5 * before + uneven / 6 + (apart % _BAR != 0) * 0.5
    if shorter:
        able = (n[:, None] >= _KEPT) & (n[None, :] <= len(n) - _KEPT) & (apart > 0)
    else:
        able = (n[:, None] <= len(n) - _KEPT) & (n[None, :] >= _BAR) & (apart <= -_BAR)
    return np.where(able & (uneven <= _UNEVEN), costs, np.inf)
