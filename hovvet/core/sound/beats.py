"""The beats of a piece of music, found once: how strongly something begins at each moment, how fast that comes back, and the
beats that follow both best.

Onsets by spectral flux, tempo by their autocorrelation, beats by dynamic programming: Ellis, "Beat tracking by dynamic
programming", Journal of New Music Research 36 (2007).
"""

from itertools import pairwise
from pathlib import Path
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from hovvet.core.media.decode import sound
from hovvet.core.value import Value

LONGEST = 600.0  # seconds
RATE = 22_050  # samples a second of what is listened to
_WINDOW, _HOP = 1_024, 220  # samples
_FRAMES = RATE / _HOP  # a second
_BANDS = 40
_BEGUN = 0.65  # of a window: there something begins where it is louder than the one before by most
_SLOWEST, _FASTEST, _USUAL = 60.0, 180.0, 115.0  # beats a minute
_WIDE = 0.9  # octaves around the usual tempo within which another is as likely
_TIGHT = 80.0  # how much a beat may leave the tempo
_CLEAR = (
    0.3  # of the strength of onsets comes back from beat to beat, where there is a beat (0.04 in noise, 0.9 with drums)
)
_CHROMA = 12
_BEGINS = 0.5  # times what begins at most beats: less at the first and last is none
_SILENT = 0.002  # of the highest sample: what is left of a last chord
_AROUND = 6  # beats on either side
Floats = NDArray[np.float64]
VERSION: Literal[1] = 1


class Beats(Value):
    """``times`` in seconds, none where there is no beat; it is over at ``ends``; ``first`` is the beat with which bars of four
    begin (0 to 3); what is heard from each beat to the next: its ``chroma`` (twelve numbers of length 1), its ``level`` in dB."""

    version: Literal[1] = VERSION
    times: tuple[float, ...] = ()
    ends: float = 0.0
    first: int = 0
    chroma: tuple[tuple[float, ...], ...] = ()
    level: tuple[float, ...] = ()


def beats_of(path: Path, seconds: float) -> Beats:
    """The beats of the sound of a media file; none are looked for in what is longer than music is. Raises MediaError."""
    if seconds > LONGEST:
        return Beats()
    return find_beats(sound(path, 0.0, seconds, RATE, channels=1)[:, 0])


def find_beats(music: NDArray[np.floating]) -> Beats:
    """The beats of mono music at 22.05 kHz, shape (samples,)."""
    ends = _over(music)
    if ends < 2:
        return Beats(ends=ends)
    spectrum = _spectrum(music)
    strength = _onsets(spectrum)
    period = _period(strength)
    if period is None:
        return Beats(ends=ends)
    at = _followed(strength, period)
    if len(at) < 4:
        return Beats(ends=ends)
    times = _steady((at * _HOP + _WINDOW * _BEGUN) / RATE)
    chroma, level = _heard(spectrum, at, music)
    return Beats(
        times=tuple(np.round(times, 4).tolist()),
        ends=ends,
        first=_first_of_bar(spectrum, at),
        chroma=chroma,
        level=level,
    )


def _over(music: NDArray[np.floating]) -> float:
    """Where it is over, in seconds."""
    heard = np.flatnonzero(np.abs(music) > _SILENT * max(float(np.abs(music).max(initial=0.0)), 1e-4))
    return round(float(heard[-1] + 1) / RATE, 3) if len(heard) else 0.0


def _steady(times: Floats) -> Floats:
    """Each beat where most of those around it have it: frames are 10 ms apart, and the one or other beat is taken for a music
    beside it."""
    made = times.copy()
    for n in range(len(times)):
        a, b = max(n - _AROUND, 0), min(n + _AROUND + 1, len(times))
        steps = np.arange(a, b) - n
        pairs = np.triu_indices(b - a, 1)
        slope = np.median((times[a:b][pairs[1]] - times[a:b][pairs[0]]) / (pairs[1] - pairs[0]))  # Theil and Sen
        made[n] = np.median(times[a:b] - steps * slope)
    return made


def _spectrum(music: NDArray[np.floating]) -> Floats:
    """Magnitudes, shape (frames, bins)."""
    padded = np.pad(music, (0, _WINDOW))
    frames = np.lib.stride_tricks.sliding_window_view(padded, _WINDOW)[::_HOP]
    window = np.hanning(_WINDOW)
    parts = [np.abs(np.fft.rfft(frames[n : n + 2_000] * window, axis=1)) for n in range(0, len(frames), 2_000)]
    made: Floats = np.concatenate(parts)
    return made


def _onsets(spectrum: Floats) -> Floats:
    """How strongly something begins in each frame: bands that got louder."""
    edges = np.unique(np.geomspace(2, spectrum.shape[1], _BANDS).astype(int))
    bands = np.log1p(50 * np.add.reduceat(spectrum, edges[:-1], axis=1) / spectrum.max(initial=1e-9))
    rise = np.maximum(np.diff(bands, axis=0, prepend=bands[:1]), 0).mean(axis=1)
    local = np.convolve(rise, np.ones(101) / 101, "same")
    made: Floats = np.maximum(rise - local, 0)
    return made / max(float(made.std()), 1e-9)


def _period(strength: Floats) -> float | None:
    """Frames from beat to beat; None where nothing comes back."""
    size = 2 ** int(np.ceil(np.log2(2 * len(strength))))
    power = np.abs(np.fft.rfft(strength - strength.mean(), size)) ** 2
    alike = np.fft.irfft(power)[: int(60 / _SLOWEST * _FRAMES * 2) + 2]
    lags = np.arange(int(60 / _FASTEST * _FRAMES), int(60 / _SLOWEST * _FRAMES) + 1)
    lags = lags[lags < len(alike) // 2]
    if not len(lags) or alike[0] <= 0:
        return None
    likely = np.exp(-0.5 * (np.log2(60 * _FRAMES / lags / _USUAL) / _WIDE) ** 2)
    score = (alike[lags] + 0.5 * alike[2 * lags]) * likely
    best = int(np.argmax(score))
    lag = int(lags[best])
    if alike[lag - 1 : lag + 2].max() < _CLEAR * alike[0]:
        return None
    if 0 < best < len(lags) - 1:  # between whole frames, by a parabola
        a, b, c = alike[lag - 1 : lag + 2]
        bend = a - 2 * b + c
        return lag + (float(0.5 * (a - c) / bend) if bend < 0 else 0.0)
    return float(lag)


def _followed(strength: Floats, period: float) -> NDArray[np.int64]:
    """The frames of the beats that are strong and come evenly."""
    local = np.convolve(
        strength, np.exp(-0.5 * (np.arange(-round(period), round(period) + 1) * 32 / period) ** 2), "same"
    )
    back = np.zeros(len(local), np.int64) - 1
    total = local.copy()
    lags = np.arange(round(period / 2), round(period * 2) + 1)
    cost = -_TIGHT * np.log(lags / period) ** 2
    for n in range(len(local)):
        before = n - lags
        known = before >= 0
        if not known.any():
            continue
        scores = total[before[known]] + cost[known]
        best = int(np.argmax(scores))
        if scores[best] > 0:
            total[n] = local[n] + scores[best]
            back[n] = before[known][best]
    reach = round(period * 1.5)
    at = len(total) - reach + int(np.argmax(total[-reach:])) if len(total) > reach else int(np.argmax(total))
    found = [at]
    while back[found[-1]] >= 0:
        found.append(int(back[found[-1]]))
    beats = np.array(found[::-1], np.int64)
    near = np.array([strength[max(n - 3, 0) : n + 4].max() for n in beats])
    inside = np.flatnonzero(
        near > _BEGINS * np.median(near)
    )  # none before the music begins, or while its last chord rings
    return beats[inside[0] : inside[-1] + 1] if len(inside) else beats[:0]


def _first_of_bar(spectrum: Floats, at: NDArray[np.int64]) -> int:
    """The beat of four at which the low notes begin."""
    low = spectrum[:, 1:8].sum(axis=1)
    rise = np.maximum(np.diff(low, prepend=low[:1]), 0)
    strong = np.array([rise[max(n - 3, 0) : n + 4].max() for n in at])
    return int(np.argmax([strong[n::4].mean() for n in range(4)]))


def _heard(
    spectrum: Floats, at: NDArray[np.int64], music: NDArray[np.floating]
) -> tuple[tuple[tuple[float, ...], ...], tuple[float, ...]]:
    """Chroma and level from each beat to the next."""
    pitches = np.fft.rfftfreq(_WINDOW, 1 / RATE)
    heard = (pitches > 100) & (pitches < 2_000)
    notes = np.round(12 * np.log2(pitches[heard] / 440)).astype(int) % _CHROMA
    chroma, level = [], []
    for a, b in pairwise([*at.tolist(), min(int(2 * at[-1] - at[-2]), len(spectrum))]):
        mean = spectrum[a : max(b, a + 1), heard].mean(axis=0)
        folded = np.bincount(notes, mean, _CHROMA)
        chroma.append(tuple(np.round(folded / max(float(np.linalg.norm(folded)), 1e-9), 3).tolist()))
        part = music[a * _HOP : max(b * _HOP, a * _HOP + _HOP)]
        level.append(round(float(10 * np.log10(max(float((part**2).mean()) if len(part) else 0.0, 1e-10))), 2))
    return tuple(chroma), tuple(level)
