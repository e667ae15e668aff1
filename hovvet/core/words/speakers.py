"""Who speaks when, as the voices suggest, once a person has said how many there are.

A suggestion only: each utterance is described by the colour of its voice
(mel-frequency cepstral coefficients) and its pitch, and utterances alike are
grouped (Ward's method). Good on clearly different voices, unsure on alike ones.
"""

from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray

from hovvet.core.errors import CoreError
from hovvet.core.media.decode import SPEECH_RATE
from hovvet.core.media.ffmpeg import Progress, no_progress
from hovvet.core.sound.silence import Sound
from hovvet.core.words.corrections import Turn
from hovvet.core.words.transcript import Word
from hovvet.core.words.vocabulary import ends_sentence

MOST_SPEAKERS = 8
_PAUSE = 0.25  # seconds that end an utterance
_LONGEST = 6.0
_SHORTEST = 0.8  # shorter utterances say too little of their voice to make a group
_CHANGE = 0.6  # what it costs to change speakers, in mean squared deviations times seconds
_FRAME, _STEP = 400, 160  # samples: 25 ms every 10 ms
_MELS, _COEFFICIENTS = 26, 13
_PITCH_WEIGHT = 2.0  # of the pitch against one coefficient

Features = NDArray[np.float64]


def suggest_speakers(
    sound: Sound | NDArray[np.int16], words: Sequence[Word], count: int, progress: Progress = no_progress
) -> list[Turn]:
    """Turns of ``count`` speakers, called S1, S2, … in the order they are first heard.

    ``sound`` is mono at 16 kHz, shape (samples,), at any scale. Raises CoreError for a count that cannot be.
    """
    if not 1 <= count <= MOST_SPEAKERS:
        raise CoreError(f"Give a number of speakers from 1 to {MOST_SPEAKERS}.")
    parts = utterances(words)
    if not parts:
        return []
    if count == 1 or len(parts) <= count:
        labels = list(range(len(parts))) if count > 1 else [0] * len(parts)
    else:
        voices = []
        for n, (a, b) in enumerate(parts):
            voices.append(_voice(sound, words[a].start, words[b - 1].end))
            progress((n + 1) / len(parts))
        lengths = np.array([words[b - 1].end - words[a].start for a, b in parts])
        labels = _grouped(np.array(voices), lengths, count)
    names: dict[int, str] = {}
    turns: list[Turn] = []
    for (a, b), label in zip(parts, labels, strict=True):
        name = names.setdefault(label, f"S{len(names) + 1}")
        if turns and turns[-1].speaker == name:
            turns[-1] = turns[-1].model_copy(update={"last": words[b - 1].id})
        else:
            turns.append(Turn(first=words[a].id, last=words[b - 1].id, speaker=name))
    return turns


def utterances(words: Sequence[Word]) -> list[tuple[int, int]]:
    """Runs of words that one person surely says, as (first, one past last): parted by pauses and sentence ends."""
    runs: list[tuple[int, int]] = []
    first = 0
    for n in range(1, len(words) + 1):
        last = words[n - 1]
        if n < len(words):
            gap = words[n].start - last.end
            parted = gap >= _PAUSE or (ends_sentence(last.text) and gap >= 0.05)
            if not parted and last.end - words[first].start < _LONGEST:
                continue
        runs.append((first, n))
        first = n
    return runs


def _grouped(voices: Features, lengths: Features, count: int) -> list[int]:
    """Which group each utterance belongs to: long ones make the groups, short ones follow them.

    The likeliest row of speakers where changing from one to the next costs something (Viterbi): a
    short utterance says little of its voice, and is more often than not by whoever spoke before.
    """
    enough = lengths >= min(_SHORTEST, float(np.sort(lengths)[-count]))
    scale = voices[enough].std(axis=0)
    alike = (voices - voices[enough].mean(axis=0)) / np.where(scale > 0, scale, 1.0)
    alike[:, -1] *= _PITCH_WEIGHT
    from scipy.cluster.hierarchy import fcluster, linkage  # here: it is a quarter of the time in which a worker starts

    groups = fcluster(linkage(alike[enough], "ward"), count, "maxclust")
    centres = np.array([alike[enough][groups == k].mean(axis=0) for k in np.unique(groups)])
    far = ((alike[:, None, :] - centres[None]) ** 2).mean(axis=2) * np.minimum(lengths, _LONGEST)[:, None]
    cost = far[0]
    came: list[NDArray[np.intp]] = []
    for n in range(1, len(far)):
        change = cost[:, None] + _CHANGE * (1 - np.eye(len(centres)))
        came.append(change.argmin(axis=0))
        cost = change.min(axis=0) + far[n]
    labels = [int(cost.argmin())]
    for back in reversed(came):
        labels.append(int(back[labels[-1]]))
    return labels[::-1]


def _voice(sound: Sound | NDArray[np.int16], start: float, end: float) -> Features:
    """How a voice sounds from ``start`` to ``end`` seconds: mean coefficients and log pitch, shape (13,)."""
    clip = sound[round(start * SPEECH_RATE) : round(end * SPEECH_RATE)].astype(np.float64)
    clip /= np.abs(clip).max(initial=0.0) or 1.0
    if len(clip) < 4 * _FRAME:
        clip = np.pad(clip, (0, 4 * _FRAME - len(clip)))
    frames = np.lib.stride_tricks.sliding_window_view(clip, _FRAME)[::_STEP]
    power = np.abs(np.fft.rfft(frames * np.hamming(_FRAME), 512)) ** 2
    level = power.sum(axis=1)
    loud = level > np.percentile(level, 40)  # the voice itself, not what lies between
    from scipy.fft import dct  # here: slow to load, and seldom needed

    cepstrum = dct(np.log(power[loud] @ _mel_bank().T + 1e-10), norm="ortho")[:, 1:_COEFFICIENTS]
    return np.append(cepstrum.mean(axis=0), _log_pitch(frames[loud]))


def _mel_bank() -> Features:
    """Triangular filters on the mel scale, shape (26, 257); Davis and Mermelstein (1980)."""
    top = 2595 * np.log10(1 + SPEECH_RATE / 2 / 700)
    edges = 700 * (10 ** (np.linspace(0, top, _MELS + 2) / 2595) - 1) / SPEECH_RATE * 512
    bins = np.arange(257)
    rise = (bins - edges[:-2, None]) / (edges[1:-1] - edges[:-2])[:, None]
    fall = (edges[2:, None] - bins) / (edges[2:] - edges[1:-1])[:, None]
    bank: Features = np.maximum(0, np.minimum(rise, fall))
    return bank


def _log_pitch(frames: Features) -> float:
    """The median pitch of the voiced frames, by autocorrelation, as log2 of Hz; 7 (128 Hz) when none is voiced."""
    centred = frames - frames.mean(axis=1, keepdims=True)
    spectrum = np.abs(np.fft.rfft(centred, 1024)) ** 2
    correlation = np.fft.irfft(spectrum)[:, :_FRAME]
    correlation /= correlation[:, :1] + 1e-12
    low, high = SPEECH_RATE // 400, SPEECH_RATE // 70
    lags = correlation[:, low:high]
    best = lags.argmax(axis=1)
    voiced = lags.max(axis=1) > 0.35
    return float(np.median(np.log2(SPEECH_RATE / (best[voiced] + low)))) if voiced.any() else 7.0
