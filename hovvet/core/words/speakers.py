"""Who speaks when, as the voices suggest.

A suggestion only: each utterance is described by the vector of its voice (see ``engines.voices``), and utterances alike are grouped
(Ward's method), into as many groups as a person says there are speakers, or as the voices themselves suggest.
"""

from collections.abc import Sequence
from typing import Any

import numpy as np
from numpy.typing import NDArray

from hovvet.core.engines.voices import WINDOW, Values, voice_vectors
from hovvet.core.errors import CoreError
from hovvet.core.media.ffmpeg import Progress, no_progress
from hovvet.core.spans import Span
from hovvet.core.value import with_changes
from hovvet.core.words.corrections import Turn
from hovvet.core.words.transcript import Word
from hovvet.core.words.vocabulary import ends_phrase

MOST_SPEAKERS = 8
_PAUSE = 0.08  # seconds that end an utterance
_LONGEST = 2.4
_TELLING = 1.2  # seconds: shorter utterances say too little of their voice to make a group
_MOST_WINDOWS = 3  # of an utterance
_CHANGE = 0.1  # what it costs to change speakers, in distance times seconds
_ROUNDS = 3  # in which utterances go to the group they are nearest to
_APART = 0.34  # distance (1 - cosine) from which on two groups are two people
_LEAST = 0.03  # of the time of speech: a group with less is nobody


def suggest_speakers(
    sound: NDArray[Any], words: Sequence[Word], count: int | None = None, progress: Progress = no_progress
) -> list[Turn]:
    """Turns of ``count`` speakers, called S1, S2, … in the order they are first heard; of as many as are heard without a count.

    ``sound`` is mono at 16 kHz, shape (samples,), at any scale. Raises CoreError for a count that cannot be, and where set-up
    could not get what tells voices apart.
    """
    if count is not None and not 1 <= count <= MOST_SPEAKERS:
        raise CoreError(f"Give a number of speakers from 1 to {MOST_SPEAKERS}.")
    parts = utterances(words)
    if not parts:
        return []
    labels = [0] * len(parts)
    if count != 1 and len(parts) > 1:
        lengths = np.array([words[b - 1].end - words[a].start for a, b in parts])
        vectors = _voices(sound, [(words[a].start, words[b - 1].end) for a, b in parts], progress)
        labels = _grouped(vectors, lengths, min(count or _heard(vectors, lengths), len(parts)))
    names: dict[int, str] = {}
    turns: list[Turn] = []
    for (a, b), label in zip(parts, labels, strict=True):
        name = names.setdefault(label, f"S{len(names) + 1}")
        if turns and turns[-1].speaker == name:
            turns[-1] = with_changes(turns[-1], last=words[b - 1].id)
        else:
            turns.append(Turn(first=words[a].id, last=words[b - 1].id, speaker=name))
    return turns


def utterances(words: Sequence[Word]) -> list[tuple[int, int]]:
    """Runs of words that one person surely says, as (first, one past last): parted by pauses and punctuation, and short."""
    runs: list[tuple[int, int]] = []
    first = 0
    for n in range(1, len(words) + 1):
        last = words[n - 1]
        if n < len(words):
            gap = words[n].start - last.end
            parted = gap >= _PAUSE or ends_phrase(last.text)
            if not parted and last.end - words[first].start < _LONGEST:
                continue
        runs.append((first, n))
        first = n
    return runs


def _voices(sound: NDArray[Any], spans: Sequence[Span], progress: Progress) -> Values:
    """The vector of each span, the mean of up to three windows in it, shape (spans, 256)."""
    windows: list[Span] = []
    owners: list[int] = []
    for n, (start, end) in enumerate(spans):
        many = min(max(int((end - start) / WINDOW), 1), _MOST_WINDOWS)
        for k in range(many):
            middle = start + (end - start) * (k + 0.5) / many
            half = min(WINDOW, (end - start) / many) / 2
            windows.append((middle - half, middle + half))
            owners.append(n)
    sums = np.zeros((len(spans), 256), np.float32)
    for n, vector in enumerate(voice_vectors(sound, windows)):
        sums[owners[n]] += vector
        progress((n + 1) / len(windows))
    return _directions(sums)


def _directions(vectors: Values) -> Values:
    made: Values = vectors / np.maximum(np.linalg.norm(vectors, axis=1, keepdims=True), 1e-9)
    return made


def _telling(lengths: NDArray[np.float64], count: int) -> NDArray[np.bool_]:
    """Which utterances are long enough to make groups: at least as many as there are to be."""
    told: NDArray[np.bool_] = lengths >= min(_TELLING, float(np.sort(lengths)[-count]))
    return told


def _heard(vectors: Values, lengths: NDArray[np.float64]) -> int:
    """How many people the voices suggest: groups that are far apart and speak for long enough."""
    from scipy.cluster.hierarchy import fcluster, linkage  # here: it is a quarter of the time in which a worker starts

    telling = _telling(lengths, 2)
    groups = fcluster(linkage(vectors[telling], "average", metric="cosine"), _APART, "distance")
    times = np.array([lengths[telling][groups == group].sum() for group in np.unique(groups)])
    return int(np.clip((times >= _LEAST * times.sum()).sum(), 1, MOST_SPEAKERS))


def _grouped(vectors: Values, lengths: NDArray[np.float64], count: int) -> list[int]:
    """Which group each utterance belongs to: long ones make the groups, short ones follow them.

    The likeliest row of speakers where changing from one to the next costs something (Viterbi): a
    short utterance says little of its voice, and is more often than not by whoever spoke before.
    """
    from scipy.cluster.hierarchy import fcluster, linkage

    if count == 1:
        return [0] * len(vectors)
    telling = _telling(lengths, count)
    alike, weights = vectors[telling], lengths[telling][:, None]
    groups = fcluster(linkage(alike, "ward"), count, "maxclust")
    for _ in range(_ROUNDS):
        centres = _directions(np.array([(alike * weights)[groups == k].sum(axis=0) for k in np.unique(groups)]))
        groups = (alike @ centres.T).argmax(axis=1)
    far = (1 - vectors @ centres.T) * np.minimum(lengths, _LONGEST)[:, None]
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
