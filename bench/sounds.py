"""Sounds to measure with: read, written, and spoiled on purpose. Mono, floats, shape (samples,)."""

import subprocess
import wave
from pathlib import Path

import numpy as np

RATE = 16_000  # samples a second, of what is recognised
Sound = np.ndarray


def decode(path: Path, *options: str, rate: int = RATE) -> Sound:
    """What a file sounds like; ``options`` are ffmpeg's, of its input."""
    command = ["ffmpeg", "-v", "error", *options, "-i", str(path), "-ac", "1", "-ar", str(rate), "-f", "f32le", "-"]
    return np.frombuffer(subprocess.run(command, capture_output=True, check=True).stdout, np.float32)


def write(out: Path, sound: Sound, rate: int = RATE) -> None:
    """16-bit WAV."""
    with wave.open(str(out), "wb") as wav:
        wav.setnchannels(1)
        wav.setsampwidth(2)
        wav.setframerate(rate)
        wav.writeframes((np.clip(sound, -1, 1) * 32767).astype("<i2").tobytes())


def loudness(sound: Sound) -> float:
    """The root mean square of what is not silence."""
    return float(np.sqrt(np.mean(sound[np.abs(sound) > 0.01] ** 2)))


def noise(sound: Sound, under: float, seed: int) -> Sound:
    """White noise so many dB under the speech."""
    level = loudness(sound) * 10 ** (-under / 20)
    return np.random.default_rng(seed).normal(0, level, len(sound)).astype(np.float32)


def music(count: int, rate: int = RATE) -> Sound:
    """Chords that swell, and a soft beat; their root mean square is 1."""
    t = np.arange(count) / rate
    roots = np.array([220.0, 196.0, 174.6, 246.9])[(t / 2).astype(int) % 4]
    phase = 2 * np.pi * np.cumsum(roots) / rate
    chords = sum(np.sin(phase * r) / (1 + k) for k, r in enumerate((1, 1.25, 1.5, 2)))
    beat = np.sin(2 * np.pi * 80 * t) * np.exp(-((t * 2) % 1) * 10)
    made = chords * (0.7 + 0.3 * np.sin(2 * np.pi * 0.25 * t)) + 0.8 * beat
    return (made / np.sqrt(np.mean(made**2))).astype(np.float32)


def hall(sound: Sound, rng: np.random.Generator, rate: int = RATE) -> Sound:
    """The sound in a small hall."""
    n = int(0.4 * rate)
    tail = rng.normal(0, 1, n) * np.exp(-np.arange(n) / (0.08 * rate)) * 0.05
    tail[0] = 1.0
    size = 1 << (len(sound) + n).bit_length()
    return np.fft.irfft(np.fft.rfft(sound, size) * np.fft.rfft(tail, size), size)[: len(sound)].astype(np.float32)
