"""How long a stretch of a recording is once it has been swept."""

from bisect import bisect_right
from collections.abc import Callable, Sequence
from itertools import accumulate

from hovvet.core.spans import Span, merge
from hovvet.core.sweep.settings import SweepSettings
from hovvet.core.sweep.sweep import pause_cuts, sweep
from hovvet.core.words.transcript import Transcript


def after_sweep(
    transcript: Transcript, silent: Sequence[Span] | None, settings: SweepSettings
) -> Callable[[float, float], float]:
    """What is left, in seconds, of a stretch from one moment of a recording to another, when all is taken out that a sweep
    with these settings finds. ``silent`` are the silences of its sound; None where they are not known: then nothing is
    said to be heard between words."""
    quiet = silent if silent is not None else [(0.0, transcript.duration)]
    finds = sweep(transcript, quiet, settings).finds
    words = [(find.start, find.end) for find in finds if find.kind != "pause"]
    gone = merge([*words, *pause_cuts(transcript, finds, settings)])
    starts = [start for start, _ in gone]
    so_far = [0.0, *accumulate(end - start for start, end in gone)]

    def taken(until: float) -> float:
        n = bisect_right(starts, until)
        return so_far[n] - (max(gone[n - 1][1] - until, 0.0) if n else 0.0)

    return lambda start, end: end - start - taken(end) + taken(start)
