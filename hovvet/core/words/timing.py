"""Word times from the sound itself.

A recogniser knows what was said, and only roughly when. The recognised words
are aligned to the sound by a hidden Markov model of their phones (forced
alignment with PocketSphinx), then their edges at pauses are moved to where the
sound's level rises and falls.
"""

from collections.abc import Iterator, Sequence
from functools import lru_cache
from typing import Any, Protocol

import numpy as np
from numpy.typing import NDArray

from hovvet.core.engines.speech import Heard
from hovvet.core.media.decode import SPEECH_RATE
from hovvet.core.sound.silence import STEP, Sound, levels, silence_threshold
from hovvet.core.spans import Span
from hovvet.core.words.pronounce import phones
from hovvet.core.words.sounds import FILLER_TEXT, held, lookalikes, stands_alone
from hovvet.core.words.vocabulary import bare, is_filler_sound

SHORTEST_WORD = 0.04  # seconds
_LEAN = 0.03  # the aligner's edges lie this much early (measured on bench/labelled/edges.json)
_BEAMS = (1e-80, 1e-200)  # the first does for nearly all chunks; the wide one for the rest
_FILLERS = {"uu_": "AH", "um_": "AH M"}  # names no word can have
_FILLER_WEIGHT = 1e-4
_APART = 0.04  # seconds between such a filler and the words beside it
_SAME = 0.35  # seconds within which another filler is the same one
_LEFT_OUT = 0.4  # confidence of a filler that the recogniser left out
_SHORTEST_FILLER = 0.12  # seconds
_CLEAR = 28.0  # dB between room and speech from which on a room is not noisy
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


class Refiner(Protocol):
    """Makes the times of words better than a recogniser knows them."""

    def refine_with_fillers(self, words: Sequence[Heard], sound: Sound, parts: Sequence[Span]) -> list[Heard]:
        """The same words, and filler sounds that were left out, in order. ``parts`` are chunks (seconds) that no word crosses."""


class ByLevel:
    """Refines word times by nothing but where the sound is loud and quiet: for languages that cannot be aligned."""

    def refine(self, words: Sequence[Heard], sound: Sound, parts: Sequence[Span]) -> list[Heard]:
        """The same words, their edges at pauses moved to where the level rises and falls."""
        return without_overlaps(at_pauses(words, sound), len(sound) / SPEECH_RATE)

    refine_with_fillers = refine  # which were left out is not known


class Aligner:
    """Refines word times of English speech. Holds the acoustic model, so make one and keep it."""

    def __init__(self) -> None:
        self._decoders: dict[float, Any] = {}

    def refine(self, words: Sequence[Heard], sound: Sound, parts: Sequence[Span]) -> list[Heard]:
        """The same words with better times. ``parts`` are chunks (seconds) that no word crosses.

        Where the alignment fails, the recogniser's own times stay.
        """
        refined: list[Heard] = []
        for (start, end), inside in _by_part(words, parts):
            refined += self._align(inside, sound, start, end)
        refined += words[len(refined) :]
        return without_overlaps(at_pauses(refined, sound), len(sound) / SPEECH_RATE)

    def refine_with_fillers(self, words: Sequence[Heard], sound: Sound, parts: Sequence[Span]) -> list[Heard]:
        """As ``refine``, with the "um"s that the recogniser left out.

        The words are searched for with an optional filler between any two; one that is found counts when
        it stands alone between silences and is a held vowel, at first and once all words have their places. A lone "at" or
        "had" that is but a held vowel is read as the filler it was.
        """
        left_out = self._left_out(words, sound, parts)
        refined = self.refine(_in_order([*words, *left_out]), sound, parts)
        kept = [n for n, word in enumerate(refined) if word.confidence != _LEFT_OUT or _alone(refined, n, sound)]
        if len(kept) < len(refined):
            refined = self.refine([refined[n] for n in kept], sound, parts)
        return lookalikes(refined, sound)

    def _left_out(self, words: Sequence[Heard], sound: Sound, parts: Sequence[Span]) -> list[Heard]:
        return [
            Heard(FILLER_TEXT, a, b, _LEFT_OUT)
            for (start, end), inside in _by_part(words, parts)
            for a, b in self._between(inside, sound, start, end)
            if _is_filler(sound, a, b)
        ]

    def _between(self, words: list[Heard], sound: Sound, start: float, end: float) -> list[Span]:
        """Where a search with optional fillers puts fillers, in seconds of the sound."""
        spoken = [name for word in words if (name := _name(word.text))]
        if not spoken:
            return []
        decoder = self._ready(_BEAMS[0], words)
        for name, said in _FILLERS.items():
            if decoder.lookup_word(name) is None:
                decoder.add_word(name, said, True)
        choice = "".join(f" | /{_FILLER_WEIGHT}/ {name}" for name in _FILLERS)
        text = " <f> ".join(spoken)
        grammar = f"#JSGF V1.0; grammar g; <f> = /1/ <NULL>{choice}; public <all> = <f> {text} <f>;"
        try:
            decoder.add_jsgf_string("fillers", grammar)
            decoder.activate_search("fillers")
            segments = _run(decoder, _samples(sound, start, end))
        except RuntimeError:
            return []
        return [
            (start + seg.start_frame * 0.01, start + (seg.end_frame + 1) * 0.01)
            for seg in segments
            if seg.word.split("(")[0] in _FILLERS
        ]

    def _align(self, words: list[Heard], sound: Sound, start: float, end: float) -> list[Heard]:
        names = [_name(word.text) for word in words]
        spoken = [name for name in names if name]
        samples = _samples(sound, start, end)
        for beam in _BEAMS:
            found = self._search(self._ready(beam, words), spoken, samples)
            if found is not None:
                break
        else:
            return words
        segments = iter(found)
        aligned = []
        for word, name in zip(words, names, strict=True):
            if not name:
                aligned.append(word)
                continue
            first, last = next(segments)
            a, b = start + first * 0.01 + _LEAN, start + (last + 1) * 0.01 + _LEAN
            aligned.append(Heard(word.text, a, max(b, a + SHORTEST_WORD), word.confidence))
        return aligned

    @staticmethod
    def _search(decoder: Any, spoken: list[str], samples: bytes) -> list[tuple[int, int]] | None:
        """First and last frame (10 ms) of each word, or None when the search lost its way."""
        try:
            decoder.set_align_text(" ".join(spoken))
            found = [seg for seg in _run(decoder, samples) if not seg.word.startswith(("<", "["))]
        except RuntimeError:
            return None
        if [seg.word.split("(")[0] for seg in found] != spoken:
            return None
        return [(seg.start_frame, seg.end_frame) for seg in found]

    def _ready(self, beam: float, words: Sequence[Heard]) -> Any:
        """The decoder with this beam, knowing how all these words are said."""
        from pocketsphinx import Decoder  # slow to import, not always needed

        if beam not in self._decoders:
            # Without the second pass over a lattice, which loses the last words in noise (6 chunks of 7, measured).
            self._decoders[beam] = Decoder(
                lm=None, samprate=SPEECH_RATE, beam=beam, wbeam=beam, pbeam=beam, bestpath=False, loglevel="FATAL"
            )
        decoder = self._decoders[beam]
        missing = {_name(word.text): bare(word.text) for word in words if _name(word.text)}
        missing = {name: text for name, text in missing.items() if decoder.lookup_word(name) is None}
        if missing:
            said = phones(list(missing.values()))
            for name, text in missing.items():
                decoder.add_word(name, said[text], False)
        return decoder


def refiner(language: str) -> Refiner:
    """What makes the times of words in a language (ISO 639-1) better."""
    return Aligner() if language == "en" else ByLevel()


def _by_part(words: Sequence[Heard], parts: Sequence[Span]) -> Iterator[tuple[Span, list[Heard]]]:
    """Each chunk that has words, with its words, in order; words after the last chunk are in none."""
    n = 0
    for part in parts:
        inside = []
        while n < len(words) and (words[n].start + words[n].end) / 2 < part[1]:
            inside.append(words[n])
            n += 1
        if inside:
            yield part, inside


def _is_filler(sound: Sound, start: float, end: float) -> bool:
    return end - start >= _SHORTEST_FILLER and stands_alone(sound, start, end) and held(sound, start, end)


def _alone(words: Sequence[Heard], n: int, sound: Sound) -> bool:
    """Whether a filler that was found lies apart from a word beside it, and the recogniser wrote no other there."""
    beside = [words[m] for m in (n - 1, n + 1) if 0 <= m < len(words)]
    gaps = [max(word.start - words[n].end, words[n].start - word.end) for word in beside]
    twice = any(gap < _SAME and is_filler_sound(word.text) for word, gap in zip(beside, gaps, strict=True))
    return max(gaps, default=1.0) >= _APART and not twice and _is_filler(sound, words[n].start, words[n].end)


def _in_order(words: Sequence[Heard]) -> list[Heard]:
    return without_overlaps(words, max((word.end for word in words), default=0.0))


def _samples(sound: Sound, start: float, end: float) -> bytes:
    """16-bit samples of ``start`` to ``end`` seconds."""
    clip = sound[round(start * SPEECH_RATE) : round(end * SPEECH_RATE)]
    return (np.clip(clip, -1, 1) * 32767).astype("<i2").tobytes()


def _run(decoder: Any, samples: bytes) -> list[Any]:
    """What the decoder finds: its segments, with frames of 10 ms."""
    decoder.start_utt()
    decoder.process_raw(samples, full_utt=True)
    decoder.end_utt()
    return list(decoder.seg() or ())


@lru_cache(maxsize=20_000)
def _name(text: str) -> str:
    """What the aligner calls a word; empty when there is nothing to say."""
    return "".join(letter if letter.isalnum() or letter in "'-" else "_" for letter in bare(text))


def at_pauses(words: Sequence[Heard], sound: Sound) -> list[Heard]:
    """Move edges that lie at a pause to where the level crosses from silence to speech.

    Only an edge with a gap beside it is moved, by 160 ms at most, and only where
    the recording's silences are clearly quieter than its speech.
    """
    level = levels(sound, SPEECH_RATE)
    if level.size == 0:
        return list(words)
    threshold = silence_threshold(level)
    loud = level > threshold
    room, speech = np.percentile(level, [10, 90])
    # The end of a word dies away under the threshold, in a noisy room most of it.
    faint = max(threshold - _FADE, room + _NOISE) if speech - room >= _CLEAR else room + _NOISE
    fading = level > faint
    moved = list(words)
    for n, word in enumerate(moved):
        before = moved[n - 1].end if n else 0.0
        after = moved[n + 1].start if n + 1 < len(moved) else len(sound) / SPEECH_RATE
        start, end = word.start, word.end
        if start - before > 0.03:
            start = _onset(loud, start, max(before, start - _REACH), min(start + _REACH, word.end - SHORTEST_WORD))
        if after - end > 0.03:
            end = _offset(fading, end, max(end - _REACH, start + SHORTEST_WORD), min(after, end + _REACH))
        if end - start >= SHORTEST_WORD:
            moved[n] = Heard(word.text, start, end, word.confidence)
    placed = _off_silence(moved, loud)
    # A filler sound where there is no sound at all was not said.
    return [word for word in placed if not is_filler_sound(word.text) or _loud_within(loud, word.start, word.end)]


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
