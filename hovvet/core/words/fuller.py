"""Words that a recogniser lost: stretches with voice but too few words are heard again, and the fullest sensible reading wins.

Told of filler sounds, the recogniser writes them down, but now and then it drops a run of words; without being told it does not.
"""

from collections.abc import Iterator, Sequence
from itertools import pairwise
from statistics import median

from hovvet.core.engines.speech import Heard, Recogniser
from hovvet.core.sound.silence import Sound
from hovvet.core.spans import Span, intersect
from hovvet.core.words.vocabulary import ENGLISH, bare, is_filler_sound

_WINDOW, _THIN = (
    8,
    0.45,
)  # words in a row that are looked at, and the part of the usual letters a second that is too few
_DIGIT, _SAID_LETTERS = 0.4, 6  # seconds and letters more that a digit takes when it is said
_ENOUGH = 8  # words of a part that tell how fast is usual
_LONG = 1.6  # seconds of voice in which another word should have begun
_AGAIN, _TIMES = 4, 4  # words that are said over and over, and how often nobody says them
_ECHO = frozenset(
    "let me think here's what i'm thinking okay".split()
)  # what it is told to expect besides filler sounds
_MORE = 3  # words by which another reading has to be fuller


def repaired(
    heard: Sequence[Heard], sound: Sound, parts: Sequence[Span], voiced: Sequence[Span], recogniser: Recogniser,
    hints: Sequence[str] = (),
) -> list[Heard]:  # fmt: skip
    """The words of a sound, those of each part in the fullest sensible reading: parts that lost some are heard again without
    asking for filler sounds, whole and in halves."""
    made = list(heard)
    inside = [[word for word in heard if part[0] <= word.start < part[1]] for part in parts]
    paces = [pace(own, voiced, part) for own, part in zip(inside, parts, strict=True) if len(own) >= _ENOUGH]
    usual = median(paces) if paces else 0.0
    for own, part in zip(inside, parts, strict=True):
        if not (starved(own, voiced, part, usual) or _over_and_over(own)):
            continue
        best = fuller(own, recogniser.recognise(sound, [part], hints, fillers=False), recogniser.language)
        if starved(best, voiced, part, usual):
            other = recogniser.recognise(sound, list(_halves(part, voiced)), hints, fillers=False)
            best = fuller(best, other, recogniser.language)
        made = [*(word for word in made if word not in own), *best]
    return sorted(made, key=_start)


def _start(word: Heard) -> float:
    return word.start


def starved(heard: Sequence[Heard], voiced: Sequence[Span], part: Span, usual: float = 0.0) -> bool:
    """Whether somewhere in a part there is voice for long without a word that begins, or with far fewer letters a second than
    are ``usual``: the times of words that a recogniser is sure of spread over those that it lost."""
    words = sorted(heard, key=_start)
    begins = [part[0], *(word.start for word in words), part[1]]
    longest = [_LONG, *(_LONG + _DIGIT * _digits(word.text) for word in words)]
    gaps = list(zip(pairwise(begins), longest, strict=True))
    return any(_voice(voiced, gap) > most for gap, most in gaps if gap[1] - gap[0] > most) or any(
        pace(words[n : n + _WINDOW], voiced, (begins[n], begins[n + _WINDOW + 1])) < _THIN * usual
        for n in range(max(len(words) - _WINDOW + 1, 0))
    )


def pace(words: Sequence[Heard], voiced: Sequence[Span], span: Span) -> float:
    """Letters, a space after each word and those of numerals as they are said counted, for each second of voice."""
    letters = sum(len(bare(word.text)) + 1 + _SAID_LETTERS * _digits(word.text) for word in words)
    return letters / max(_voice(voiced, span), 0.1)


def _digits(text: str) -> int:
    return sum(letter.isdigit() for letter in text)


def _voice(voiced: Sequence[Span], span: Span) -> float:
    return sum(end - start for start, end in intersect([span], voiced))


def fuller(one: Sequence[Heard], other: Sequence[Heard], language: str = ENGLISH) -> list[Heard]:
    """The reading with more sensible words; of the other one, filler sounds where this one has nothing."""
    if sensible(other, language) < sensible(one, language) + _MORE:
        return list(one)
    fillers = [
        word
        for word in one
        if is_filler_sound(word.text, language)
        and all(word.end <= each.start or word.start >= each.end for each in other)
    ]
    return sorted([*other, *fillers], key=_start)


def sensible(words: Sequence[Heard], language: str = ENGLISH) -> int:
    """How many words there are, but for filler sounds, what was only expected, and what is said over and over."""
    said = [word for word in words if not is_filler_sound(word.text, language) and bare(word.text) not in _ECHO]
    return len(said) - sum(_repeated(said))


def _over_and_over(words: Sequence[Heard]) -> bool:
    return any(count >= (_TIMES - 1) for count in _repeated(words))


def _repeated(words: Sequence[Heard]) -> Iterator[int]:
    """How many words are but the same few again, one number for each such run."""
    texts = [bare(word.text) for word in words]
    n = 0
    while n < len(texts):
        best = 0
        for length in range(1, _AGAIN + 1):
            times = 1
            while texts[n + times * length : n + (times + 1) * length] == texts[n : n + length] and n + (
                times + 1
            ) * length <= len(texts):
                times += 1
            if times >= _TIMES:
                best = max(best, (times - 1) * length)
        if best:
            yield best
        n += best or 1


def _halves(part: Span, voiced: Sequence[Span]) -> Iterator[Span]:
    """A part cut in the pause that is nearest to its middle; in its middle where there is none."""
    middle = (part[0] + part[1]) / 2
    pauses = [(a[1] + b[0]) / 2 for a, b in pairwise(voiced) if part[0] < a[1] and b[0] < part[1]]
    at = min(pauses, key=lambda pause: abs(pause - middle), default=middle)
    yield part[0], at
    yield at, part[1]
