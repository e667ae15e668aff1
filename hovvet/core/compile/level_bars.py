"""How loud the speech of a clip is from frame to frame, to be drawn."""

from collections.abc import Mapping

import numpy as np
from numpy.typing import NDArray

from hovvet.core.compile.source import Source
from hovvet.core.compile.timeline import Timeline

_RANGE = 36.0  # dB under the loud passages that are still seen
_LOUD = 95  # percentile of the levels that is drawn as tall as can be
_NOTHING = -120.0  # dB


def loudness(timeline: Timeline, sources: Mapping[str, Source], first: int, last: int) -> NDArray[np.float64]:
    """From 0 (nothing is heard) to 1 (as loud as the loudest words) for each output frame from ``first`` up to ``last``;
    shape (frames,). A gap, and speech whose levels are not known, are 0."""
    level = np.full(max(last - first, 0), _NOTHING)
    for part in timeline.parts:
        begin, end = max(part.frame, first), min(part.end, last)
        source = sources.get(part.piece.recording or "")
        if begin >= end or source is None or source.levels is None or len(part.knots) < 2 or part.stop:
            continue
        at = np.arange(begin, end + 1) - part.frame
        seconds = np.interp(at, [knot[0] for knot in part.knots], [knot[1] for knot in part.knots])
        level[begin - first : end - first] = source.levels.loudest(seconds)
    heard = level[level > _NOTHING]
    if not heard.size:
        return np.zeros(len(level))
    top = float(np.percentile(heard, _LOUD))
    return np.clip((level - top + _RANGE) / _RANGE, 0, 1)
