"""Sounds that nobody wrote down: voice where there is no word, often an "um" the recogniser left out."""

from bisect import bisect_left
from collections.abc import Sequence
from itertools import pairwise

import numpy as np
from numpy.typing import NDArray

from hovvet.core.engines.speech import Heard
from hovvet.core.media.decode import SPEECH_RATE
from hovvet.core.sound.silence import STEP, Sound, levels, loud_runs, silence_threshold
from hovvet.core.spans import Span, merge, subtract
from hovvet.core.words.vocabulary import bare, filler_sounds, usual_filler

SOUND_TEXT = "[sound]"  # a voice that is no filler: a laugh, a hum
FILLER_TEXT = usual_filler()

_SHORTEST, _LONGEST = 0.12, 1.2  # seconds
_LONGEST_FILLER = 0.7
_MARGIN = 0.03  # seconds beside a word that still belong to it
_APART = 0.05  # seconds of silence that part a sound from a word
_FRAME = 640  # samples: 40 ms, two periods of the lowest voice
_LOWEST, _HIGHEST = 75, 400  # Hz, of voices
_STEADY = 0.40  # nepers: a vowel that is held changes its spectrum less than this
_BAND = 8  # bins of 40 Hz averaged, so that the voice's own harmonics do not count
_NEAR, _NEAR_WORDS = 1.5, 4  # seconds and words on either side in which something is said again
_PERIODIC = 0.5  # normalised autocorrelation from which on a frame is voiced
_VOICED = 0.6  # of the frames


def unwritten(words: Sequence[Heard], sound: Sound, filler: str = FILLER_TEXT) -> list[Heard]:
    """Voiced stretches of 0.12 to 1.2 s that stand apart from all words, as words of their own.

    Their text is ``filler`` when they are short enough for a filler, else "[sound]". Beside words that are said again they are no
    "um": what was said more often than was written leaves a voice, too.
    """
    loud = loud_runs(sound)
    taken = [(word.start - _MARGIN, word.end + _MARGIN) for word in words]
    found = []
    for start, end in subtract(loud, merge(taken)):
        whole = _SHORTEST <= end - start <= _LONGEST
        if whole and _stands_apart((start, end), loud) and voiced_part(sound, start, end) >= _VOICED:
            short = end - start <= _LONGEST_FILLER and not _beside_repeat(words, start)
            text = filler if short else SOUND_TEXT
            found.append(Heard(text, start, end, 0.5))
    return found


def _beside_repeat(words: Sequence[Heard], at: float) -> bool:
    """Whether the last words before a moment, or the first ones after it, are said again near it."""
    n = bisect_left(words, at, key=_start)
    near = [(bare(each.text), each.start, each.end) for each in words[max(n - _NEAR_WORDS, 0) : n + _NEAR_WORDS]]
    near = [(text, start, end) for text, start, end in near if start < at + _NEAR and end > at - _NEAR]
    return any(a[0] == b[0] and a[0] not in filler_sounds() for a, b in pairwise(near)) or any(
        near[k][0] == near[k + 2][0] and near[k + 1][0] == near[k + 3][0] for k in range(len(near) - 3)
    )


def _start(word: Heard) -> float:
    return word.start


def held_alone(sound: Sound) -> list[Span]:
    """Where one vowel is held alone between silences, in seconds: 0.12 to 1.2 s that may be a filler."""
    loud = loud_runs(sound)
    gaps = [b[0] - a[1] for a, b in pairwise([(0.0, 0.0), *loud, (len(sound) / SPEECH_RATE, 0.0)])]
    return [
        span
        for span, before, after in zip(loud, gaps[:-1], gaps[1:], strict=True)
        if _SHORTEST <= span[1] - span[0] <= _LONGEST and min(before, after) >= _APART and held(sound, *span)
    ]


def held(sound: Sound, start: float, end: float) -> bool:
    """Whether ``start`` to ``end`` (seconds) is one vowel held, as in "uh" and "um"."""
    return unsteadiness(sound, start, end) < _STEADY and voiced_part(sound, start, end) >= _VOICED


def unsteadiness(sound: Sound, start: float, end: float) -> float:
    """How much the shape of the spectrum changes from ``start`` to ``end`` (seconds).

    The standard deviation over time of the log spectrum below 4.8 kHz without its level, mean over
    bands of 320 Hz, in nepers; infinite for less than 65 ms. The first and last fifth are left out.
    """
    clip = sound[round(start * SPEECH_RATE) : round(end * SPEECH_RATE)].astype(np.float64)
    length, step = SPEECH_RATE // 40, SPEECH_RATE // 100
    if len(clip) < length + 4 * step:
        return float("inf")
    frames = np.lib.stride_tricks.sliding_window_view(clip, length)[::step] * np.hanning(length)
    shape = np.log(np.abs(np.fft.rfft(frames, axis=1))[:, : 15 * _BAND] + 1e-3)
    bands = shape.reshape(len(shape), -1, _BAND).mean(axis=2)
    bands -= bands.mean(axis=1, keepdims=True)
    edge = len(bands) // 5 if len(bands) > 7 else 0
    return float(bands[edge : len(bands) - edge].std(axis=0).mean())


def stands_alone(sound: Sound, start: float, end: float, silence: float = 0.05) -> bool:
    """Whether there is silence for ``silence`` seconds before and after, give or take 40 ms at the edges."""
    around = 3.0
    first = max(start - around, 0.0)
    level = levels(sound[round(first * SPEECH_RATE) : round((end + around) * SPEECH_RATE)], SPEECH_RATE)
    quiet = level <= silence_threshold(level)
    count, slack = round(silence / STEP), 4

    def quiet_run(at: float, step: int) -> bool:
        n = round((at - first) / STEP)
        for skipped in range(slack + 1):
            a = n + step * skipped
            window = quiet[a : a + count] if step > 0 else quiet[max(a - count, 0) : max(a, 0)]
            if window.all():
                return True
        return False

    return quiet_run(start, -1) and quiet_run(end, 1)


def _stands_apart(span: Span, loud: Sequence[Span]) -> bool:
    """Whether the stretch is a whole loud run of its own, not the edge of a word's nor the first sound of the word after it."""
    n = bisect_left(loud, span[0] - STEP / 2, key=lambda run: run[0])
    if n == len(loud) or abs(span[0] - loud[n][0]) > STEP / 2 or abs(span[1] - loud[n][1]) > STEP / 2:
        return False
    before = loud[n - 1][1] if n else float("-inf")
    after = loud[n + 1][0] if n + 1 < len(loud) else float("inf")
    return span[0] - before >= _APART and after - span[1] >= _APART


def voiced_part(sound: Sound, start: float, end: float) -> float:
    """The part of the 40 ms frames from ``start`` to ``end`` (seconds) that are periodic like a voice, 0 to 1."""
    clip = sound[round(start * SPEECH_RATE) : round(end * SPEECH_RATE)].astype(np.float64)
    frames = [clip[at : at + _FRAME] for at in range(0, len(clip) - _FRAME + 1, _FRAME // 2)]
    if not frames:
        return 0.0
    return float(np.mean([_periodicity(frame) > _PERIODIC for frame in frames]))


def _periodicity(frame: NDArray[np.float64]) -> float:
    """The highest normalised autocorrelation at a lag of the human voice."""
    frame = frame - frame.mean()
    best = 0.0
    for lag in range(SPEECH_RATE // _HIGHEST, min(SPEECH_RATE // _LOWEST, len(frame) // 2)):
        a, b = frame[:-lag], frame[lag:]
        scale = np.sqrt(np.dot(a, a) * np.dot(b, b))
        if scale > 0:
            best = max(best, float(np.dot(a, b) / scale))
    return best
