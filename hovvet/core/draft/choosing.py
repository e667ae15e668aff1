"""Which sentences of a text a clip is made of: chosen, never changed, in their order.

Those that say most of what the text is about (nearest to the middle of its meanings: the centroid of Radev, Jing, Styś and Tam,
"Centroid-based summarization of multiple documents", 2004), without saying it twice (Carbonell and Goldstein, "The use of MMR", SIGIR
1998); a sentence that leans on the one before it is taken with that.
"""

from collections.abc import Callable, Sequence

import numpy as np

from hovvet.core.draft.written import Sentence
from hovvet.core.engines.meaning import Vectors
from hovvet.core.passages.rules import SIGNS
from hovvet.core.value import with_changes

BETWEEN = 0.35  # seconds between two sentences
_LETTERS, _BEGINS, _LEAST = (
    17.0,
    -0.26,
    0.3,
)  # letters a second, and seconds that each sentence has more (fitted to the voices); the least
SHORTEST, USUAL, LONGEST = 10, 45, 180  # seconds of a clip that is drafted
OVER = 1.05  # times the length asked for that still fits
_FIRST, _LAST = 0.25, 0.1  # worth of the first sentence, and of the last
_WORTH = {"claim": 0.08, "contrast": 0.08, "number": 0.1, "story": 0.05, "emotion": 0.05, "absolute": 0.03}
_AGAINST = {"housekeeping": 0.5, "slide": 0.5, "chat": 0.3, "half thought": 0.3}
_LEANS = ("goes on", "points back", "unresolved", "answers")
_ALSO_LEANS = (
    "however",
    "therefore",
    "moreover",
    "furthermore",
    "instead",
    "thus",
    "hence",
    "nevertheless",
    "for example",
    "for instance",
)
_SAME = 0.4  # of the likeness to what is chosen already that is taken off
_OPENS = {"claim": 0.3, "contrast": 0.3, "number": 0.2, "story": 0.2, "emotion": 0.1}
_QUESTION = 0.2  # of a question as the beginning
_BETTER = 0.35  # by which another beginning must be the better one
_LENGTH = 0.7  # power of the length by which worth is divided: 1 would take short sentences, 0 long ones
_TRIED = 3  # sentences that stand alone which could be the first
_OPENS_BY = 0.4  # of the length by which it has to have begun


def seconds_of(said: str, pace: float = 1.0) -> float:
    """How long a sentence takes to say, with the pause after it."""
    return max(len(said) / _LETTERS + _BEGINS, _LEAST) / pace + BETWEEN


def leans(text: str) -> bool:
    """Whether a sentence cannot be understood without the one before it."""
    small = text.lower().lstrip("“\"'‘(—- ")
    return small.startswith(_ALSO_LEANS) or any(SIGNS[each].match(small) for each in _LEANS)


def needs(sentences: Sequence[Sentence]) -> list[tuple[int, ...]]:
    """For each sentence those without which it is not understood: the one before it; of an item what the list is of, and of that all
    its items."""
    made: list[tuple[int, ...]] = []
    lead: int | None = None
    for n, each in enumerate(sentences):
        before = next((k for k in range(n - 1, -1, -1) if sentences[k].kind != "heading"), None)
        if each.kind == "item":
            made.append((lead,) if lead is not None else ())
            if lead is not None:
                made[lead] = (*made[lead], n)
        else:
            lead = n if each.text.endswith(":") else None
            made.append((before,) if before is not None and leans(each.text) else ())
    return made


def choose(
    sentences: Sequence[Sentence],
    seconds: float,
    meaning: Callable[[Sequence[str]], Vectors],
    pace: float = 1.0,
) -> tuple[Sentence, ...]:
    """The sentences, with those kept that a clip of so many seconds is best made of; headings are not said."""
    places = [n for n, each in enumerate(sentences) if each.kind != "heading"]
    if not places:
        return tuple(with_changes(each, kept=True) for each in sentences)
    lasts = {n: seconds_of(sentences[n].said, pace) for n in places}
    means = meaning([sentences[n].said for n in places])
    worth = _worth(sentences, places, means)
    kept = _packed(places, worth, dict(zip(places, means, strict=True)), lasts, needs(sentences), OVER * seconds)
    kept = _opened(sentences, sorted(kept), lasts, seconds) if kept else {min(places, key=lasts.__getitem__)}
    return tuple(with_changes(each, kept=n in kept) for n, each in enumerate(sentences))


def _worth(sentences: Sequence[Sentence], places: Sequence[int], means: Vectors) -> dict[int, float]:
    middle = means.mean(axis=0)
    near = means @ (middle / max(float(np.linalg.norm(middle)), 1e-6))
    made: dict[int, float] = {}
    for place, n in enumerate(places):
        small = sentences[n].said.lower()
        signs = sum(weight for name, weight in _WORTH.items() if SIGNS[name].search(small))
        against = sum(weight for name, weight in _AGAINST.items() if SIGNS[name].search(small))
        stands = _FIRST * (place == 0) + _LAST * (place == len(places) - 1)
        made[n] = round(float(near[place]), 6) + signs - against + stands
    return made


def _packed(
    places: Sequence[int],
    worth: dict[int, float],
    means: dict[int, np.ndarray],
    lasts: dict[int, float],
    need: Sequence[tuple[int, ...]],
    seconds: float,
) -> set[int]:
    """As much worth as fits into so many seconds: the best that still fits is taken, with all that it needs, until none does."""
    kept: set[int] = set()
    left = seconds
    while True:
        best, most, takes = 0.0, None, {0}
        for n in places:
            if n in kept:
                continue
            wanted = _with_needs(n, need) - kept
            length = sum(lasts[each] for each in wanted)
            if length > left:
                continue
            gain = sum(worth[each] - _SAME * _likeness(means[each], kept, means) for each in wanted) / length**_LENGTH
            if gain > best:
                best, most, takes = gain, n, wanted
        if most is None:
            return kept
        kept |= takes
        left -= sum(lasts[each] for each in takes)


def _likeness(mean: np.ndarray, kept: set[int], means: dict[int, np.ndarray]) -> float:
    return max((float(mean @ means[each]) for each in kept), default=0.0)


def _with_needs(n: int, need: Sequence[tuple[int, ...]]) -> set[int]:
    made: set[int] = set()
    waiting = [n]
    while waiting:
        each = waiting.pop()
        if each not in made:
            made.add(each)
            waiting += need[each]
    return made


def _opened(sentences: Sequence[Sentence], kept: list[int], lasts: dict[int, float], seconds: float) -> set[int]:
    """The same, without what stands before a sentence that is a much better beginning."""
    before = 0.0
    could: list[tuple[float, int]] = []
    for n in kept:
        if before > _OPENS_BY * seconds or len(could) == _TRIED:
            break
        if not leans(sentences[n].text) and sentences[n].kind != "item":
            could.append((_opens(sentences[n]), n))
        before += lasts[n]
    if not could:
        return set(kept)
    best = max(could, key=lambda each: (each[0], -each[1]))
    first = best[1] if best[0] >= could[0][0] + _BETTER else could[0][1]
    return {n for n in kept if n >= first}


def _opens(sentence: Sentence) -> float:
    small = sentence.said.lower()
    return sum(
        weight for name, weight in _OPENS.items() if SIGNS[name].search(small)
    ) + _QUESTION * sentence.text.endswith("?")
