"""Sounds made beforehand, because a page cannot make them just as an export does: speech at another speed."""

import tempfile
import wave
from pathlib import Path

import numpy as np

from hovvet.core.media.checked import check_wav
from hovvet.core.media.decode import sound
from hovvet.core.media.process import limits, run
from hovvet.core.media.sealed import sealed
from hovvet.core.plan.model import Prepared
from hovvet.core.render.mix import Stereo
from hovvet.core.time import SAMPLE_RATE

_SCALE = 2**15 - 1


def prepare(wanted: Prepared, source: Path, out: Path) -> None:
    """Write a stretched sound as WAV, 16 bits, stereo, 48 kHz, exactly ``wanted.samples`` long.

    Rubber Band (run as a program) stretches along the given map of times and keeps the pitch. Raises MediaError.
    """
    first, last = wanted.knots[0][1], wanted.knots[-1][1]
    whole = sound(source, max(first, 0) / SAMPLE_RATE, (last - max(first, 0)) / SAMPLE_RATE, SAMPLE_RATE)
    with tempfile.TemporaryDirectory(dir=out.parent, prefix=".prepare-") as scratch, sealed(out, check_wav) as part:
        given, made, times = (Path(scratch) / name for name in ("in.wav", "out.wav", "times"))
        _write(given, whole)
        times.write_text("".join(f"{at - first} {sample}\n" for sample, at in wanted.knots))
        seconds = wanted.samples / SAMPLE_RATE
        command = [
            "rubberband",
            "-q",
            "-2",
            "-c6",
            "--timemap",
            str(times),
            "-D",
            f"{seconds:.6f}",
            str(given),
            str(made),
        ]
        run(command, limits(max(seconds, len(whole) / SAMPLE_RATE), 4, 400_000))
        _write(part, _of_length(_read(made), wanted.samples))


def _write(path: Path, sound: Stereo) -> None:
    with wave.open(str(path), "wb") as wav:
        wav.setnchannels(2)
        wav.setsampwidth(2)
        wav.setframerate(SAMPLE_RATE)
        wav.writeframes((np.clip(sound, -1, 1) * _SCALE).astype("<i2").tobytes())


def _read(path: Path) -> Stereo:
    with wave.open(str(path), "rb") as wav:
        raw = np.frombuffer(wav.readframes(wav.getnframes()), "<i2")
    return (raw.reshape(-1, 2) / np.float32(_SCALE)).astype(np.float32)


def _of_length(sound: Stereo, samples: int) -> Stereo:
    """Cut or padded by the few samples that a stretch may be off."""
    if len(sound) < samples:
        sound = np.concatenate([sound, np.zeros((samples - len(sound), 2), np.float32)])
    return sound[:samples]
