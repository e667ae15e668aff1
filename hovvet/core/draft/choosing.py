"""Which sentences of a text a clip is made of: chosen, never changed, in their order.

Those that say most of what the text is about (nearest to the middle of its meanings: the centroid of Radev, Jing, Styś and Tam,
"Centroid-based summarization of multiple documents", 2004), without saying it twice (Carbonell and Goldstein, "The use of MMR", SIGIR
1998); a sentence that leans on the one before it is taken with that.
"""

from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass

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
_SAID = 0.1  # worth of any sentence: where there is room, rather said than not
_FIRST, _LAST = 0.25, 0.1  # worth of the first sentence, and of the last
_WORTH = {"claim": 0.08, "contrast": 0.08, "number": 0.1, "story": 0.05, "emotion": 0.05, "absolute": 0.03}
_AGAINST = {"housekeeping": 1.0, "slide": 1.0, "chat": 0.5, "half thought": 0.5}
_LEANS = ("goes on", "points back", "unresolved", "answers")
_ALSO_LEANS = (
    "however", "therefore", "moreover", "furthermore", "instead", "thus", "hence", "nevertheless", "for example", "for instance",
    "most of them", "some of them", "many of them", "all of them", "none of them", "one of them", "both of them", "each of them", "each one",
)  # fmt: skip
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
    """For each sentence those without which it is not understood: the one before it; of an item what the list is of (a sentence with
    a colon, or the heading right over it), and of that all its items."""
    made: list[tuple[int, ...]] = []
    lead: int | None = None
    for n, each in enumerate(sentences):
        before = next((k for k in range(n - 1, -1, -1) if sentences[k].kind != "heading"), None)
        if each.kind == "item":
            made.append((lead,) if lead is not None else ())
            if lead is not None:
                made[lead] = (*made[lead], n)
        else:
            lead = n if each.text.endswith(":") or each.kind == "heading" else None
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
    lasts = [seconds_of(each.said, pace) for each in sentences]
    means = meaning([each.said for each in sentences])
    worth = _worth(sentences, places, means)
    room = _Room(worth, means, lasts, needs(sentences), OVER * seconds)
    kept = room.packed(places)
    first = _beginning(sentences, sorted(kept), lasts, seconds)
    if first is not None:
        kept = room.packed([n for n in places if n >= first], first)
    kept = kept or {min(places, key=lasts.__getitem__)}
    return tuple(with_changes(each, kept=n in kept) for n, each in enumerate(sentences))


def _worth(sentences: Sequence[Sentence], places: Sequence[int], means: Vectors) -> list[float]:
    """What each sentence is worth; a heading, which is said only with its list, nothing."""
    middle = means[[*places]].mean(axis=0)
    near = means @ (middle / max(float(np.linalg.norm(middle)), 1e-6))
    made = [0.0] * len(sentences)
    for place, n in enumerate(places):
        small = sentences[n].said.lower()
        signs = sum(weight for name, weight in _WORTH.items() if SIGNS[name].search(small))
        against = sum(weight for name, weight in _AGAINST.items() if SIGNS[name].search(small))
        stands = _FIRST * (place == 0) + _LAST * (place == len(places) - 1)
        made[n] = _SAID + round(float(near[n]), 6) + signs - against + stands
    return made


@dataclass(frozen=True)
class _Room:
    """So many seconds to be filled with sentences: what each is worth, means, how long it lasts and what it needs."""

    worth: Sequence[float]
    means: Vectors
    lasts: Sequence[float]
    need: Sequence[tuple[int, ...]]
    seconds: float

    def packed(self, places: Sequence[int], first: int | None = None) -> set[int]:
        """As much worth as fits, of those at ``places``: the best for its length that still fits is taken, with all that it needs,
        until none does. It begins with the ``first``, where that is given: what needs something before it is not taken."""
        there = set(range(first or 0, len(self.lasts)))
        kept = self._with_needs([] if first is None else [first])
        left = self.seconds - sum(self.lasts[n] for n in kept)
        while True:
            options = [self._with_needs({n}) - kept for n in places if n not in kept]
            fits = [each for each in options if each <= there and sum(self.lasts[n] for n in each) <= left]
            best = max(fits, key=lambda each: self._gain(each, kept), default=None)
            if best is None or self._gain(best, kept) <= 0:
                return kept
            kept |= best
            left -= sum(self.lasts[n] for n in best)

    def _gain(self, wanted: set[int], kept: set[int]) -> float:
        length = sum(self.lasts[n] for n in wanted)
        return float(sum(self.worth[n] - _SAME * self._likeness(n, kept) for n in wanted) / length**_LENGTH)

    def _likeness(self, n: int, kept: set[int]) -> float:
        return float(np.max(self.means[[*kept]] @ self.means[n], initial=0.0))

    def _with_needs(self, wanted: Iterable[int]) -> set[int]:
        made: set[int] = set()
        waiting = [*wanted]
        while waiting:
            each = waiting.pop()
            if each not in made:
                made.add(each)
                waiting += self.need[each]
        return made


def _beginning(
    sentences: Sequence[Sentence], kept: Sequence[int], lasts: Sequence[float], seconds: float
) -> int | None:
    """A sentence of those kept that is a much better beginning than the first of them; None where there is none."""
    before = 0.0
    could: list[tuple[float, int]] = []
    for n in kept:
        if before > _OPENS_BY * seconds or len(could) == _TRIED:
            break
        if sentences[n].kind in ("item", "heading"):
            return None  # a list is said from its beginning
        if not leans(sentences[n].text):
            could.append((_opens(sentences[n]), n))
        before += lasts[n]
    if not could:
        return None
    best = max(could, key=lambda each: (each[0], -each[1]))
    return best[1] if best[0] >= could[0][0] + _BETTER else None


def _opens(sentence: Sentence) -> float:
    small = sentence.said.lower()
    return sum(
        weight for name, weight in _OPENS.items() if SIGNS[name].search(small)
    ) + _QUESTION * sentence.text.endswith("?")
