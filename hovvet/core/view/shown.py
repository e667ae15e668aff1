"""What has become of the words and pauses on the page, by a plan."""

from collections.abc import Container, Sequence
from typing import NamedTuple

from pydantic import BaseModel, ConfigDict

from hovvet.core.colour.grade import Grade
from hovvet.core.plan.knots import source_frame, value_at
from hovvet.core.plan.model import Fill, Pictured, Plan, Video
from hovvet.core.sheet.model import Sheet
from hovvet.core.spans import Span, intersect, merge
from hovvet.core.words.layout import Pause

NOTICED = 0.08  # seconds: less than this taken out of a pause, or left of it, is not told


class ShortPause(BaseModel):
    """A pause that is not whole: which of the page's pauses, and the seconds left of it (0 when it is cut)."""

    model_config = ConfigDict(frozen=True)

    pause: int
    left: float


def struck_words(sheet: Sheet) -> tuple[int, ...]:
    """The ids of all words cut on a sheet, in order."""
    return tuple(sorted({word for piece in sheet.pieces for cut in piece.word_cuts for word in cut.words}))


def short_pauses(pauses: Sequence[Pause], plan: Plan) -> list[ShortPause]:
    """The pauses (in order of time) of which the plan leaves out something that can be noticed."""
    kept = merge([(stretch.start, stretch.end) for stretch in plan.stretches if stretch.end > stretch.start])
    left = _within([(pause.start, pause.end) for pause in pauses], kept)
    return [
        ShortPause(pause=n, left=round(seconds, 2) if seconds >= NOTICED else 0.0)
        for n, (pause, seconds) in enumerate(zip(pauses, left, strict=True))
        if seconds < pause.end - pause.start - NOTICED
    ]


def _within(spans: Sequence[Span], kept: Sequence[Span]) -> list[float]:
    """For each span, in order and apart, the seconds of it that are kept."""
    sums = [0.0] * len(spans)
    n = 0
    for start, end in intersect(spans, kept):
        while spans[n][1] <= start:
            n += 1
        sums[n] += end - start
    return sums


def uncut(sheet: Sheet) -> float:
    """How long the pieces of a sheet would be with nothing cut, in seconds."""
    return sum(piece.end - piece.start for piece in sheet.pieces)


def used(plan: Plan) -> dict[str, int]:
    """All media that a plan shows and plays, with the frame from which it does, in that order: recordings, pictures, what is
    behind them, tables of colours, fonts, sounds, and the recordings that sounds are prepared from."""
    firsts: dict[str, int] = dict.fromkeys(plan.fonts, 0)

    def note(media: str, first: int) -> None:
        firsts[media] = min(firsts.get(media, first), first)

    for layer in plan.picture:
        for shown in layer.shown:
            if not isinstance(shown, Fill):
                note(shown.media, layer.first)
        if isinstance(layer.backdrop, Pictured):
            note(layer.backdrop.media, layer.first)
        if layer.look and layer.look.has_table:
            note(layer.look.table, layer.first)
    behind = {each.media: each.recording for each in plan.prepared}
    for sound in plan.sound:
        first = plan.rate.frame_at(max(sound.sample, 0) / plan.sample_rate)
        note(behind.get(sound.media, sound.media), first)
    return dict(sorted(firsts.items(), key=lambda each: each[1]))


class Moment(NamedTuple):
    """What is seen at a frame of the output: a recording at some seconds of it, or a still (None), in the colours of a
    look."""

    media: str
    seconds: float | None
    look: Grade | None


def moment(plan: Plan, frame: int, among: Container[str]) -> Moment | None:
    """The topmost recording or still of some that is seen at a frame; None where none is."""
    for layer in reversed(plan.picture):
        source = layer.source
        if isinstance(source, Fill) or source.media not in among:
            continue
        if layer.first <= frame < layer.last and value_at(layer.opacity, frame) > 0:
            if not isinstance(source, Video):
                return Moment(source.media, None, layer.look)
            return Moment(source.media, plan.rate.seconds(source_frame(source.knots, frame)), layer.look)
    return None
