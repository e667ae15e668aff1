"""Music and sounds that step back wherever somebody speaks: by the words of the plan, not by a guess at its sound."""

from collections.abc import Iterable, Iterator, Sequence

from hovvet.core.compile.mixing.curve import Curve, curve
from hovvet.core.plan.model import PlanWord
from hovvet.core.spans import Span
from hovvet.core.time import to_samples

LEAD, HOLD, RELEASE = (
    0.15,
    0.6,
    0.5,
)  # seconds: it is down before a word, stays down over so short a gap, and comes back


def spoken(words: Iterable[PlanWord], voices: Iterable[Span] = ()) -> list[Span]:
    """The stretches in which somebody speaks, in the clip or over it (``voices``), in seconds of the output; gaps in which music
    would not come back are none."""
    said = [(word.start, word.end) for word in words if word.layer is None]
    found: list[Span] = []
    for start, end in sorted((*said, *voices)):
        if found and start - found[-1][1] <= HOLD:
            found[-1] = (found[-1][0], max(found[-1][1], end))
        else:
            found.append((start, end))
    return found


def ducked(speech: Sequence[Span], under: float) -> Curve:
    """The level of something that is ``under`` dB lower where there is speech."""
    return curve(_knots(speech, 10 ** (-under / 20)))


def _knots(speech: Sequence[Span], low: float) -> Iterator[tuple[int, float]]:
    for n, (start, end) in enumerate(speech):
        after = speech[n - 1][1] if n else None
        # Where there is no time to come back and go down again, it turns round half way.
        room = start - after if after is not None else LEAD + RELEASE
        up = min(room / (LEAD + RELEASE), 1.0)
        high = low + (1 - low) * up
        if after is not None:
            yield to_samples(after + RELEASE * up), high
        yield to_samples(max(start - LEAD * up, 0)), high if start > 0 else low
        yield to_samples(start), low
        yield to_samples(end), low
    if speech:
        yield to_samples(speech[-1][1] + RELEASE), 1.0
