"""Keeping peaks under a ceiling, the same in the export and on the page (``web/src/player/limiter.ts``)."""

import numpy as np

from hovvet.core.render.mix import Stereo

REACH = 240  # samples: so long before and after a peak the sound is made softer for it
_BLOCK = 2_880_000  # samples limited at once: a minute; no fewer than 2 * REACH


def limit(sound: Stereo, ceiling: float) -> None:
    """Bring all peaks of ``sound`` under ``ceiling`` (dB of full scale), in place.

    The gain that a sample needs is held for ``REACH`` samples on either side and then averaged over as many: so it comes
    and goes gently and is never too much. What needs none within twice that stays as it is, bit by bit.
    """
    from scipy.ndimage import minimum_filter1d, uniform_filter1d  # here: slow to load, and seldom needed

    most = np.float32(10 ** (ceiling / 20))
    spare = 2 * REACH
    before = np.zeros((0, 2), np.float32)  # as it was, before it was limited
    for start in range(0, len(sound), _BLOCK):
        end = min(start + _BLOCK, len(sound))
        seen = np.concatenate([before, sound[start : end + spare]])
        before = sound[max(end - spare, 0) : end].copy()
        peaks = np.abs(seen).max(axis=1)
        if peaks.max(initial=0.0) <= most:
            continue
        need = np.pad(np.minimum(1.0, most / np.maximum(peaks, 1e-9)), spare, constant_values=1.0)
        gain = uniform_filter1d(minimum_filter1d(need, 2 * REACH + 1), 2 * REACH + 1)
        own = spare + len(seen) - len(sound[start : end + spare])
        sound[start:end] *= gain[own : own + end - start, None].astype(np.float32)
