"""Decoding the sound of a plan in few long stretches instead of many short ones."""

from collections.abc import Mapping
from pathlib import Path

import numpy as np

from hovvet.core.media.decode import sound
from hovvet.core.plan.model import Plan
from hovvet.core.sound.assemble import Stereo

_APART = 20.0  # seconds between two stretches from which on they are decoded apart
_MOST = 600.0  # seconds decoded at once


class SoundReader:
    """Hands out samples of the recordings of a plan; decodes each run of neighbouring segments once."""

    def __init__(self, plan: Plan, files: Mapping[str, Path | None]) -> None:
        self._rate, self._files = plan.sample_rate, files
        self._runs = sound_runs(plan)
        self._held: tuple[str, int, Stereo] | None = None

    def __call__(self, recording: str, first: int, count: int) -> Stereo:
        """``count`` samples of a recording from ``first`` on; silence where it has no sound."""
        path = self._files[recording]
        if path is None:
            return np.zeros((count, 2), np.float32)
        if not self._holds(recording, first, count):
            start, end = next(
                ((a, b) for name, a, b in self._runs if name == recording and a <= first and first + count <= b),
                (first, first + count),
            )
            decoded = sound(path, start / self._rate, (end - start) / self._rate, self._rate)
            self._held = (recording, start, decoded)
        assert self._held
        offset = first - self._held[1]
        return self._held[2][offset : offset + count]

    def _holds(self, recording: str, first: int, count: int) -> bool:
        if self._held is None or self._held[0] != recording:
            return False
        return self._held[1] <= first and first + count <= self._held[1] + len(self._held[2])


def sound_runs(plan: Plan) -> list[tuple[str, int, int]]:
    """(recording, first sample, one past last) for each run of segments, join handles included."""
    handle = plan.join_samples
    runs: list[tuple[str, int, int]] = []
    for segment in plan.segments:
        first = max(segment.source_sample - handle, 0)
        end = segment.source_sample + segment.samples + handle
        if runs:
            name, a, b = runs[-1]
            near = -handle * 2 <= first - b <= _APART * plan.sample_rate
            if name == segment.recording and near and end - a <= _MOST * plan.sample_rate:
                runs[-1] = (name, a, max(b, end))
                continue
        runs.append((segment.recording, first, end))
    return runs
