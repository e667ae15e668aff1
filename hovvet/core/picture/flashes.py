"""Flashes that can bring on seizures, found in drawn frames.

After WCAG 2.2, success criterion 2.3.1 (three flashes or below threshold): a general flash is a pair of opposing changes of
relative luminance by a tenth or more of the most there is, the darker one below 0.8; a red flash a pair of opposing changes
that involve a saturated red (R/(R+G+B) >= 0.8) in which (R-G-B) * 320 changes by more than 20. They count where they take up a
quarter of any 10 degrees of the field of view, here a third of the frame's width and height, and come more than three times
within a second.
"""

from collections import deque
from collections.abc import Iterable

import numpy as np
from numpy.typing import NDArray

from hovvet.core.spans import Span

Floats = NDArray[np.float32]
Grid = NDArray[np.bool_]

_CHANGE, _DARK = 0.1, 0.8
_RED_CHANGE, _RED = 20.0 / 320, 0.8
_CHANGES = 7  # within a second are more than three pairs of them, the fourth begun
_FIELD, _PART = 3, 0.25  # the field is one of so many parts of the width and height; how much of it flashes
_EIGHT_BITS = np.arange(256) / 255
LINEAR: Floats = np.where(_EIGHT_BITS <= 0.04045, _EIGHT_BITS / 12.92, ((_EIGHT_BITS + 0.055) / 1.055) ** 2.4).astype(
    np.float32
)


def luminance(linear: Floats) -> Floats:
    """Relative luminance (0 to 1) of linear RGB, shape (..., 3)."""
    return linear @ np.array([0.2126, 0.7152, 0.0722], np.float32)


class _Changes:
    """Opposing changes of a value at each place of a grid, those of the last second."""

    def __init__(self, least: float, below: float, second: int) -> None:
        self._least, self._below = least, below
        self._recent: deque[Grid] = deque(maxlen=second)
        self._count: NDArray[np.int16] | None = None

    def take(self, value: Floats) -> Grid:
        """The next frame: at which places it has changed too often within a second."""
        if self._count is None:
            self._count = np.zeros(value.shape, np.int16)
            self._low, self._high = value.copy(), value.copy()
            self._way = np.zeros(value.shape, np.int8)  # of the last change: up, down, or none yet
        # Up from the lowest since it last went down, down from the highest since it last went up.
        np.minimum(self._low, value, out=self._low)
        np.maximum(self._high, value, out=self._high)
        up = (self._way <= 0) & (value - self._low >= self._least) & (self._low < self._below)
        down = (self._way >= 0) & (self._high - value >= self._least) & (value < self._below) & ~up
        self._high[up], self._low[down] = value[up], value[down]
        self._way[up], self._way[down] = 1, -1
        changed = up | down
        if len(self._recent) == self._recent.maxlen:
            self._count -= self._recent[0]
        self._recent.append(changed)
        self._count += changed
        often: Grid = self._count >= _CHANGES
        return often


def _takes_up(places: Grid) -> bool:
    """Whether places take up so much of some part of the frame that they are seen as one."""
    if not places.any():
        return False
    field = tuple(max(round(side / _FIELD), 1) for side in places.shape)
    from scipy.ndimage import uniform_filter  # here: slow to load

    share = uniform_filter(places.astype(np.float32), size=field, mode="constant")
    return bool(share.max() >= _PART)


def flashes(frames: Iterable[NDArray[np.uint8]], fps: float) -> tuple[list[Span], list[Span]]:
    """From and to which second something flashes too often, in general and in red. ``frames``: small RGB pictures in order,
    shape (height, width, 3), ``fps`` a second."""
    second = max(round(fps), 1)
    general, red = _Changes(_CHANGE, _DARK, second), _Changes(_RED_CHANGE, np.inf, second)
    found: tuple[list[Span], list[Span]] = ([], [])
    for n, frame in enumerate(frames):
        linear = LINEAR[frame]
        r, g, b = linear[..., 0], linear[..., 1], linear[..., 2]
        saturated = r >= _RED * (r + g + b)
        reddish = np.where(saturated, np.maximum(r - g - b, 0), 0).astype(np.float32)
        for spans, changes, value in ((found[0], general, luminance(linear)), (found[1], red, reddish)):
            if _takes_up(changes.take(value)):
                start, end = max(n + 1 - second, 0) / fps, (n + 1) / fps
                if spans and spans[-1][1] >= start:
                    spans[-1] = (spans[-1][0], end)
                else:
                    spans.append((start, end))
    return found
