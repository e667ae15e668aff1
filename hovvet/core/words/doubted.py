"""Filler sounds that were written down as words ("dumb", "come", "I'm"): weighed again before they are believed.

A word that stands alone between silences and sounds like a filler may be one. The words around it are weighed against the
sound twice more, with "um" and with "uh" in its place; where one of these is the likelier reading, it was a filler.
"""

from bisect import bisect_left
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from hovvet.core.engines.speech import Heard, Recogniser
from hovvet.core.media.decode import SPEECH_RATE
from hovvet.core.sound.silence import Sound, loud_runs
from hovvet.core.spans import Span
from hovvet.core.words.sounds import FILLER_TEXT, unsteadiness
from hovvet.core.words.vocabulary import bare, edges

# What recognisers write when an "um" or "uh" stands alone and they would rather have a word: words that hardly ever stand
# alone, and words that often do, in the mouth of one who thinks.
_SELDOM = frozenset("am arm boom come dumb em home mom mum ohm or some thumb up".split())
_OFTEN = frozenset("a ah an and are at but had her i'm in it of oh on so that the them then was".split())
_ODDS_SELDOM, _ODDS_OFTEN = -10.0, 0.0  # nepers by which a filler has to be likelier than such a word
_FILLERS = ("um", "uh")
_SURE = 0.985  # confidence of a word that is not doubted
_ALONE = 0.05  # seconds of silence on both sides
_OWN = 0.7  # of a voice between silences that has to lie in a word to be its own
_SHORTEST, _LONGEST = 0.1, 0.6  # seconds
_HELD = 0.75  # nepers (see unsteadiness): more is no "um"
_CONTEXT = 1.8  # seconds of speech on either side that are weighed with it
_PAUSE = 0.15  # seconds of silence at which such a piece may begin and end
_BETWEEN = 0.3  # seconds of silence between two pieces that are weighed together
_TOGETHER = 26.0  # seconds


@dataclass(frozen=True)
class _Piece:
    """A doubted word and the words around it: positions, and where they lie in the sound (seconds)."""

    doubted: int
    first: int
    last: int
    span: Span


def doubted(words: Sequence[Heard], sound: Sound) -> dict[int, Span]:
    """Positions of the words that may be filler sounds misheard, and where their voice is (seconds)."""
    loud = loud_runs(sound)
    found = {}
    for n, word in enumerate(words):
        text = bare(word.text)
        if text not in _SELDOM and (text not in _OFTEN or word.confidence > _SURE):
            continue
        voice = _alone(words, n, len(sound) / SPEECH_RATE, loud)
        if voice is None or not _SHORTEST <= voice[1] - voice[0] <= _LONGEST or _repeated(words, n):
            continue
        if unsteadiness(sound, *voice) < _HELD:
            found[n] = voice
    return found


def _alone(words: Sequence[Heard], n: int, length: float, loud: Sequence[Span]) -> Span | None:
    """Where the voice of a word is that stands alone: between silences, though the words beside it may reach into them."""
    word = words[n]
    k = bisect_left(loud, word.start, key=lambda run: run[1])
    inside = [run for run in loud[k : k + 3] if run[0] < word.end]
    if len(inside) == 1:
        before = loud[k - 1][1] if k else 0.0
        after = loud[k + 1][0] if k + 1 < len(loud) else length
        run = inside[0]
        own = min(run[1], word.end) - max(run[0], word.start) >= _OWN * (run[1] - run[0])
        if own and min(run[0] - before, after - run[1]) >= _ALONE:
            return run
    before = words[n - 1].end if n else 0.0
    after = words[n + 1].start if n + 1 < len(words) else length
    return (word.start, word.end) if min(word.start - before, after - word.end) >= _ALONE else None


def _repeated(words: Sequence[Heard], n: int) -> bool:
    """Whether a word is said twice in a row: that is found as what it is."""
    beside = [bare(words[m].text) for m in (n - 1, n + 1) if 0 <= m < len(words)]
    return bare(words[n].text) in beside


def believed(words: Sequence[Heard], sound: Sound, recogniser: Recogniser) -> list[Heard]:
    """The words, those that were filler sounds misheard written as "um"."""
    voices = doubted(words, sound)
    pieces = [_piece(words, n, sound) for n in voices]
    read = list(words)
    for batch in _batches(pieces):
        as_read = [[word.text for word in words[piece.first : piece.last + 1]] for piece in batch]
        readings = [as_read]
        for k, piece in enumerate(batch):
            for filler in _FILLERS:
                other = list(as_read[k])
                other[piece.doubted - piece.first] = filler + edges(words[piece.doubted].text)[1]
                readings.append([*as_read[:k], other, *as_read[k + 1 :]])
        likely = recogniser.weigh(
            _joined(batch, sound), [" ".join(text for each in reading for text in each) for reading in readings]
        )
        for k, piece in enumerate(batch):
            word = words[piece.doubted]
            gained = max(likely[1 + len(_FILLERS) * k + m] for m in range(len(_FILLERS))) - likely[0]
            if gained >= (_ODDS_SELDOM if bare(word.text) in _SELDOM else _ODDS_OFTEN):
                text = f"{FILLER_TEXT}{edges(word.text)[1]}"
                read[piece.doubted] = Heard(text, *voices[piece.doubted], word.confidence)
    return read


def _piece(words: Sequence[Heard], n: int, sound: Sound) -> _Piece:
    first = n
    while first and words[n].start - words[first - 1].start < 2 * _CONTEXT:
        parted = words[first].start - words[first - 1].end >= _PAUSE
        if parted and words[n].start - words[first].start >= _CONTEXT:
            break
        first -= 1
    last = n
    while last + 1 < len(words) and words[last + 1].end - words[n].end < 2 * _CONTEXT:
        parted = words[last + 1].start - words[last].end >= _PAUSE
        if parted and words[last].end - words[n].end >= _CONTEXT:
            break
        last += 1
    before = words[first - 1].end if first else 0.0
    after = words[last + 1].start if last + 1 < len(words) else len(sound) / SPEECH_RATE
    start = max(words[first].start - 0.1, (before + words[first].start) / 2)
    return _Piece(n, first, last, (start, min(words[last].end + 0.1, (words[last].end + after) / 2)))


def _batches(pieces: Sequence[_Piece]) -> list[list[_Piece]]:
    batches: list[list[_Piece]] = []
    room = 0.0
    for piece in pieces:
        length = piece.span[1] - piece.span[0] + _BETWEEN
        if length > room:
            batches.append([])
            room = _TOGETHER
        batches[-1].append(piece)
        room -= length
    return batches


def _joined(batch: Sequence[_Piece], sound: Sound) -> Sound:
    """The pieces one after another."""
    gap = np.zeros(round(_BETWEEN * SPEECH_RATE), np.float32)
    made: list[Sound] = []
    for piece in batch:
        a, b = (round(edge * SPEECH_RATE) for edge in piece.span)
        made += [sound[a:b], gap]
    return np.concatenate(made)
