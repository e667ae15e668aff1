"""Making the clearer sound of a recording: what is no speech taken down, rumble taken out, clipping mended."""

import tempfile
import wave
from collections.abc import Iterator
from pathlib import Path

import numpy as np
from numpy.typing import NDArray

from hovvet.core.engines.clearer import cleared
from hovvet.core.media.decode import sound
from hovvet.core.media.ffmpeg import GUARD, Progress, encode, no_progress, source
from hovvet.core.media.info import MediaInfo
from hovvet.core.media.process import limits
from hovvet.core.sound.clearer import LOWER, Strength, declipped
from hovvet.core.time import SAMPLE_RATE

_BLOCK, _LEAD, _AFTER, _CROSS = 15.0, 1.5, 0.1, 0.02  # seconds worked on at a time, with what is around; of the seams
_RUMBLE = 60.0  # Hz: below is no speech
_ROOM = 0.5  # times as loud it is kept, so that there is room for what clipping took
_SCALE = 2**15 - 1


def write_clearer(
    path: Path, media: MediaInfo, strength: Strength, out: Path, progress: Progress = no_progress
) -> None:
    """Write the sound of a media file as FLAC, 16 bits at 48 kHz, made clearer; sample for sample in its place, 6 dB lower.

    Raises MediaError, and CoreError without what clears.
    """
    sides = 1 if media.channels == 1 else 2
    with tempfile.TemporaryDirectory(dir=out.parent, prefix=".clearer-") as scratch:
        made = Path(scratch) / "sound.wav"
        with wave.open(str(made), "wb") as wav:
            wav.setnchannels(sides)
            wav.setsampwidth(2)
            wav.setframerate(SAMPLE_RATE)
            for part in _blocks(path, media.duration, sides, LOWER[strength]):
                wav.writeframes((np.clip(part * _ROOM, -1, 1) * _SCALE).round().astype("<i2").tobytes())
                progress(min(wav.tell() / SAMPLE_RATE / max(media.duration, 0.1), 1.0))
        arguments = [*GUARD, "-i", source(made), "-map", "0:a:0", "-c:a", "flac", "-f", "flac", str(out)]
        encode(arguments, media.duration, no_progress, limits(media.duration, 1, SAMPLE_RATE * 2 * sides))


def _blocks(path: Path, duration: float, sides: int, limit: float) -> Iterator[NDArray[np.float32]]:
    """A sound in blocks, cleared with what is around each, the seams crossed."""
    total, step = round(duration * SAMPLE_RATE), round(_BLOCK * SAMPLE_RATE)
    rise = np.linspace(0, 1, round(_CROSS * SAMPLE_RATE), dtype=np.float32)[:, None]
    goes_on = np.zeros((0, sides), np.float32)
    for first in range(0, total, step):
        count, lead = min(step, total - first), min(first, round(_LEAD * SAMPLE_RATE))
        heard = sound(path, (first - lead) / SAMPLE_RATE, (count + lead) / SAMPLE_RATE + _AFTER, SAMPLE_RATE, sides)
        made = cleared(_without_rumble(declipped(heard)), limit)[lead:]
        block, cross = made[:count], min(len(goes_on), count)
        block[:cross] = block[:cross] * rise[:cross] + goes_on[:cross] * (1 - rise[:cross])
        goes_on = made[count : count + len(rise)]
        yield block


def _without_rumble(heard: NDArray[np.float32]) -> NDArray[np.float32]:
    """Both ways, so that what is left stays in its place: speech out of phase with itself is no clearer."""
    from scipy.signal import butter, sosfiltfilt  # here: slow to load

    low = butter(1, _RUMBLE, "highpass", fs=SAMPLE_RATE, output="sos")
    return np.asarray(sosfiltfilt(low, heard, axis=0), np.float32)
