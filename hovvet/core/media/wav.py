"""Reading the 16-bit WAV files that Hovvet writes, whole or in part."""

import wave
from pathlib import Path

import numpy as np
from numpy.typing import NDArray


def wav_length(path: Path) -> tuple[int, int]:
    """Number of samples and their rate."""
    with wave.open(str(path)) as wav:
        return wav.getnframes(), wav.getframerate()


def read_wav(path: Path, start: int = 0, count: int | None = None) -> NDArray[np.float32]:
    """Mono samples ``start`` to ``start + count`` in the range -1 to 1: shape (samples,)."""
    with wave.open(str(path)) as wav:
        wav.setpos(min(start, wav.getnframes()))
        raw = wav.readframes(wav.getnframes() - wav.tell() if count is None else count)
    return np.frombuffer(raw, dtype="<i2").astype(np.float32) / np.float32(32768)


def open_wav(path: Path) -> NDArray[np.int16]:
    """All mono samples without reading them: a memory map, shape (samples,). What is asked for of it is read."""
    with wave.open(str(path)) as wav:
        count = wav.getnframes()
    return np.memmap(path, dtype="<i2", mode="r", offset=path.stat().st_size - 2 * count, shape=(count,))
