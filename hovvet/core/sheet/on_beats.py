"""Edges of pictures, and of what is on screen, on the beats of the music."""

from collections.abc import Mapping, Sequence

from hovvet.core.sheet.edits import Batch, Edit, EditError, PutLayer
from hovvet.core.sheet.model import Sheet, Span, WordRef
from hovvet.core.sheet.places import Places
from hovvet.core.time import Rate
from hovvet.core.value import with_changes
from hovvet.core.words.transcript import Transcript

_NEAR = 0.5  # seconds: a beat further away is another one's
_SHORTEST = 0.2  # seconds that are left between both edges
_FURTHEST = 250  # frames that an edge is nudged


def to_beats(
    sheet: Sheet,
    transcripts: Mapping[str, Transcript],
    chosen: tuple[str | None, WordRef | None, WordRef | None],
    beats: Sequence[float],
    edges: Mapping[str, tuple[float, float]],
    rate: Rate,
) -> Edit:
    """The edit that puts edges on the nearest ``beats``: of one layer (by id), or of all that is seen over the words from one to
    another, or in the clip. ``edges`` are from when until when layers are there, all in seconds of the output.

    Raises EditError where there is no beat.
    """
    if not beats:
        raise EditError("There is no music with a beat in this clip. Lay some under it first.")
    own, first, last = chosen
    places = Places(sheet, transcripts)
    words = sorted((places.find(first), places.find(last or first))) if first else None
    edits = []
    for layer in sheet.layers:
        kept = None if layer.span.is_whole else places.kept(layer.span)
        wanted = layer.id == own if own else layer.content.lane in ("picture", "screen")
        inside = words is None or (kept is not None and kept[0] <= words[1] and kept[1] >= words[0])
        if kept is None or not wanted or not inside or layer.id not in edges:
            continue
        span = _on_beats(layer.span, edges[layer.id], beats, rate)
        if span != layer.span:
            edits.append(PutLayer(layer=with_changes(layer, span=span)))
    return Batch(edits=tuple(edits))


def _on_beats(span: Span, edges: tuple[float, float], beats: Sequence[float], rate: Rate) -> Span:
    start, end = (min(beats, key=lambda beat, edge=edge: abs(beat - edge)) for edge in edges)  # type: ignore[misc]
    if end - start < _SHORTEST:
        return span
    made = {}
    for name, nudged, edge, beat in (
        ("nudge_in", span.nudge_in, edges[0], start),
        ("nudge_out", span.nudge_out, edges[1], end),
    ):
        if abs(beat - edge) <= _NEAR:
            made[name] = min(max(nudged + rate.frame(beat) - rate.frame(edge), -_FURTHEST), _FURTHEST)
    return with_changes(span, **made)
