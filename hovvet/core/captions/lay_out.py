"""Deciding when each caption is on screen."""

from collections.abc import Mapping, Sequence
from typing import NamedTuple

from hovvet.core.captions.layout import NO_BREAKS, USUAL, CaptionLayout
from hovvet.core.captions.lines import break_lines
from hovvet.core.captions.phrases import break_phrases
from hovvet.core.plan.model import Caption, PlanWord
from hovvet.core.time import Rate
from hovvet.core.value import BreakHow, with_changes

OPENING = 0.3  # seconds: a clip whose first word begins within these opens with its caption


def lay_out_captions(
    words: Sequence[PlanWord],
    rate: Rate,
    frames: int,
    layout: CaptionLayout = USUAL,
    breaks: Mapping[int, BreakHow] = NO_BREAKS,
) -> tuple[Caption, ...]:
    """Captions for the words of a plan of ``frames`` frames, within the limits of a layout, with a person's own ``breaks``
    at words, by their positions.

    No caption begins before its first word, but for the one whose word begins within 0.3 s of the clip: the first frame,
    which many see as a still, has it already; and those that are to come earlier. None overlaps the next.
    """
    seen = [n for n, word in enumerate(words) if word.written]
    said = [_Seen(words[n].written, words[n].start, words[n].end) for n in seen]
    own = _breaks([words[n] for n in seen], {k: breaks[n] for k, n in enumerate(seen) if n in breaks} if breaks else {})
    groups = break_phrases(said, layout, own)
    starts: list[int] = [min(rate.frame_from(said[first].start), max(frames - 1, 0)) for first, _ in groups]
    if starts and said[0].start <= OPENING:
        starts[0] = 0
    captions: list[Caption] = []
    for n, (first, last) in enumerate(groups):
        limit = starts[n + 1] if n + 1 < len(groups) else frames
        wanted = max(said[last - 1].end + layout.linger, said[first].start + layout.shortest)
        end = min(rate.frame(wanted) + words[seen[last - 1]].longer, limit)
        if limit - end < layout.flicker * rate.fps:
            end = limit
        begin = max(starts[n] - words[seen[first]].earlier, 0)
        if begin < starts[n] and captions:
            begin = max(begin, captions[-1].first + 1)
            captions[-1] = with_changes(captions[-1], last=min(captions[-1].last, begin))
        if end > begin:
            lines = break_lines(said, first, last, layout, own)
            letters = sum(len(word.text) for word in said[first:last]) + last - first - 1
            fast = letters > layout.fastest * rate.seconds(end - begin)
            placed = tuple(tuple(seen[k] for k in line) for line in lines)
            captions.append(Caption(lines=placed, first=begin, last=end, fast=fast))
    return tuple(captions)


def _breaks(words: Sequence[PlanWord], own: dict[int, BreakHow]) -> Mapping[int, BreakHow]:
    """A person's own breaks, and those where somebody else goes on, or what nobody says stands."""
    for k in range(1, len(words)):
        before, word = words[k - 1], words[k]
        if before.layer != word.layer or (before.voice != word.voice and k not in own):
            own[k] = "caption"
    return own


class _Seen(NamedTuple):
    """A word as captions write it."""

    text: str
    start: float
    end: float
