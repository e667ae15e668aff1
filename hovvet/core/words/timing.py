"""Word times from the sound itself.

A recogniser knows what was said, and only roughly when. The recognised words
are aligned to the sound by a hidden Markov model of their phones (forced
alignment with PocketSphinx), then their edges at pauses are moved to where the
sound's level rises and falls.
"""

import re
from bisect import bisect_left, bisect_right
from collections.abc import Iterator, Sequence
from functools import lru_cache
from typing import Any, Protocol

import numpy as np

from hovvet.core.engines.speech import Heard
from hovvet.core.media.decode import SPEECH_RATE
from hovvet.core.sound.noise import without_noise
from hovvet.core.sound.silence import Sound, levels
from hovvet.core.spans import Span
from hovvet.core.words.edges import CLEAR, SHORTEST_WORD, Edges, without_overlaps
from hovvet.core.words.pronounce import phones
from hovvet.core.words.sounds import FILLER_TEXT, held, held_alone, stands_alone
from hovvet.core.words.vocabulary import ENGLISH, bare, is_filler_sound

_LEAN = 0.03  # the aligner's edges lie this much early (measured on bench/labelled/edges.json)
_BEAMS = (1e-80, 1e-200)  # the first does for nearly all chunks; the wide one for the rest
_FILLERS = {"uu_": "AH", "um_": "AH M"}  # names no word can have
_FILLER_WEIGHT = 1e-4
_APART = 0.04  # seconds between such a filler and the words beside it
_SAME = 0.35  # seconds within which another filler is the same one
_LEFT_OUT = 0.4  # confidence of a filler that the recogniser left out
_SHORTEST_FILLER = 0.12  # seconds
_COVERED = 0.06  # seconds of a held vowel on which words lie, for it to be another sound than theirs
_AROUND, _BESIDE = 3, 0.2  # words on either side that may find other places, and seconds beside them
_AMOUNT = re.compile(r"[$€£]?\d[\d.,]*%|[$€£]\d[\d.,]*\d|[$€£]\d")


class Refiner(Protocol):
    """Makes the times of words better than a recogniser knows them."""

    @property
    def language(self) -> str:
        """That of the words, ISO 639-1."""

    def refine(self, words: Sequence[Heard], sound: Sound, parts: Sequence[Span]) -> list[Heard]:
        """The same words with better times. ``parts`` are chunks (seconds) that no word crosses."""

    def refine_with_fillers(self, words: Sequence[Heard], sound: Sound, parts: Sequence[Span]) -> list[Heard]:
        """As ``refine``, with filler sounds that were left out, in order."""


class ByLevel:
    """Refines word times by nothing but where the sound is loud and quiet: for languages that cannot be aligned."""

    def __init__(self, language: str) -> None:
        self.language = language

    def refine(self, words: Sequence[Heard], sound: Sound, parts: Sequence[Span]) -> list[Heard]:
        """The same words, their edges at pauses moved to where the level rises and falls."""
        return without_overlaps(Edges(sound).moved(words, self.language), len(sound) / SPEECH_RATE)

    refine_with_fillers = refine  # which were left out is not known


class Aligner:
    """Refines word times of English speech. Holds the acoustic model, so make one and keep it."""

    language = ENGLISH

    def __init__(self) -> None:
        self._decoders: dict[float, Any] = {}

    def refine(self, words: Sequence[Heard], sound: Sound, parts: Sequence[Span]) -> list[Heard]:
        """As ``Refiner.refine``.

        Where the alignment fails, the recogniser's own times stay.
        """
        clear = cleared(sound)
        return without_overlaps(Edges(clear).moved(self._aligned(words, clear, parts)), len(sound) / SPEECH_RATE)

    def refine_with_fillers(self, words: Sequence[Heard], sound: Sound, parts: Sequence[Span]) -> list[Heard]:
        """As ``refine``, with the "um"s that the recogniser left out.

        They are looked for where a word lies on a vowel that is held alone between silences: the few words around it are
        searched for with an optional filler between any two.
        """
        clear = cleared(sound)
        edges = Edges(clear)
        placed = self._aligned(words, clear, parts)
        for vowel in held_alone(sound):
            placed = self._with_filler(placed, vowel, sound, parts, edges)
        return without_overlaps(edges.moved(placed), len(sound) / SPEECH_RATE)

    def _aligned(self, words: Sequence[Heard], sound: Sound, parts: Sequence[Span]) -> list[Heard]:
        aligned: list[Heard] = []
        for (start, end), inside in _by_part(words, parts):
            aligned += self._align(inside, sound, start, end)
        return [*aligned, *words[len(aligned) :]]

    def _with_filler(
        self, words: list[Heard], vowel: Span, sound: Sound, parts: Sequence[Span], edges: Edges
    ) -> list[Heard]:
        """The words, with a filler where a vowel is held if they find other places around it; else as they were."""
        first = bisect_right(words, vowel[0], key=_end)
        last = bisect_left(words, vowel[1], key=_start)
        on_it = words[first:last]
        covered = sum(min(word.end, vowel[1]) - max(word.start, vowel[0]) for word in on_it)
        part = next((part for part in parts if part[0] <= vowel[0] and vowel[1] <= part[1]), None)
        if part is None or covered < _COVERED or any(is_filler_sound(word.text) for word in on_it):
            return words
        first, last = max(first - _AROUND, 0), last + _AROUND
        near = [n for n in range(first, min(last, len(words))) if part[0] <= _middle(words[n]) < part[1]]
        if not near:
            return words
        first, last = near[0], near[-1] + 1
        start = max(part[0], words[first - 1].end if first else 0.0, words[first].start - _BESIDE)
        end = min(part[1], words[last].start if last < len(words) else part[1], words[last - 1].end + _BESIDE)
        found = self._search_with_fillers(words[first:last], sound, start, end)
        moved = edges.moved(found)
        fillers = [n for n, word in enumerate(moved) if word.confidence == _LEFT_OUT]
        if len(fillers) != 1 or not _alone(moved, fillers[0], sound):
            return words
        return [*words[:first], *found, *words[last:]]

    def _search_with_fillers(self, words: list[Heard], sound: Sound, start: float, end: float) -> list[Heard]:
        """A few words in ``start`` to ``end`` seconds with the fillers that a search finds between them; empty where it fails."""
        names = [_name(word.text) for word in words]
        decoder = self._ready(_BEAMS[0], words)
        for name, said in _FILLERS.items():
            if decoder.lookup_word(name) is None:
                decoder.add_word(name, said, True)
        choice = "".join(f" | /{_FILLER_WEIGHT}/ {name}" for name in _FILLERS)
        text = " <f> ".join(filter(None, names))
        grammar = f"#JSGF V1.0; grammar g; <f> = /1/ <NULL>{choice}; public <all> = <f> {text} <f>;"
        try:
            decoder.add_jsgf_string("fillers", grammar)
            decoder.activate_search("fillers")
            segments = [
                seg for seg in _run(decoder, _samples(sound, start, end)) if not seg.word.startswith(("<", "[", "("))
            ]
        except RuntimeError:
            return []
        spoken = (word for word, name in zip(words, names, strict=True) if name)
        found = []
        for seg in segments:
            a, b = start + seg.start_frame * 0.01 + _LEAN, start + (seg.end_frame + 1) * 0.01 + _LEAN
            if seg.word.split("(")[0] in _FILLERS:
                found.append(Heard(FILLER_TEXT, a, b, _LEFT_OUT))
            elif word := next(spoken, None):
                found.append(Heard(word.text, a, max(b, a + SHORTEST_WORD), word.confidence))
        whole = len(found) - sum(word.confidence == _LEFT_OUT for word in found) == len(words)
        return found if whole else []

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
            found = [seg for seg in _run(decoder, samples) if not seg.word.startswith(("<", "[", "("))]
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
        missing = {_name(word.text): _said(word.text) for word in words if _name(word.text)}
        missing = {name: text for name, text in missing.items() if decoder.lookup_word(name) is None}
        if missing:
            said = phones(list(missing.values()))
            for name, text in missing.items():
                decoder.add_word(name, said[text], False)
        return decoder


def refiner(language: str) -> Refiner:
    """What makes the times of words in a language (ISO 639-1) better."""
    return Aligner() if language == ENGLISH else ByLevel(language)


def _by_part(words: Sequence[Heard], parts: Sequence[Span]) -> Iterator[tuple[Span, list[Heard]]]:
    """Each chunk that has words, with its words, in order; words after the last chunk are in none."""
    n = 0
    for part in parts:
        inside = []
        while n < len(words) and _middle(words[n]) < part[1]:
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


def _start(word: Heard) -> float:
    return word.start


def _end(word: Heard) -> float:
    return word.end


def _middle(word: Heard) -> float:
    return (word.start + word.end) / 2


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
    return "".join(letter if letter.isalnum() or letter in "'-" else "_" for letter in _said(text))


def _said(text: str) -> str:
    """What is said of a word: signs beside a number are, punctuation is not."""
    number = _AMOUNT.search(text)
    return number[0] if number else bare(text)


def cleared(sound: Sound) -> Sound:
    """A sound as it is, or, where its room is noisy, with the noise taken out."""
    level = levels(sound, SPEECH_RATE)
    if not level.size:
        return sound
    room, speech = np.percentile(level, [10, 90])
    return sound if speech - room >= CLEAR else without_noise(sound)
