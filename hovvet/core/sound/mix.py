"""The sound of a plan: its layers, added up."""

from collections.abc import Callable
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from hovvet.core.plan.model import Plan

Stereo = NDArray[np.float32]  # shape (samples, 2)
Decode = Callable[[str, int, int], Stereo]  # (media, first sample, count) at the plan's rate


def mix(plan: Plan, decode: Decode) -> Stereo:
    """Exactly ``plan.samples`` samples, shape (samples, 2), each layer at its gain, faded in and out at equal power."""
    out = np.zeros((plan.samples, 2), np.float32)
    for layer in plan.sound:
        if layer.samples <= 0:
            continue
        sound = decode(layer.media, layer.source_sample, layer.samples) * np.float32(10 ** (layer.gain / 20))
        if layer.fade_in:
            sound[: layer.fade_in] *= fade_in(layer.fade_in)[:, None]
        if layer.fade_out:
            sound[layer.samples - layer.fade_out :] *= fade_in(layer.fade_out)[::-1, None]
        first, last = max(layer.sample, 0), min(layer.sample + layer.samples, plan.samples)
        out[first:last] += sound[first - layer.sample : last - layer.sample]
    return out


@lru_cache(maxsize=16)
def fade_in(count: int) -> NDArray[np.float32]:
    """Quarter of a sine from 0 to 1 over ``count`` samples: the squares of it and its mirror image add up to 1."""
    return np.sin(np.pi / 2 * (np.arange(count) + 0.5) / count).astype(np.float32)
