"""What could be seen while something is said: stretches of a clip, and for each the few things that show it best."""

from collections.abc import Callable, Collection, Iterator, Sequence
from typing import NamedTuple

import numpy as np

from hovvet.core.captions.layout import CaptionLayout
from hovvet.core.captions.phrases import break_phrases
from hovvet.core.engines.meaning import Vectors
from hovvet.core.plan.model import PlanWord
from hovvet.core.shelf.searching import ALIKE

MOST = 3  # things offered for a stretch
MOST_STRETCHES = 400  # of a clip: half an hour; each takes some milliseconds
SHORTEST, LONGEST = 2.5, 7.0  # seconds of a stretch: long enough to be looked at, short enough not to tire
_SHOWN_BEFORE = 0.08  # of likeness that a thing loses which the clip shows already
_PHRASE = CaptionLayout(characters=42, lines=2, shortest=SHORTEST / 2, longest=LONGEST)


class Stretch(NamedTuple):
    """Words ``first`` to ``last`` (positions in what is heard), both in it."""

    first: int
    last: int


def stretches_of(words: Sequence[PlanWord]) -> list[Stretch]:
    """What is said, in order, in stretches that end where phrases do; all of it, unless the clip is very long."""
    said = [n for n, word in enumerate(words) if word.layer is None]
    made: list[Stretch] = []
    for first, end in break_phrases([words[n] for n in said], _PHRASE, {}):
        new = Stretch(said[first], said[end - 1])
        if made and _seconds(words, Stretch(made[-1].first, new.last)) <= LONGEST and _short(words, made[-1], new):
            made[-1] = Stretch(made[-1].first, new.last)
        else:
            made.append(new)
    return made[:MOST_STRETCHES]


def _short(words: Sequence[PlanWord], *of: Stretch) -> bool:
    return any(_seconds(words, each) < SHORTEST for each in of)


def _seconds(words: Sequence[PlanWord], stretch: Stretch) -> float:
    return words[stretch.last].end - words[stretch.first].start


def said_in(words: Sequence[PlanWord], stretch: Stretch) -> str:
    """What is said in a stretch."""
    return " ".join(word.text for word in words[stretch.first : stretch.last + 1])


def suggested(
    texts: Sequence[str], means: Vectors, shown: Collection[int], meaning: Callable[[Sequence[str]], Vectors]
) -> Iterator[list[int]]:
    """For each text the things that show it best, at most three, none that has nothing to do with it.

    ``means`` are the things' meanings, shape (n, SIZE); what is ``shown`` already has to be a little more alike than
    others.
    """
    if not texts or not len(means):
        yield from ([] for _ in texts)
        return
    alike = meaning(texts) @ means.T
    alike[:, [*shown]] -= _SHOWN_BEFORE
    for row in np.round(alike, 6):
        order = np.argsort(-row, kind="stable")[:MOST]
        yield [int(n) for n in order if row[n] >= ALIKE]
