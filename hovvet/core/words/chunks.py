"""Cutting sound into chunks that a recogniser can take, at silences."""

from collections.abc import Sequence

import numpy as np

from hovvet.core.sound.silence import STEP, Sound, levels
from hovvet.core.spans import Span

LONGEST = 20.0
_EDGE = 0.15  # seconds of silence kept around the speech of a chunk


def chunks(voiced: Sequence[Span], sound: Sound, rate: int, longest: float = LONGEST) -> list[Span]:
    """Chunks of at most ``longest`` seconds that hold all voiced stretches, cut in the silences between them.

    A voiced stretch longer than that is cut where it is quietest.
    """
    whole = len(sound) / rate
    stretches = [part for span in voiced for part in _halved(span, sound, rate, longest)]
    made: list[list[float]] = []
    for start, end in stretches:
        if made and end - made[-1][0] <= longest - 2 * _EDGE:
            made[-1][1] = end
        else:
            made.append([start, end])
    edged: list[Span] = []
    for n, (start, end) in enumerate(made):
        before = made[n - 1][1] if n else 0.0
        after = made[n + 1][0] if n + 1 < len(made) else whole
        edged.append((max(start - _EDGE, (before + start) / 2, 0.0), min(end + _EDGE, (end + after) / 2, whole)))
    return edged


def _halved(span: Span, sound: Sound, rate: int, longest: float) -> list[Span]:
    start, end = span
    if end - start <= longest - 2 * _EDGE:
        return [span]
    # The quietest 50 ms in the middle third.
    a, b = start + (end - start) / 3, end - (end - start) / 3
    level = levels(sound[round(a * rate) : round(b * rate)], rate)
    smooth = np.convolve(10 ** (level / 10), np.ones(5) / 5, mode="same")
    at = a + (int(np.argmin(smooth)) + 0.5) * STEP
    return [*_halved((start, at), sound, rate, longest), *_halved((at, end), sound, rate, longest)]
