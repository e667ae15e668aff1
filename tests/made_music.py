"""Music of which every beat is known, made by code."""

from typing import NamedTuple

import numpy as np

RATE = 22_050


class Track(NamedTuple):
    """A piece at ``RATE``, mono; its beats in seconds."""

    sound: np.ndarray
    beats: np.ndarray


def _hit(length: float, pitch: float, fall: float, noise: float, chance: np.random.Generator) -> np.ndarray:
    n = np.arange(round(length * RATE))
    tone = np.sin(2 * np.pi * pitch * n / RATE * np.exp(-n / RATE * 3)) if pitch else 0
    return (tone * (1 - noise) + chance.uniform(-1, 1, len(n)) * noise) * np.exp(-n / RATE * fall)


def track(
    tempo: float, seconds: float, swing: float = 0.5, drums: bool = True, pickup: float = 0.0, seed: int = 1
) -> Track:
    """Four chords, over and over, with a bass, and with ``drums`` kick, snare and hats (the eighth between two beats at
    ``swing`` of them); a pick-up of so many beats before the first bar; its last chord rings out."""
    chance = np.random.default_rng(seed)
    beat = 60 / tempo
    count = int((seconds - 3 - pickup * beat) / beat) // 4 * 4
    beats = 0.05 + pickup * beat + np.arange(count + 1) * beat
    out = np.zeros(round(seconds * RATE))

    def put(at: float, what: np.ndarray, loud: float) -> None:
        first = round(at * RATE)
        part = what[: max(len(out) - first, 0)]
        out[first : first + len(part)] += part * loud

    def chord(at: float, length: float, notes: tuple[int, ...], loud: float) -> None:
        n = np.arange(round(length * RATE))
        swell = np.minimum(n / (0.02 * RATE), 1) * np.exp(-n / RATE / length)
        put(at, sum(np.sin(2 * np.pi * 220 * 2 ** (each / 12) * n / RATE) for each in notes) * swell / len(notes), loud)

    chords = ((0, 4, 7), (-3, 0, 4), (5, 9, 12), (7, 11, 14))
    for n, at in enumerate(beats[:-1]):
        notes = chords[n // 4 % 4]
        if n % 4 == 0:
            chord(at, beat * 4, notes, 0.3)
        if n % 2 == 0 or not drums:
            put(at, _hit(beat, 110 * 2 ** (notes[0] / 12), 4, 0, chance), 0.35 if n % 4 == 0 else 0.2)
        if drums:
            put(at, _hit(0.2, 70, 18, 0.05, chance) if n % 2 == 0 else _hit(0.15, 180, 25, 0.7, chance), 0.6)
            put(at, _hit(0.05, 0, 80, 1, chance), 0.15)
            put(at + beat * swing, _hit(0.05, 0, 80, 1, chance), 0.1)
    if pickup:
        chord(0.05, pickup * beat, (7, 12), 0.2)
    chord(beats[-1], 3, chords[0], 0.5)
    put(beats[-1], _hit(0.3, 60, 12, 0.05, chance), 0.5)
    return Track(out.astype(np.float32) / max(float(np.abs(out).max()), 1), beats)
