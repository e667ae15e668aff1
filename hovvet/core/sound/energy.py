"""How loud something is from moment to moment, measured once: of each 10 ms the energy as it is heard, and the highest sample.

Loudness is that of ITU-R BS.1770-4: the sound is weighted (K), its mean square taken over both channels, and integrated
over blocks of 400 ms, of which those are left out that are below -70 LUFS or 10 LU below the rest.
"""

from collections.abc import Iterator, Sequence
from pathlib import Path
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from hovvet.core.media.ffmpeg import GUARD, source
from hovvet.core.media.process import limits, running
from hovvet.core.time import SAMPLE_RATE

Floats = NDArray[np.float32]
STEP = SAMPLE_RATE // 100  # samples
_STEPS = 100  # a second
_BLOCK, _HOP = 40, 10  # steps: of the blocks that are gated, and from one to the next
_OFFSET = -0.691  # LUFS of an energy of 1
_ABSOLUTE, _RELATIVE = -70.0, -10.0  # LUFS, LU: the two gates
_AT_ONCE = 100 * 60  # steps that are worked on at a time
# The two filters of BS.1770-4 at 48 kHz: the head, and what is too low to be heard as loud.
_WEIGHTING = np.array([
    [1.53512485958697, -2.69169618940638, 1.19839281085285, 1.0, -1.69065929318241, 0.73248077421585],
    [1.0, -2.0, 1.0, 1.0, -1.99004745483398, 0.99007225036621],
])  # fmt: skip


class Energy(NamedTuple):
    """Of each 10 ms of a sound: ``power``, its weighted mean square added up over both channels, and ``peak``, its highest
    sample (0 to 1); both of shape (steps,)."""

    power: Floats
    peak: Floats


def energy_of(path: Path, channels: int, duration: float) -> Energy:
    """Measure the sound of a media file as an export would have it. Raises MediaError."""
    sides = 1 if channels == 1 else 2
    command = [
        "ffmpeg", "-v", "error", "-nostdin", *GUARD, "-i", source(path), "-map", "0:a:0", "-vn", "-sn", "-dn",
        "-af", f"aresample=async=1:first_pts=0,aresample={SAMPLE_RATE}", "-ac", str(sides), "-f", "f32le", "-",
    ]  # fmt: skip
    with running(command, limits(duration, 1)) as program:
        out = program.process.stdout
        assert out
        read = iter(lambda: out.read(_AT_ONCE * STEP * sides * 4), b"")
        whole = (np.frombuffer(raw[: len(raw) // (4 * sides) * 4 * sides], "<f4").reshape(-1, sides) for raw in read)
        parts = list(measure(whole))
        program.finish()
    if not parts:
        return Energy(np.zeros(0, np.float32), np.zeros(0, np.float32))
    return Energy(np.concatenate([each.power for each in parts]), np.concatenate([each.peak for each in parts]))


def write_energy(energy: Energy, out: Path) -> None:
    """Keep it in a file: two numbers of 32 bits for each 10 ms."""
    np.column_stack(energy).astype("<f4").tofile(out)


def open_energy(path: Path) -> Energy:
    """Such a file, as a memory map: what is asked for of it is read."""
    count = path.stat().st_size // 8
    both = np.memmap(path, "<f4", "r", shape=(count, 2)) if count else np.zeros((0, 2), np.float32)
    return Energy(both[:, 0], both[:, 1])


def measure(parts: Iterator[NDArray[np.float32]]) -> Iterator[Energy]:
    """The energy of a sound at 48 kHz that comes in parts of whole steps (the last may be shorter), shape (samples, channels).
    One channel counts as both do to which it is brought 3 dB lower."""
    from scipy.signal import sosfilt  # here: slow to load

    state = None
    for part in parts:
        if state is None:
            state = np.zeros((len(_WEIGHTING), 2, part.shape[1]))
        heard, state = sosfilt(_WEIGHTING, part, axis=0, zi=state)
        spare = -len(part) % STEP
        squares, peaks = (heard**2).sum(axis=1), np.abs(part).max(axis=1)
        steps = (np.pad(each, (0, spare)).reshape(-1, STEP) for each in (squares, peaks))
        power, peak = next(steps).mean(axis=1), next(steps).max(axis=1)
        yield Energy(power.astype(np.float32), (peak * (2**-0.5 if part.shape[1] == 1 else 1)).astype(np.float32))


def integrated(power: NDArray[np.floating]) -> float | None:
    """The loudness in LUFS of a sound of such a power in each 10 ms, gated; None for silence. What is shorter than a block
    counts as one."""
    if not len(power):
        return None
    sums = np.concatenate([[0.0], np.cumsum(power, dtype=np.float64)])
    starts = np.arange(0, max(len(power) - _BLOCK, 0) + 1, _HOP)
    ends = np.minimum(starts + _BLOCK, len(power))
    blocks = (sums[ends] - sums[starts]) / (ends - starts)
    blocks = blocks[blocks > _power(_ABSOLUTE)]
    if not blocks.size:
        return None
    blocks = blocks[blocks > blocks.mean() * 10 ** (_RELATIVE / 10)]
    return float(lufs(blocks.mean()))


def lufs(power: NDArray[np.floating]) -> NDArray[np.float64]:
    """The loudness in LUFS of a power."""
    level: NDArray[np.float64] = _OFFSET + 10 * np.log10(np.maximum(power, 1e-12))
    return level


def of_spans(power: NDArray[np.floating], spans: Sequence[tuple[float, float]]) -> float | None:
    """The loudness in LUFS of some stretches (seconds) of it, one after the other; None where nothing is heard in them."""
    steps = [slice(round(start * _STEPS), max(round(end * _STEPS), round(start * _STEPS) + 1)) for start, end in spans]
    return integrated(np.concatenate([power[each] for each in steps])) if steps else None


def _power(lufs: float) -> float:
    return float(10 ** ((lufs - _OFFSET) / 10))
