"""Two recordings of one talk put in step by what is heard in both: by how much one begins later, and by how much its clock runs
faster or slower.

Generalised cross-correlation with phase transform: Knapp and Carter, "The generalized correlation method for estimation of time
delay", IEEE Transactions on Acoustics, Speech, and Signal Processing 24 (1976). Long windows find the place, short ones all along
the two find the clocks.
"""

from pathlib import Path
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray
from scipy.fft import irfft, next_fast_len, rfft

from hovvet.core.errors import CoreError
from hovvet.core.media.decode import sound
from hovvet.core.value import Value

RATE = 8_000  # samples a second of what is listened to
FURTHEST = 660.0  # seconds by which one may begin before or after the other
MOST_DRIFT = 150e-6  # of a clock against another
SURE = 2.0  # times as high as any other place is the one where both are alike: 5 and more where they are, 1.1 where not
_PLACES, _LONG = 6, 20.0  # windows that look for the place, and their seconds
_BLOCK = 2**20  # samples of the first that a window is laid over at once
_MOMENTS, _SHORT, _NEAR = 40, 8.0, 0.25  # windows that look for the clocks, their seconds, and how far they look around
_BESIDE, _CLOSE = 0.05, 0.01  # seconds around a place that belong to it, for long and short windows
_BAND = (120.0, 3_400.0)  # Hz in which speech is compared
_SILENT = 1e-5  # mean square under which nothing is heard in a window
_STRAY = 3.0  # times the usual distance from the line, beyond which a moment is left out
_UNLIKE = (
    "These two are not heard to be of the same talk, so they cannot be put in step. Check that they are; "
    "each can be worked with by itself."
)
Sound = NDArray[np.float32]
Alike = NDArray[np.float32]


class InStep(Value):
    """Second ``t`` of the one that is put in step is second ``offset + (1 + drift) * t`` of the other. ``spread`` is how far its
    moments lie from that, in seconds (half of them less); ``sure`` how much clearer that place is than any other."""

    offset: float
    drift: float
    spread: float
    sure: float


class _Found(NamedTuple):
    """Where a window of one lies in the other: at which second it begins here, at which there, and how clear that is."""

    at: float
    there: float
    sure: float


def in_step_of(first: Path, second: Path, seconds: tuple[float, float]) -> InStep:
    """How the sound of a second media file goes with that of a first; ``seconds`` are their lengths. Raises CoreError where they are
    not of the same talk, MediaError."""
    heard = [
        sound(path, 0.0, length, RATE, channels=1)[:, 0] for path, length in zip((first, second), seconds, strict=True)
    ]
    return find_in_step(heard[0], heard[1])


def find_in_step(first: Sound, second: Sound) -> InStep:
    """How a second mono sound at 8 kHz goes with a first, each of shape (samples,). Raises CoreError where they are not of the same
    talk, or where nothing is heard in one."""
    places = [
        found for start in _windows(second, _PLACES, _LONG) if (found := _place(first, second, start)) is not None
    ]
    sure = [each for each in places if each.sure >= SURE]
    if not sure:
        raise CoreError(_UNLIKE)
    best = max(sure, key=lambda each: each.sure)
    agreeing = [each for each in sure if abs(_lag(each) - _lag(best)) <= _NEAR + MOST_DRIFT * abs(each.at - best.at)]
    slope, lag = _line(agreeing)
    moments = [
        found
        for start in _windows(second, _MOMENTS, _SHORT)
        if (found := _moment(first, second, start, lag + slope * start / RATE)) is not None and found.sure >= SURE
    ]
    if not moments:
        raise CoreError(_UNLIKE)
    slope, lag = _line(moments)
    away = [abs(_lag(each) - lag - slope * each.at) for each in moments]
    return InStep(
        offset=lag, drift=slope, spread=float(np.median(away)), sure=float(np.median([each.sure for each in moments]))
    )


def _lag(found: _Found) -> float:
    return found.there - found.at


def _windows(heard: Sound, count: int, seconds: float) -> list[int]:
    """Where windows begin that lie evenly over a sound, those in which nothing is heard left out, in samples."""
    size = min(int(seconds * RATE), len(heard))
    if size < RATE // 2:
        return []
    starts = np.unique(np.linspace(0, len(heard) - size, count).astype(int))
    return [
        int(start) for start in starts if np.mean(np.square(heard[start : start + size])) > _SILENT * _loudest(heard)
    ]


def _loudest(heard: Sound) -> float:
    return float(np.max(np.square(heard), initial=0.0))


def _place(first: Sound, second: Sound, start: int) -> _Found | None:
    """Where a long window of the second lies in the first."""
    window = second[start : start + int(_LONG * RATE)]
    low = max(start - int(FURTHEST * RATE), 0)
    high = min(start + int(FURTHEST * RATE) + len(window), len(first))
    step = _BLOCK - len(window)
    spectrum = rfft(window, _BLOCK)
    alike: list[Alike] = []
    for begin in range(low, max(high - RATE // 2, low), step):
        block = first[begin : min(begin + _BLOCK, high)]
        alike.append(_alike(block, spectrum, _BLOCK)[: min(step, len(block))])
    if not alike:
        return None
    peak, ratio = _peak(np.concatenate(alike), int(_BESIDE * RATE))
    return _Found(start / RATE, (low + peak) / RATE, ratio)


def _moment(first: Sound, second: Sound, start: int, lag: float) -> _Found | None:
    """Where a short window of the second lies in the first, about where it is expected."""
    window = second[start : start + int(_SHORT * RATE)]
    begin = start + int((lag - _NEAR) * RATE)
    block = first[max(begin, 0) : max(begin + len(window) + int(2 * _NEAR * RATE), 0)]
    if begin < 0 or len(block) < len(window) + int(_NEAR * RATE):
        return None  # where it is expected there is nothing
    size = next_fast_len(len(block) + len(window), real=True)
    peak, ratio = _peak(_alike(block, rfft(window, size), size)[: len(block) - len(window)], int(_CLOSE * RATE))
    return _Found(start / RATE, (begin + peak) / RATE, ratio)


def _alike(block: Sound, spectrum: NDArray[np.complex64], size: int) -> Alike:
    """How alike a window (by its ``spectrum`` of so many samples) is to a block of a sound, for every sample at which it could begin
    in it."""
    low, high = (int(each * size / RATE) for each in _BAND)
    cross = rfft(block, size)
    cross[:low], cross[high:] = 0, 0
    cross[low:high] *= np.conj(spectrum[low:high])
    cross[low:high] /= np.abs(cross[low:high]) + np.float32(1e-12)
    return np.asarray(irfft(cross, size))


def _peak(alike: Alike, beside: int) -> tuple[float, float]:
    """Where something is highest, between samples by a parabola, and how many times as high as anything that does not belong to it."""
    at = int(np.argmax(alike))
    others = np.concatenate((alike[: max(at - beside, 0)], alike[at + beside + 1 :]))
    ratio = float(alike[at] / max(float(np.max(others, initial=0.0)), 1e-12))
    if not 0 < at < len(alike) - 1:
        return float(at), ratio
    before, here, after = alike[at - 1 : at + 2]
    curve = before - 2 * here + after
    return at + (0.5 * float((before - after) / curve) if curve else 0.0), ratio


def _line(found: list[_Found]) -> tuple[float, float]:
    """Slope and beginning of the line on which most lags lie."""
    times = np.array([each.at for each in found])
    lags = np.array([_lag(each) for each in found])
    kept = np.ones(len(found), bool)
    slope, lag = 0.0, float(np.median(lags))
    for _ in range(4):
        if np.ptp(times[kept]) > 0:
            slope, lag = np.polyfit(times[kept], lags[kept], 1)
        away = np.abs(lags - lag - slope * times)
        near = away <= _STRAY * max(float(np.median(away)), 1 / RATE)
        if not near.any() or np.array_equal(near, kept):
            break
        kept = near
    return float(np.clip(slope, -MOST_DRIFT, MOST_DRIFT)), float(lag)
