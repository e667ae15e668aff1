"""Sounds that nobody wrote down: voice where there is no word, often an "um" the recogniser left out."""

from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray

from hovvet.core.engines.speech import Heard
from hovvet.core.media.decode import SPEECH_RATE
from hovvet.core.sound.silence import STEP, Sound, levels, runs, silence_threshold
from hovvet.core.spans import Span, merge, subtract

SOUND_TEXT = "[sound]"  # a voice that is no filler: a laugh, a hum
FILLER_TEXT = "um"

_SHORTEST, _LONGEST = 0.12, 1.2  # seconds
_LONGEST_FILLER = 0.7
_MARGIN = 0.03  # seconds beside a word that still belong to it
_APART = 0.05  # seconds of silence that part a sound from a word
_FRAME = 640  # samples: 40 ms, two periods of the lowest voice
_LOWEST, _HIGHEST = 75, 400  # Hz, of voices
_PERIODIC = 0.5  # normalised autocorrelation from which on a frame is voiced
_VOICED = 0.6  # of the frames


def unwritten(words: Sequence[Heard], sound: Sound) -> list[Heard]:
    """Voiced stretches of 0.12 to 1.2 s that stand apart from all words, as words of their own.

    Their text is "um" when they are short enough for a filler, else "[sound]".
    """
    level = levels(sound, SPEECH_RATE)
    loud = [(a * STEP, b * STEP) for a, b in runs(level > silence_threshold(level))]
    taken = [(word.start - _MARGIN, word.end + _MARGIN) for word in words]
    found = []
    for start, end in subtract(loud, merge(taken)):
        whole = _SHORTEST <= end - start <= _LONGEST
        if whole and _stands_apart((start, end), loud) and voiced_part(sound, start, end) >= _VOICED:
            text = FILLER_TEXT if end - start <= _LONGEST_FILLER else SOUND_TEXT
            found.append(Heard(text, start, end, 0.5))
    return found


def _stands_apart(span: Span, loud: Sequence[Span]) -> bool:
    """Whether the stretch is a whole loud run of its own, not the edge of a word's."""
    return any(abs(span[0] - a) < STEP / 2 and abs(span[1] - b) < STEP / 2 for a, b in loud)


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
