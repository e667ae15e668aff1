"""The sound of a plan: its layers, added up."""

from collections.abc import Callable, Iterator
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from hovvet.core.plan.model import Plan, SoundLayer

Stereo = NDArray[np.float32]  # shape (samples, 2)
Decode = Callable[[str, int, int], Stereo]  # (media, first sample, count) at the plan's rate

_AT_ONCE = 2_880_000  # samples: a minute


def mix(plan: Plan, decode: Decode, out: Stereo) -> None:
    """Add the layers to ``out``, silence of ``plan.samples`` samples, each at its gain and level, faded in and out at equal
    power; then the master."""
    for layer in plan.sound:
        gain = np.float32(10 ** (layer.gain / 20))
        for a, b in stretches(layer):
            sound = decode(layer.media, layer.source_sample + a, b - a) * gain
            if layer.level:
                knots = [knot.at for knot in layer.level], [knot.value for knot in layer.level]
                sound *= np.interp(np.arange(a, b), *knots).astype(np.float32)[:, None]
            if a < layer.fade_in:
                rise = fade_in(layer.fade_in)[a:b]
                sound[: len(rise)] *= rise[:, None]
            if b > layer.samples - layer.fade_out:
                begins = max(layer.samples - layer.fade_out, a)
                fall = fade_in(layer.fade_out)[::-1][
                    begins - (layer.samples - layer.fade_out) : b - layer.samples + layer.fade_out
                ]
                sound[begins - a :] *= fall[:, None]
            first, last = max(layer.sample + a, 0), min(layer.sample + b, plan.samples)
            if first < last:
                out[first:last] += sound[first - layer.sample - a : last - layer.sample - a]
    if plan.master:
        for first in range(0, plan.samples, _AT_ONCE):
            out[first : first + _AT_ONCE] *= np.float32(10 ** (plan.master / 20))


def stretches(layer: SoundLayer) -> Iterator[tuple[int, int]]:
    """A layer in parts of a minute at most, from sample up to sample of it."""
    for first in range(0, layer.samples, _AT_ONCE):
        yield first, min(first + _AT_ONCE, layer.samples)


@lru_cache(maxsize=16)
def fade_in(count: int) -> NDArray[np.float32]:
    """Quarter of a sine from 0 to 1 over ``count`` samples: the squares of it and its mirror image add up to 1."""
    return np.sin(np.pi / 2 * (np.arange(count) + 0.5) / count).astype(np.float32)
