"""Where a mix is too quiet, or too loud, to be told."""

from collections.abc import Sequence
from typing import NamedTuple

from hovvet.core.compile.mixing.predicted import CURVE_STEP
from hovvet.core.spans import Span, intersect, merge

_QUIET, _LOUD = 9.0, 6.0  # LU under the outlet's loudness while somebody speaks, and over it at any time
_SPOKEN = 0.3  # seconds of speech that a step has at least, to be called too quiet
_SHORTEST = 1.0  # seconds: shorter is the end of a phrase, or one loud word


class LevelCurve(NamedTuple):
    """LUFS of each ``step`` seconds of the output, and the spans (seconds) in which that is too ``quiet`` or too ``loud``:
    over ``too_loud`` LUFS."""

    step: float
    lufs: tuple[float, ...]
    quiet: tuple[Span, ...]
    loud: tuple[Span, ...]
    too_loud: float


def level_curve(levels: Sequence[float], speech: Sequence[Span], wanted: float) -> LevelCurve:
    """The curve of some levels beside ``speech``, for an outlet that wants so many LUFS."""
    spans = [(n * CURVE_STEP, (n + 1) * CURVE_STEP) for n in range(len(levels))]
    quiet = [span for span, level in zip(spans, levels, strict=True) if level < wanted - _QUIET]
    loud = [span for span, level in zip(spans, levels, strict=True) if level > wanted + _LOUD]
    spoken = [span for span in quiet if sum(b - a for a, b in intersect([span], speech)) >= _SPOKEN]
    kept = (tuple((a, b) for a, b in merge(found) if b - a >= _SHORTEST) for found in (spoken, loud))
    too_quiet, too_loud = kept
    return LevelCurve(CURVE_STEP, tuple(levels), too_quiet, too_loud, wanted + _LOUD)
