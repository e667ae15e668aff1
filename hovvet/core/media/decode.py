"""Sound out of media files, on the recording's own clock."""

from pathlib import Path

import numpy as np
from numpy.typing import NDArray

from hovvet.core.media.ffmpeg import GUARD, Progress, encode, no_progress, source
from hovvet.core.media.process import limits, run

SPEECH_RATE = 16_000

# Gaps in the sound are filled and a late start is padded, so that a sample's
# place is its time in the recording.
_ON_CLOCK = "aresample=async=1:first_pts=0"


def speech_wav(path: Path, out: Path, duration: float, progress: Progress = no_progress) -> None:
    """Write the sound as 16 kHz mono 16-bit WAV, what the recogniser reads."""
    encode(
        [*GUARD, "-i", source(path), "-map", "0:a:0", "-vn", "-sn", "-dn", "-af", _ON_CLOCK, "-ac", "1",
         "-ar", str(SPEECH_RATE), "-c:a", "pcm_s16le", "-f", "wav", str(out)],
        duration, progress, limits(duration, 1, 2 * SPEECH_RATE * 2),
    )  # fmt: skip


def sound(path: Path, start: float, seconds: float, rate: int, channels: int = 2) -> NDArray[np.float32]:
    """Decode ``seconds`` of sound from ``start`` on: shape (samples, channels), silence where there is none."""
    lead = min(start, 1.0)  # decoders need a little run-up; it is dropped again
    command = [
        "ffmpeg", "-v", "error", "-nostdin", *GUARD, "-ss", f"{start - lead:.6f}", "-i", source(path),
        "-map", "0:a:0", "-vn", "-sn", "-dn", "-t", f"{seconds + lead + 0.1:.6f}",
        "-af", f"{_ON_CLOCK},aresample={rate}", "-ac", str(channels), "-f", "f32le", "-",
    ]  # fmt: skip
    raw = np.frombuffer(run(command, limits(seconds, 1)), dtype=np.float32).reshape(-1, channels)
    first, count = round(lead * rate), round(seconds * rate)
    raw = raw[first : first + count]
    if len(raw) < count:
        raw = np.concatenate([raw, np.zeros((count - len(raw), channels), np.float32)])
    return raw
