"""Where words begin and end, from the level of the sound."""

from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray

from hovvet.core.engines.speech import Heard
from hovvet.core.media.decode import SPEECH_RATE
from hovvet.core.sound.silence import STEP, Sound, levels, silence_threshold
from hovvet.core.words.vocabulary import ENGLISH, bare, is_filler_sound

SHORTEST_WORD = 0.04  # seconds
CLEAR = 28.0  # dB between room and speech from which on a room is not noisy
_FADE = 8.0  # dB under the threshold that still belong to the end of a word
_NOISE = 3.0  # dB by which the levels of a noisy room rise above its 10th percentile by themselves
_REACH = 0.16  # seconds an edge at a pause may be moved
_RISE = 3  # consecutive 10 ms levels above the threshold that make speech


def without_overlaps(heard: Sequence[Heard], duration: float) -> list[Heard]:
    """Words in order, not overlapping, each at least 40 ms long, within the sound (seconds)."""
    placed: list[Heard] = []
    at = 0.0
    for word in sorted(heard, key=lambda each: each.start):
        start = max(word.start, at)
        end = min(max(word.end, start + SHORTEST_WORD), duration)
        if end - start < SHORTEST_WORD / 2:
            continue
        placed.append(Heard(word.text, start, end, word.confidence))
        at = end
    return placed


class Edges:
    """Where the level of a sound crosses from silence to speech, to move the edges of words there."""

    def __init__(self, sound: Sound) -> None:
        level = levels(sound, SPEECH_RATE)
        threshold = silence_threshold(level)
        self._duration = len(sound) / SPEECH_RATE
        self._loud = level > threshold
        room, speech = np.percentile(level, [10, 90]) if level.size else (0.0, 0.0)
        # The end of a word dies away under the threshold, in a noisy room most of it.
        faint = max(threshold - _FADE, room + _NOISE) if speech - room >= CLEAR else room + _NOISE
        self._fading = level > faint

    def moved(self, words: Sequence[Heard], language: str = ENGLISH) -> list[Heard]:
        """The words, those edges that lie at a pause moved to where the level rises and falls.

        Only an edge with a gap beside it is moved, by 160 ms at most.
        """
        if not self._loud.size:
            return list(words)
        moved = list(words)
        for n, word in enumerate(moved):
            before = moved[n - 1].end if n else 0.0
            after = moved[n + 1].start if n + 1 < len(moved) else self._duration
            start, end = word.start, word.end
            if start - before > 0.03:
                high = min(start + _REACH, word.end - SHORTEST_WORD)
                start = _onset(self._loud, start, max(before, start - _REACH), high)
            if after - end > 0.03:
                low = max(end - _REACH, start + SHORTEST_WORD)
                end = _offset(self._fading, end, low, min(after, end + _REACH))
            if end - start >= SHORTEST_WORD:
                moved[n] = Heard(word.text, start, end, word.confidence)
        placed = _off_silence(moved, self._loud)
        # A filler sound where there is no sound at all was not said.
        return [
            word
            for word in placed
            if not is_filler_sound(word.text, language) or _loud_within(self._loud, word.start, word.end)
        ]


def _off_silence(words: list[Heard], loud: NDArray[np.bool_]) -> list[Heard]:
    """A word on nothing but silence shares, by length of text, the sound of the word that touches it."""
    placed = list(words)
    for n, word in enumerate(placed):
        if _loud_within(loud, word.start, word.end):
            continue
        for m in (n + 1, n - 1):
            if not 0 <= m < len(placed):
                continue
            other = placed[m]
            touches = abs(other.start - word.end) < 0.03 if m > n else abs(word.start - other.end) < 0.03
            heard = _loud_within(loud, other.start, other.end)
            if not touches or not heard:
                continue
            start, end = heard[0] * STEP, max((heard[-1] + 1) * STEP, heard[0] * STEP + 2 * SHORTEST_WORD)
            one, two = (word, other) if m > n else (other, word)
            share = len(bare(one.text)) / max(len(bare(one.text)) + len(bare(two.text)), 1)
            at = min(max(start + (end - start) * share, start + SHORTEST_WORD), end - SHORTEST_WORD)
            placed[min(n, m)] = Heard(one.text, start, at, one.confidence)
            placed[max(n, m)] = Heard(two.text, at, end, two.confidence)
            break
    return placed


def _loud_within(loud: NDArray[np.bool_], start: float, end: float) -> list[int]:
    first = round(start / STEP)
    return [first + int(n) for n in np.flatnonzero(loud[first : max(round(end / STEP), first + 1)])]


def _onset(loud: NDArray[np.bool_], at: float, low: float, high: float) -> float:
    """Where speech begins near ``at``: the first loud level after the last quiet run before it."""
    a, b = max(int(low / STEP), 0), min(int(high / STEP) + 1, len(loud))
    n = min(max(round(at / STEP), a), max(b - 1, a))
    if n < b and loud[n]:
        while n > a and loud[n - 1]:
            n -= 1
        return n * STEP
    while n < b:
        if loud[n : n + _RISE].all():
            return n * STEP
        n += 1
    return at


def _offset(loud: NDArray[np.bool_], at: float, low: float, high: float) -> float:
    """Where speech ends near ``at``."""
    a, b = max(int(low / STEP), 0), min(int(high / STEP) + 1, len(loud))
    n = min(max(round(at / STEP), a), max(b - 1, a))
    if n < b and n > 0 and loud[n - 1]:
        while n < b and loud[n]:
            n += 1
        return n * STEP
    while n > a:
        if loud[max(n - _RISE, 0) : n].all():
            return n * STEP
        n -= 1
    return at
