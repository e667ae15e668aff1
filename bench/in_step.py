"""How long it takes to put an hour of a talk in step with a second recording of it, beside reading that hour's sound."""

import sys
import time
from pathlib import Path

sys.path.insert(0, str(Path(__file__).parent.parent))

import numpy as np

from hovvet.core.sound.in_step import RATE, find_in_step

HOUR, LATER = 3600, 90


def main() -> None:
    """Make the two, put them in step, print what it took."""
    chance = np.random.default_rng(1)
    count = RATE * HOUR
    loud = np.repeat(np.abs(chance.normal(0, 1, count // 1600)), 1600)
    talk = (chance.normal(0, 0.1, count) * loud).astype(np.float32)
    other = talk[RATE * LATER :] + chance.normal(0, 0.05, count - RATE * LATER).astype(np.float32)
    began = time.process_time()
    bare = float(np.abs(np.fft.rfft(talk)).max())
    read = time.process_time() - began
    began = time.process_time()
    found = find_in_step(talk, other)
    took = time.process_time() - began
    print(
        f"an hour in step: {took:.1f} CPU s, {took / read:.1f} times one transform of it; found at {found.offset:.4f} s ({bare:.0f})"
    )


if __name__ == "__main__":
    main()
