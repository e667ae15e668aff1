"""Speakers brought to the same level: by the loudness of what each says, the change laid into the pauses between them."""

from collections.abc import Iterable, Iterator
from itertools import pairwise

from hovvet.core.compile.mixing.curve import FLAT, Curve, curve
from hovvet.core.compile.source import Source
from hovvet.core.plan.model import PlanWord
from hovvet.core.time import to_samples

MOST = 9.0  # dB that a speaker is made louder or softer
_RAMP, _SHORTEST = 0.3, 0.04  # seconds: over which a level goes to another in a pause, and where there is none


def amounts(source: Source) -> dict[str, float]:
    """dB for each speaker of a recording that bring all to one loudness, which is that of most of what is said; none where
    only one is heard."""
    voices = source.voices
    if len(voices) < 2:
        return {}
    whole = sum(seconds for _, seconds in voices.values())
    middle = sum(lufs * seconds for lufs, seconds in voices.values()) / whole
    return {speaker: round(min(max(middle - lufs, -MOST), MOST), 2) for speaker, (lufs, _) in voices.items()}


def evened(words: Iterable[tuple[PlanWord, float]]) -> Curve:
    """The level of the speech where each word that is heard has its own dB."""
    said = [(word, 10 ** (gain / 20)) for word, gain in words if word.layer is None]
    return curve(_knots(said)) if said else FLAT


def _knots(said: list[tuple[PlanWord, float]]) -> Iterator[tuple[int, float]]:
    yield 0, said[0][1]
    for (a, before), (b, after) in pairwise(said):
        if before != after:
            middle = (a.end + b.start) / 2
            ramp = min(max(b.start - a.end, _SHORTEST), _RAMP) / 2
            yield to_samples(max(middle - ramp, 0)), before
            yield to_samples(middle + ramp), after
