"""The loudness of a recording over its length, small enough to draw."""

import itertools
from pathlib import Path

import numpy as np
from numpy.typing import NDArray

from hovvet.core.media.wav import read_wav, wav_length

PEAKS_PER_SECOND = 50


def write_peaks(wav: Path, out: Path) -> None:
    """One byte for each 20 ms: the largest sample, on a root scale so that quiet speech still shows."""
    total, rate = wav_length(wav)
    step = rate // PEAKS_PER_SECOND
    block = step * PEAKS_PER_SECOND * 60
    with out.open("wb") as file:
        for start in range(0, total, block):
            samples = np.abs(read_wav(wav, start, block))
            padded = np.pad(samples, (0, -len(samples) % step))
            peak = padded.reshape(-1, step).max(axis=1, initial=0)
            file.write(np.rint(255 * np.sqrt(np.minimum(peak, 1))).astype(np.uint8).tobytes())


def skyline(peaks: bytes, columns: int) -> list[int]:
    """Peaks drawn together to ``columns`` numbers of 0 to 255: typical loudness, not single clicks."""
    values: NDArray[np.uint8] = np.frombuffer(peaks, dtype=np.uint8)
    if values.size == 0:
        return [0] * columns
    edges = np.linspace(0, values.size, columns + 1).astype(int)
    return [int(np.percentile(values[a : max(b, a + 1)], 80)) for a, b in itertools.pairwise(edges)]
