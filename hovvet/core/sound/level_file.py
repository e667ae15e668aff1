"""The levels of a recording in a file: worked out once, a part at a time, and looked at without being read whole."""

from pathlib import Path

import numpy as np
from numpy.typing import NDArray

from hovvet.core.media.wav import read_wav, wav_length
from hovvet.core.sound.silence import levels

_BLOCK = 60  # seconds that are worked on at a time: whole steps, so that parts are as the whole would be


def write_levels(wav: Path, out: Path) -> None:
    """One number of 32 bits for each 10 ms of a WAV file: its level in dB."""
    total, rate = wav_length(wav)
    with out.open("wb") as file:
        for start in range(0, total, _BLOCK * rate):
            file.write(levels(read_wav(wav, start, _BLOCK * rate), rate).astype("<f4").tobytes())


def open_levels(path: Path) -> NDArray[np.float32]:
    """Such a file as a memory map, shape (levels,). What is asked for of it is read."""
    count = path.stat().st_size // 4
    return np.memmap(path, "<f4", "r", shape=(count,)) if count else np.zeros(0, np.float32)
