"""The sweep: finding what to take out, and turning finds into an edit."""

from bisect import bisect_left
from collections.abc import Callable, Sequence
from typing import get_args

import numpy as np
from numpy.typing import NDArray

from hovvet.core.sheet.edits import Batch, CutPause, CutWords, Edit
from hovvet.core.sheet.model import Piece
from hovvet.core.sound.silence import Sound, silences, silences_of
from hovvet.core.spans import Span, intersect, subtract
from hovvet.core.sweep.finds import Find, FindKind, Finds
from hovvet.core.sweep.phrases import filler_phrases, find_of
from hovvet.core.sweep.repeats import repeats
from hovvet.core.sweep.restarts import restarts
from hovvet.core.sweep.retakes import retakes
from hovvet.core.sweep.settings import SweepSettings
from hovvet.core.time import EPSILON
from hovvet.core.words.transcript import Transcript
from hovvet.core.words.vocabulary import ENGLISH, bare

ALL_KINDS: frozenset[FindKind] = frozenset(get_args(FindKind))
_ENGLISH_ONLY: frozenset[FindKind] = frozenset({"restart"})  # found by words that no English phrase ends with
_LEAST_SILENCE = 0.15  # seconds: shorter silences do not count towards a pause


def sweep(transcript: Transcript, silent: Sequence[Span], settings: SweepSettings) -> Finds:
    """Find what could go. ``silent`` are the silences of the recording in seconds, from ``find_silences``.

    A word is in one find at most: a filler sound inside an abandoned phrase goes with the phrase.
    """
    sounds = frozenset(map(bare, settings.fillers))
    fillers = frozenset(word.id for word in transcript.words if word.kind != "sound" and bare(word.text) in sounds)
    found = _of_words(transcript, settings, fillers)
    if "pause" in settings.kinds:
        gone = frozenset(word for find in found for word in find.words)
        for run in _pause_runs(transcript, gone, silent, settings.pause_from):
            found += [Find(kind="pause", start=round(a, 3), end=round(b, 3)) for a, b in run]
    found.sort(key=lambda find: (find.start, find.end))
    saves = sum(find.end - find.start for find in found if find.kind != "pause")
    saves += sum(end - start for start, end in pause_cuts(transcript, found, settings))
    return Finds(finds=tuple(found), saves=round(saves, 3))


def _of_words(transcript: Transcript, settings: SweepSettings, fillers: frozenset[int]) -> list[Find]:
    """Finds made of words, the larger kinds first; no word in two of them."""
    words = transcript.words
    phrases = filler_phrases(words, settings.phrases)
    said_little = fillers.union(word for find in phrases for word in find.words)
    looked: list[tuple[FindKind, Callable[[], list[Find]]]] = [
        ("retake", lambda: retakes(words, said_little)),
        ("restart", lambda: restarts(words, fillers)),
        ("repeat", lambda: repeats(words, fillers)),
        ("phrase", lambda: phrases),
        ("filler", lambda: [find_of("filler", [word], word.confidence) for word in words if word.id in fillers]),
    ]
    found: list[Find] = []
    taken: set[int] = set()
    for kind, look in looked:
        if kind in settings.kinds and (transcript.language == ENGLISH or kind not in _ENGLISH_ONLY):
            fresh = [find for find in look() if not taken.intersection(find.words)]
            found += fresh
            taken.update(word for find in fresh for word in find.words)
    return found


def find_silences(sound: Sound, rate: int) -> list[Span]:
    """The silences of a recording that may count towards a pause, in seconds."""
    return silences(sound, rate, _LEAST_SILENCE)


def silences_by(level: NDArray[np.float32]) -> list[Span]:
    """The same, by the levels of the sound in dB, one for each 10 ms."""
    return silences_of(level, _LEAST_SILENCE)


def _pause_runs(
    transcript: Transcript, gone: frozenset[int], silent: Sequence[Span], pause_from: float
) -> list[list[Span]]:
    """Silences between kept words, those joined by a word that goes taken together, when long enough in all."""
    spoken = [(word.start, word.end) for word in transcript.words]
    quiet = intersect(subtract([(0.0, transcript.duration)], spoken), silent)
    kept = [(word.start, word.end) for word in transcript.words if word.id not in gone]
    runs = []
    n = 0
    for start, end in subtract([(0.0, transcript.duration)], kept):
        run = []
        while n < len(quiet) and quiet[n][0] < end:
            if quiet[n][0] >= start and quiet[n][1] - quiet[n][0] >= _LEAST_SILENCE:
                run.append(quiet[n])
            n += 1
        if sum(b - a for a, b in run) >= pause_from:
            runs.append(run)
    return runs


def struck_in(piece: Piece) -> frozenset[int]:
    """The ids of the words that are cut in a piece."""
    return frozenset(word for cut in piece.word_cuts for word in cut.words)


def pause_cuts(
    transcript: Transcript, finds: Sequence[Find], settings: SweepSettings, struck: frozenset[int] = frozenset()
) -> list[Span]:
    """What to take out of the pauses found so that ``pause_left`` seconds stay between the kept words.

    Pauses with nothing but found or ``struck`` words between them count as one: half of what
    is left stays at its beginning, half at its end.
    """
    gone = struck.union(word for find in finds for word in find.words)
    kept = [word for word in transcript.words if word.id not in gone]
    starts = [word.start for word in kept]
    runs: dict[int, list[Span]] = {}
    for find in finds:
        if find.kind == "pause":
            runs.setdefault(bisect_left(starts, find.end - EPSILON), []).append((find.start, find.end))
    cuts: list[Span] = []
    for run in runs.values():
        if sum(b - a for a, b in run) > settings.pause_left:
            half = settings.pause_left / 2
            cuts += intersect(run, [(run[0][0] + half, run[-1][1] - half)])
    return cuts


def sweep_edit(piece: Piece, transcript: Transcript, finds: Finds, settings: SweepSettings) -> Edit:
    """One edit that takes out all the finds that lie in a piece."""
    edits: list[Edit] = []
    inside = tuple(find for find in finds.finds if piece.start <= find.start and find.end <= piece.end + EPSILON)
    if not inside:
        return Batch(edits=())
    for kind in dict.fromkeys(find.kind for find in inside if find.kind != "pause"):
        words = tuple(word for find in inside if find.kind == kind for word in find.words)
        edits.append(CutWords(piece=piece.id, words=words, reason=kind))
    for start, end in pause_cuts(transcript, inside, settings, struck_in(piece)):
        edits.append(CutPause(piece=piece.id, start=round(start, 3), end=round(end, 3)))
    return Batch(edits=tuple(edits))
