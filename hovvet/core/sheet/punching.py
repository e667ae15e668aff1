"""Closer views at every other cut, so that a jump in the picture reads as a change of shot."""

from collections.abc import Iterator

from hovvet.core.sheet.contents.punch import Punch
from hovvet.core.sheet.edits import Batch, EditError, PutLayer, RemoveLayer
from hovvet.core.sheet.model import Layer, Sheet
from hovvet.core.sheet.moving import fresh_names
from hovvet.core.sheet.places import Places, Spot

_APART = 0.05  # seconds within which two moments are the same place
SHORTEST_SHOT = 1.5  # seconds: nothing shorter becomes a shot of its own


def punch_at_cuts(sheet: Sheet, places: Places, first: int, last: int, content: Punch) -> Batch:
    """The edit that lays ``content`` over every other shot between two places of the sheet; those that were laid over any
    of these words before go. Raises EditError where there is no cut."""
    shots = list(_shots(places.spots[first : last + 1]))
    if len(shots) < 2:
        raise EditError("There is no cut in these words, so the picture does not jump.")
    names = fresh_names(sheet, "l")
    gone = [RemoveLayer(layer=layer.id) for layer in sheet.layers if _is_punch_over(layer, places, first, last)]
    laid = [PutLayer(layer=_laid(next(names), places, first + a, first + b, content)) for a, b in shots[1::2]]
    return Batch(edits=(*gone, *laid))


def _is_punch_over(layer: Layer, places: Places, first: int, last: int) -> bool:
    covered = places.covered(layer.span)
    return isinstance(layer.content, Punch) and covered is not None and covered[0] <= last and covered[1] >= first


def _laid(name: str, places: Places, first: int, last: int, content: Punch) -> Layer:
    return Layer(id=name, span=places.over(places.spots[first].ref, places.spots[last].ref), content=content)


def _shots(spots: list[Spot]) -> Iterator[tuple[int, int]]:
    """The first and last kept word of each shot: what is said between two cuts, and long enough to be seen as one."""
    first, before, length = None, None, 0.0
    for n, spot in enumerate(spots):
        if not spot.kept:
            continue
        if first is None or before is None:
            first = n
        elif length >= SHORTEST_SHOT and _is_cut(spots[before], spot, n - before):
            yield first, before
            first, length = n, 0.0
        length += spot.end - spot.start
        before = n
    if first is not None and before is not None:
        yield first, before


def _is_cut(one: Spot, two: Spot, apart: int) -> bool:
    """Whether the picture jumps between two kept words."""
    if one.word is None or two.word is None or apart > 1 or one.piece.recording != two.piece.recording:
        return True
    if one.piece is not two.piece:
        return abs(two.piece.start - one.piece.end) > _APART
    return any(one.end - _APART <= cut.start and cut.end <= two.start + _APART for cut in one.piece.pause_cuts)
