"""Lines of a clip that could open it."""

from collections.abc import Callable, Sequence
from typing import NamedTuple

import numpy as np

from hovvet.core.engines.meaning import Vectors
from hovvet.core.passages.features import Features, features
from hovvet.core.passages.sentences import sentences
from hovvet.core.plan.model import PlanWord
from hovvet.core.words.transcript import Word

MOST = 3  # that are offered
_LONGEST, _SHORTEST = 9.0, 1.0  # seconds of a line that opens a clip
_END = 0.8  # of the clip: what is said after that is its ending
_ALIKE = 0.6  # to the last sentence, from which on a line gives it away
_DEPTH, _PAUSE = 0.6, 0.25  # what a passage's beginning has for where it stands: a line that is moved has not


class Hook(NamedTuple):
    """Words ``first`` to ``last`` of a clip (positions), both in it; whether it gives away how the clip ends."""

    first: int
    last: int
    text: str
    ending: bool


def hooks(words: Sequence[PlanWord], meaning: Callable[[Sequence[str]], Vectors]) -> list[Hook]:
    """The best lines to open a clip with, best first; not the one that opens it now."""
    places = [n for n, word in enumerate(words) if word.layer is None]
    heard = [
        Word(
            id=k + 1,
            text=words[n].text,
            start=words[n].start,
            end=max(words[n].end, words[n].start),
            speaker=f"S{words[n].voice}",
        )
        for k, n in enumerate(places)
    ]
    said = sentences(heard)
    if len(said) < 2:
        return []
    of = features(said, meaning, {})
    whole = said[-1].end
    lines = [n for n in range(1, len(said)) if _SHORTEST <= said[n].end - said[n].start <= _LONGEST]
    worth = {n: _worth(of, n) for n in lines}
    best = sorted(lines, key=lambda n: -worth[n])[:MOST]
    last = of.means[-1]
    return [
        Hook(
            places[said[n].first],
            places[said[n].last],
            said[n].text,
            bool(said[n].start > _END * whole or float(np.dot(of.means[n], last)) >= _ALIKE),
        )
        for n in best
    ]


def _worth(of: Features, n: int) -> float:
    """What a sentence weighs as a beginning, wherever it stands."""
    return float(of.begins[n] - _DEPTH * of.depth[n] - _PAUSE * min(of.sentences[n].before, 2.0) + of.holds[n])
