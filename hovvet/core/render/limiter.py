"""Keeping true peaks under a ceiling, the same in the export and on the page (``web/src/player/limiter.ts``)."""

import numpy as np
from numpy.typing import NDArray

from hovvet.core.render.mix import Stereo

REACH = 240  # samples: so long before and after a peak the sound is made softer for it
LOOK = 6  # samples on either side by which it is known how high the sound goes between two
_BLOCK = 2_880_000  # samples limited at once: a minute; no fewer than 2 * REACH + LOOK

# What the sound is at a quarter, a half and three quarters of the way from a sample to the next, by the six samples before
# and after: sines over their arguments under a Kaiser window (beta 4), which tell peaks of up to 18 kHz within 0.13 dB.
_QUARTER = (
    -0.0083, 0.019907, -0.04041, 0.078113, -0.167441, 0.900286, 0.292957, -0.111076, 0.056138, -0.028725, 0.013254, -0.004704,
)  # fmt: skip
_HALF = (-0.00899, 0.023137, -0.048347, 0.093633, -0.19099, 0.631557)
BETWEEN = (_QUARTER, _HALF + _HALF[::-1], _QUARTER[::-1])
_AT_MOST = 2.0  # times the highest sample: more there is not between any two


def limit(sound: Stereo, ceiling: float) -> None:
    """Bring all true peaks of ``sound`` under ``ceiling`` (dBTP), in place.

    The gain that a sample and its neighbourhood need is held for ``REACH`` samples on either side and then averaged over as
    many: so it comes and goes gently and is never too much. What needs none within twice that stays as it is, bit by bit.
    """
    from scipy.ndimage import minimum_filter1d, uniform_filter1d  # here: slow to load, and seldom needed

    most = np.float32(10 ** (ceiling / 20))
    spare = 2 * REACH + LOOK
    before = np.zeros((0, 2), np.float32)  # as it was, before it was limited
    for start in range(0, len(sound), _BLOCK):
        end = min(start + _BLOCK, len(sound))
        seen = np.concatenate([before, sound[start : end + spare]])
        before = sound[max(end - spare, 0) : end].copy()
        if np.abs(seen).max(initial=0.0) * _AT_MOST <= most:
            continue
        peaks = true_peaks(seen)
        if peaks.max(initial=0.0) <= most:
            continue
        need = np.pad(np.minimum(1.0, most / np.maximum(peaks, 1e-9)), spare, constant_values=1.0)
        gain = uniform_filter1d(minimum_filter1d(need, 2 * REACH + 1), 2 * REACH + 1)
        own = spare + len(seen) - len(sound[start : end + spare])
        sound[start:end] *= gain[own : own + end - start, None].astype(np.float32)


def true_peaks(sound: Stereo) -> NDArray[np.float32]:
    """The highest that both channels come to at each sample, and between it and its neighbours; shape (samples,)."""
    padded = np.pad(sound, ((LOOK - 1, LOOK), (0, 0)))
    after = np.zeros(len(sound), np.float32)  # between each sample and the next
    for side in padded.T:
        for weights in BETWEEN:
            at = np.convolve(side, np.array(weights[::-1], np.float32), "valid")
            np.maximum(after, np.abs(at), out=after)
    peaks: NDArray[np.float32] = np.maximum(np.abs(sound).max(axis=1), after)
    peaks[1:] = np.maximum(peaks[1:], after[:-1])
    return peaks
