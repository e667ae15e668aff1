"""Text that is to be spoken: its sentences, and where the words of one lie in what was spoken."""

import re
from collections.abc import Iterator, Sequence

from hovvet.core.engines.speech import Heard
from hovvet.core.media.decode import SPEECH_RATE
from hovvet.core.sound.silence import Sound
from hovvet.core.words.timing import Refiner
from hovvet.core.words.transcribe import to_words
from hovvet.core.words.transcript import Word

_ENDS = re.compile(r"(?<=[.!?…])[\"'”’)\]]*\s+|\n+")
_PARTS = re.compile(r"(?<=[,;:–—])\s+")
_SHORT_FORMS = re.compile(r"\b(?:Mr|Mrs|Ms|Dr|Prof|St|No|vs|e\.g|i\.e|etc|[A-Z])\.$")
_LATIN = re.compile(r"[A-Za-zÀ-ɏ]")
_MOST_FOREIGN = 0.2  # of the letters


def sentences(text: str, longest: int) -> list[str]:
    """The sentences of a text that hold something to be said, none longer than so many letters: a longer one is parted where it
    pauses, or between words."""
    found: list[str] = []
    before = ""
    for part in _ENDS.split(text):
        whole = f"{before} {part}".strip()
        if _SHORT_FORMS.search(whole):
            before = whole
            continue
        before = ""
        found += _parted(" ".join(whole.split()), longest)
    found += _parted(before, longest)
    return [each for each in found if any(letter.isalnum() for letter in each)]


def _parted(sentence: str, longest: int) -> Iterator[str]:
    held = ""
    for part in _PARTS.split(sentence):
        for word in [part] if len(part) <= longest else [word[:longest] for word in part.split()]:
            if held and len(held) + 1 + len(word) > longest:
                yield held
                held = ""
            held = f"{held} {word}".strip()
    if held:
        yield held


def is_foreign(text: str) -> bool:
    """Whether much of it is written in other letters than the voices can read."""
    letters = [each for each in text if each.isalpha()]
    return bool(letters) and sum(not _LATIN.match(each) for each in letters) > _MOST_FOREIGN * len(letters)


def words_of(sentence: str, sound: Sound, refiner: Refiner) -> list[Word]:
    """Where the words of a sentence lie in the sound of it, 16 kHz mono without silence around it: as long as they are written,
    then by the sound."""
    texts = sentence.split()
    length, letters = len(sound) / SPEECH_RATE, sum(len(each) + 1 for each in texts)
    at, spread = 0.0, []
    for text in texts:
        end = at + (len(text) + 1) / letters * length
        spread.append(Heard(text, at, end, 1.0))
        at = end
    placed: Sequence[Heard] = refiner.refine(spread, sound, [(0.0, length)])
    return to_words(placed if len(placed) == len(texts) else spread, language=refiner.language)
