"""Finding the silences in speech by its level."""

from typing import Any

import numpy as np
from numpy.typing import NDArray

from hovvet.core.time import EPSILON

Sound = NDArray[np.float32]
STEP = 0.01  # seconds between two levels


def levels(sound: Sound, rate: int) -> NDArray[np.float64]:
    """Level of each 10 ms, in dB below full scale. ``sound`` is mono, shape (samples,)."""
    step = round(rate * STEP)
    count = len(sound) // step
    if count == 0:
        return np.full(0, -120.0)
    frames = sound[: count * step].reshape(count, step).astype(np.float64)
    power: NDArray[np.float64] = np.mean(frames**2, axis=1)
    return 10.0 * np.log10(power + 1e-12)


class Levels:
    """The levels of a whole recording, to find quiet places in; ``level`` in dB, one for each 10 ms."""

    def __init__(self, level: "NDArray[np.float64] | NDArray[np.float32]") -> None:
        self._level = np.asarray(level, np.float32)  # as it is, where it is a file of such numbers

    def at(self, seconds: float) -> float:
        """The level at a moment, in dB; silence beyond the recording."""
        place = int(seconds / STEP)
        return float(self._level[place]) if 0 <= place < len(self._level) else -120.0

    def loudest(self, edges: NDArray[np.float64]) -> NDArray[np.float64]:
        """The highest level between each moment (seconds, rising) and the next, in dB; shape (edges - 1,)."""
        places = np.clip((edges / STEP).astype(int), 0, max(len(self._level) - 1, 0))
        if not len(self._level):
            return np.full(max(len(edges) - 1, 0), -120.0)
        return np.maximum.reduceat(self._level, places[:-1]).astype(np.float64)

    def room(self, near: float, length: float, within: float) -> float | None:
        """Where the quietest ``length`` seconds begin at most ``within`` seconds from a moment: the sound of the room.

        None when the recording is shorter than that.
        """
        count = max(round(length / STEP), 1)
        first = max(int((near - within) / STEP), 0)
        window = self._level[first : int((near + within) / STEP) + count]
        if len(window) < count:
            return None
        # The loudest moment counts: one click would be heard again and again.
        loudest = np.lib.stride_tricks.sliding_window_view(window, count).max(axis=1)
        return float((first + int(loudest.argmin())) * STEP)

    def quietest(self, near: float, low: float, high: float) -> float:
        """The quietest moment from ``low`` to ``high`` (seconds); ``near`` itself unless another is clearly quieter.

        A moment 10 ms further off must be 2 dB quieter to be taken.
        """
        first, last = int(np.ceil(low / STEP - 0.5)), int(np.floor(high / STEP - 0.5))
        own = min(int(near / STEP), len(self._level) - 1)
        places = np.arange(max(first, 0), min(last, len(self._level) - 1) + 1)
        if own < 0 or len(places) == 0:
            return near
        moments = (places + 0.5) * STEP
        cost = self._level[places] + 200 * np.abs(moments - near)
        best = int(cost.argmin())
        return float(moments[best]) if cost[best] < self._level[own] - 2 else near


def silence_threshold(level: "NDArray[np.float64] | NDArray[np.float32]") -> float:
    """The level in dB under which nobody speaks.

    A third of the way up from the room (10th percentile) to speech (90th
    percentile), but at least 4 dB above the room and never within 6 dB of
    speech: sound without silences has none.
    """
    if level.size == 0:
        return -120.0
    audible = level[level > -119]
    if audible.size == 0:
        return -100.0
    room, speech = np.percentile(audible, [10, 90])
    return float(min(max(room + (speech - room) / 3, room + 4), speech - 6))


def silences(sound: Sound, rate: int, shortest: float) -> list[tuple[float, float]]:
    """Stretches of at least ``shortest`` seconds in which nobody speaks: (start, end) in seconds."""
    return silences_of(levels(sound, rate), shortest)


def silences_of(level: "NDArray[np.float64] | NDArray[np.float32]", shortest: float) -> list[tuple[float, float]]:
    """The same of sound that has these levels, in dB, one for each 10 ms."""
    quiet = level < silence_threshold(level)
    # A click or a mouth noise of up to 30 ms does not end a silence.
    quiet = _fill_short(quiet, loudest=3)
    return [(a * STEP, b * STEP) for a, b in runs(quiet) if (b - a) * STEP >= shortest - EPSILON]


def loud_runs(sound: Sound, rate: int = 16_000) -> list[tuple[float, float]]:
    """Stretches in which the level is above that of silence: (start, end) in seconds."""
    level = levels(sound, rate)
    return [(a * STEP, b * STEP) for a, b in runs(level > silence_threshold(level))]


def _fill_short(quiet: NDArray[np.bool_], loudest: int) -> NDArray[np.bool_]:
    filled = quiet.copy()
    for a, b in runs(~quiet):
        if b - a <= loudest and a > 0 and b < len(quiet):
            filled[a:b] = True
    return filled


def runs(flags: NDArray[np.bool_]) -> list[tuple[int, int]]:
    """Stretches of True as (first, one past last)."""
    edges: NDArray[Any] = np.flatnonzero(np.diff(np.concatenate(([0], flags.astype(np.int8), [0]))))
    return [(int(a), int(b)) for a, b in edges.reshape(-1, 2)]
