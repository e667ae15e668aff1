"""Decoding the sound of a plan in few long stretches instead of many short ones."""

from collections.abc import Mapping
from pathlib import Path

import numpy as np

from hovvet.core.media.decode import sound
from hovvet.core.plan.model import Plan
from hovvet.core.render.mix import Stereo, stretches

_APART = 20.0  # seconds between two stretches from which on they are decoded apart
_MOST = 600.0  # seconds decoded at once
_OVERLAP = 192_000  # samples by which layers may overlap that are decoded together: the longest crossfade and more


class SoundReader:
    """Hands out samples of the media of a plan; decodes each run of neighbouring layers once."""

    def __init__(self, plan: Plan, files: Mapping[str, Path | None]) -> None:
        self._rate, self._files = plan.sample_rate, files
        self._runs = sound_runs(plan)
        self._held: tuple[str, int, Stereo] | None = None

    def __call__(self, media: str, first: int, count: int) -> Stereo:
        """``count`` samples of a medium from ``first`` on; silence where it has none."""
        path = self._files[media]
        if path is None:
            return np.zeros((count, 2), np.float32)
        if not self._holds(media, first, count):
            start, end = next(
                ((a, b) for name, a, b in self._runs if name == media and a <= first and first + count <= b),
                (first, first + count),
            )
            decoded = sound(path, start / self._rate, (end - start) / self._rate, self._rate)
            self._held = (media, start, decoded)
        assert self._held
        offset = first - self._held[1]
        return self._held[2][offset : offset + count].copy()

    def _holds(self, media: str, first: int, count: int) -> bool:
        if self._held is None or self._held[0] != media:
            return False
        return self._held[1] <= first and first + count <= self._held[1] + len(self._held[2])


def sound_runs(plan: Plan) -> list[tuple[str, int, int]]:
    """(media, first sample, one past last) for each run of layers that follow one another closely."""
    runs: list[tuple[str, int, int]] = []
    wanted = [
        (layer.media, layer.source_sample + a, layer.source_sample + b)
        for layer in plan.sound
        for a, b in stretches(layer)
    ]
    for media, first, end in wanted:
        if runs:
            name, a, b = runs[-1]
            near = -_OVERLAP <= first - b <= _APART * plan.sample_rate and first >= a
            if name == media and near and end - a <= _MOST * plan.sample_rate:
                runs[-1] = (name, a, max(b, end))
                continue
        runs.append((media, first, end))
    return runs
