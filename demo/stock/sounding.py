"""Make what the stock library of the demo offers to be heard: short music and sounds, synthesised.

``heard(sound, seconds)`` is one of them, mono, at ``RATE`` samples a second, from -1 to 1; ``write_sound(sound, seconds, out)``
writes it as a WAV file.
"""

import wave
from collections.abc import Callable
from pathlib import Path

import numpy as np
from numpy.typing import NDArray

RATE = 48_000
Samples = NDArray[np.float64]
_LOUDEST = 0.7
_SCALE = {note: 220.0 * 2 ** (step / 12) for note, step in zip("ABCDEFG", (0, 2, 3, 5, 7, 8, 10), strict=True)}


def _time(seconds: float) -> Samples:
    return np.arange(int(seconds * RATE)) / RATE


def _noise(seconds: float, seed: int = 1) -> Samples:
    return np.random.default_rng(seed).standard_normal(int(seconds * RATE))


def _smooth(samples: Samples, width: int) -> Samples:
    return np.convolve(samples, np.ones(width) / width, "same")


def _pluck(frequency: float, seconds: float, soft: float = 4.0) -> Samples:
    """A struck string or bar: overtones that fade the sooner the higher they are."""
    t = _time(seconds)
    tones = sum(np.sin(2 * np.pi * frequency * k * t) * np.exp(-soft * k * t) / k for k in range(1, 6))
    return np.asarray(tones * np.minimum(t * 200, 1))


def _laid(seconds: float, notes: list[tuple[float, Samples]]) -> Samples:
    """Sounds at their times; what goes beyond the end goes on at the beginning, so that it can be begun again."""
    made = np.zeros(int(seconds * RATE))
    for at, note in notes:
        first = int(at * RATE)
        room = len(made) - first
        made[first : first + len(note)] += note[:room]
        made[: max(len(note) - room, 0)] += note[room:]
    return made


def _music(melody: str, beat: float, soft: float, bass: str, seconds: float, pad: float = 0.0) -> Samples:
    """A melody of notes (- is a rest) over and over, a bass note each four, and a soft chord under it."""
    notes: list[tuple[float, Samples]] = []
    for n in range(int(seconds / beat)):
        note = melody[n % len(melody)]
        if note != "-":
            notes.append((n * beat, _pluck(_SCALE[note] * 2, 1.6, soft)))
        if n % 4 == 0:
            low = _SCALE[bass[n // 4 % len(bass)]] / 2
            notes.append((n * beat, 0.8 * _pluck(low, beat * 4, 1.2)))
            if pad:
                t = _time(beat * 4)
                chord = sum(np.sin(2 * np.pi * low * k * t) for k in (2, 3, 4))
                notes.append((n * beat, np.asarray(pad * chord * np.sin(np.pi * t / t[-1]))))
    return _laid(seconds, notes)


def _ticks(every: float, seconds: float) -> Samples:
    tick, tock = (
        _pluck(f, 0.06, 40) + 0.2 * _noise(0.06, n) * np.exp(-90 * _time(0.06)) for n, f in enumerate((2600, 2100))
    )
    return _laid(seconds, [(n * every, tock if n % 2 else tick) for n in range(int(seconds / every))])


def _bell(seconds: float) -> Samples:
    t = _time(seconds)
    return np.asarray(sum(np.sin(2 * np.pi * 880 * r * t) * np.exp(-(1.5 + r) * t) for r in (1, 2.01, 2.76, 5.4)))


def _rain(seconds: float) -> Samples:
    drops = [(n * 0.037, 0.5 * _pluck(1800 + (n * 197) % 1400, 0.03, 60)) for n in range(int(seconds / 0.037))]
    return 0.12 * _smooth(_noise(seconds), 6) + _laid(seconds, drops) * 0.3


def _steps(seconds: float) -> Samples:
    step = _smooth(_noise(0.16, 3), 40) * np.exp(-30 * _time(0.16)) * 6
    return _laid(seconds, [(0.1 + n * 0.55, step) for n in range(int((seconds - 0.2) / 0.55))])


def _whoosh(seconds: float) -> Samples:
    t = _time(seconds)
    return _smooth(_noise(seconds), 24) * np.sin(np.pi * t / seconds) ** 3 * 4


def _sweep(low: float, high: float, seconds: float) -> Samples:
    t = _time(seconds)
    return np.sin(2 * np.pi * (low * t + (high - low) * t**2 / (2 * seconds))) * np.exp(-3 * t / seconds)


_SOUNDS: dict[str, Callable[[float], Samples]] = {
    "bench": lambda s: _music("ACE-GE-C", 0.4, 3.0, "AFCG", s),
    "evening": lambda s: _music("E---C---A---G---", 0.5, 1.5, "AFDE", s, 0.12),
    "harbour": lambda s: _music("DFA-DFA-CEG-CEG-", 0.3, 4.0, "DDCC", s, 0.06),
    "clockwork": lambda s: _music("A-A-E-A-C-A-E-G-", 0.25, 7.0, "AAFG", s) + 0.5 * _ticks(0.5, s),
    "hope": lambda s: _music("CEGEACEA", 0.35, 2.5, "CAFG", s, 0.1),
    "night": lambda s: _music("A-------E-------", 0.6, 1.0, "ADFE", s, 0.2),
    "ticking": lambda s: _ticks(0.5, s),
    "bell": _bell,
    "rain": _rain,
    "steps": _steps,
    "whoosh": _whoosh,
    "pop": lambda s: _sweep(500, 1400, s),
    "thud": lambda s: _sweep(140, 50, s),
    "click": lambda s: _pluck(3200, s, 60),
    "pling": lambda s: _pluck(1320, s, 2.0) + _pluck(1760, s, 2.5),
    "sparks": lambda s: _noise(s, 9) * (np.abs(_smooth(_noise(s, 5), 900)) > 0.04) * 0.3,
    "kettle": lambda s: 0.4 * _sweep(900, 2400, s)[::-1] + 0.05 * _noise(s, 4),
    "page": lambda s: _smooth(_noise(s, 7), 4) * np.sin(np.pi * _time(s) / s) * 0.6,
}  # fmt: skip


def heard(sound: str, seconds: float) -> Samples:
    """What is heard; it ends in silence unless it can be begun again."""
    made = _SOUNDS[sound](seconds)
    loudest = float(np.abs(made).max())
    return made * (_LOUDEST / loudest)


def write_sound(sound: str, seconds: float, out: Path) -> None:
    """Write a sound as 16 bit WAV."""
    samples = (heard(sound, seconds) * 32_767).astype("<i2")
    with out.open("wb") as raw, wave.open(raw, "wb") as file:
        file.setparams((1, 2, RATE, 0, "NONE", ""))
        file.writeframes(samples.tobytes())
