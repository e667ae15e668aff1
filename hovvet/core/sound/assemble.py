"""The sound of a plan: stretches of the recordings, joined without clicks."""

from collections.abc import Callable
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from hovvet.core.plan.model import Plan

Stereo = NDArray[np.float32]  # shape (samples, 2)
Decode = Callable[[str, int, int], Stereo]  # (recording, first sample, count) at the plan's rate


def assemble(plan: Plan, decode: Decode) -> Stereo:
    """Exactly ``plan.samples`` samples, shape (samples, 2).

    At each join the sound before fades out while the sound after fades in, at equal power, over
    ``plan.join_samples`` centred on the cut, with sound from beyond both edges, so that the room goes on;
    the first and last edge fade from and to silence.
    """
    half = plan.join_samples // 2
    rise = fade_in(2 * half)
    out = np.zeros((plan.samples, 2), np.float32)
    for segment in plan.segments:
        if segment.samples == 0:
            continue
        before = min(half, segment.source_sample)
        sound = decode(segment.recording, segment.source_sample - before, segment.samples + before + half)
        sound = np.concatenate([np.zeros((half - before, 2), np.float32), sound])
        ramp = min(2 * half, len(sound) // 2)
        sound[:ramp] *= rise[:ramp, None]
        sound[len(sound) - ramp :] *= rise[:ramp][::-1, None]
        first, last = max(segment.sample - half, 0), min(segment.sample + segment.samples + half, plan.samples)
        skipped = first - (segment.sample - half)
        out[first:last] += sound[skipped : skipped + last - first]
    return out


@lru_cache(maxsize=4)
def fade_in(count: int) -> NDArray[np.float32]:
    """Quarter of a sine from 0 to 1 over ``count`` samples: the squares of it and its mirror image add up to 1."""
    return np.sin(np.pi / 2 * (np.arange(count) + 0.5) / count).astype(np.float32)
