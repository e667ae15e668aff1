"""Known-truth sound and pictures, made by code."""

import json
import subprocess
import tempfile
import unittest
import wave
from functools import cache, lru_cache
from pathlib import Path

import numpy as np

from hovvet.core.media.frames import pick_frames
from hovvet.core.time import Rate
from hovvet.core.words.transcript import Transcript, Word

DEMO = Path(__file__).parent.parent / "demo"
DATA = Path(__file__).parent / "data"
LEVELS = 24  # a picture's brightness tells its number, modulo this


class ScratchCase(unittest.TestCase):
    """A test with a folder of its own."""

    def setUp(self) -> None:
        holder = tempfile.TemporaryDirectory()
        self.addCleanup(holder.cleanup)
        self.scratch = Path(holder.name)


def ffmpeg(*arguments: object) -> None:
    subprocess.run(["ffmpeg", "-v", "error", "-y", *map(str, arguments)], check=True)


def counted(
    out: Path, seconds: float, rate: str = "30", size: str = "320x180", sound: str = "sine=f=440:r=48000", *more: object
) -> Path:
    """A video in which the brightness of frame n tells n, with a sound (or none for ""). The same one is made once."""
    out.write_bytes(_counted(out.suffix, seconds, rate, size, sound, *more))
    return out


@lru_cache(maxsize=24)
def _counted(suffix: str, seconds: float, rate: str, size: str, sound: str, *more: object) -> bytes:
    # Drawn small and enlarged: geq works pixel by pixel.
    grey = f"color=black:s=16x16:r={rate},format=yuv420p,geq=lum='16+9*mod(N\\,{LEVELS})':cb=128:cr=128"
    picture = f"{grey},scale={size.replace('x', ':')}:flags=neighbor,setsar=1"
    inputs = ["-f", "lavfi", "-t", seconds, "-i", picture]
    if sound:
        inputs += ["-f", "lavfi", "-t", seconds, "-i", sound]
    with tempfile.TemporaryDirectory() as folder:
        out = Path(folder) / f"made{suffix}"
        ffmpeg(*inputs, "-c:v", "libx264", "-preset", "ultrafast", "-crf", "12", "-g", "30", *more, out)
        return out.read_bytes()


def number(frame) -> int:
    """The number (modulo LEVELS) in a frame made by ``counted``."""
    grey = frame.to_ndarray(format="gray")
    middle = grey[grey.shape[0] * 3 // 8 : grey.shape[0] * 5 // 8, grey.shape[1] * 3 // 8 : grey.shape[1] * 5 // 8]
    full = float(middle.mean())  # grey as decoded is full range
    return round((full * 219 / 255) / 9) % LEVELS


def numbers_of(path: Path, rate: Rate, count: int) -> list[int]:
    return [number(frame) for frame in pick_frames(path, rate, range(count))]


def decoded(path: Path, rate: int = 48_000, channels: int = 1) -> np.ndarray:
    """All sound of a file, shape (samples, channels) or (samples,)."""
    command = ["ffmpeg", "-v", "error", "-i", str(path), "-ac", str(channels), "-ar", str(rate), "-f", "f32le", "-"]
    raw = np.frombuffer(subprocess.run(command, capture_output=True, check=True).stdout, np.float32)
    return raw if channels == 1 else raw.reshape(-1, channels)


def write_wav(out: Path, samples: np.ndarray, rate: int) -> Path:
    """Mono sound as a WAV of 16 bits."""
    with wave.open(str(out), "wb") as file:
        file.setnchannels(1)
        file.setsampwidth(2)
        file.setframerate(rate)
        file.writeframes(np.round(np.clip(samples, -1, 1) * 32767).astype("<i2").tobytes())
    return out


def streams(path: Path) -> dict[str, dict]:
    """ffprobe's streams by type."""
    command = ["ffprobe", "-v", "error", "-count_frames", "-show_streams", "-show_format", "-of", "json", str(path)]
    found = json.loads(subprocess.run(command, capture_output=True, check=True).stdout)
    return {stream["codec_type"]: stream for stream in found["streams"]} | {"format": found["format"]}


def even_words(count: int, length: float = 0.3, gap: float = 0.1, start: float = 0.5) -> Transcript:
    """Words of one length with one gap."""
    step = length + gap
    words = tuple(
        Word(id=n + 1, text=f"w{n + 1}", start=round(start + n * step, 3), end=round(start + n * step + length, 3))
        for n in range(count)
    )
    return Transcript(duration=start + count * step + 0.5, words=words)


def spoken(text: str) -> Transcript:
    """These words, each 0.3 s long and 0.1 s apart, which the recogniser was not sure of."""
    words = tuple(
        Word(id=n + 1, text=each, start=round(n * 0.4, 3), end=round(n * 0.4 + 0.3, 3), confidence=0.6)
        for n, each in enumerate(text.split())
    )
    return Transcript(duration=len(words) * 0.4 + 1, words=words)


@cache
def demo_transcript(name: str = "talk") -> Transcript:
    """What the quick recogniser hears in a demo recording, as it is: with fillers, and names it gets wrong."""
    return Transcript.model_validate_json((DATA / "words" / f"{name}.json").read_bytes())


@cache
def demo_truth(name: str = "talk") -> dict:
    return json.loads((DEMO / "speech" / f"{name}.truth.json").read_text())
