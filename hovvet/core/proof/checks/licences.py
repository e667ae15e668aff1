"""Whether what is shown and heard may be, and what its owners ask for."""

from collections.abc import Iterator

from hovvet.core.proof.fault import Fix, Where
from hovvet.core.proof.looked import Looked
from hovvet.core.proof.registry import Found, check
from hovvet.core.sheet.edits import RemoveLayer, RemovePiece
from hovvet.core.shelf.used import OnShelf
from hovvet.core.time import clock


@check("licence", "Not to be used", "licences", "stops")
def refused(looked: Looked) -> Iterator[Found]:
    """Nothing goes out that may not be shown."""
    for each in looked.shelf:
        if each.refusal:
            where = _where(looked, each)
            fix = (Fix(label="Take it off", edits=(RemoveLayer(layer=where.layer),)),) if where.layer else ()
            at = looked.plan.rate.seconds(each.frame)
            says = (
                f"“{each.name}”, at {clock(at)}, may not be used: {each.refusal}. Choose another one there, or change its "
                "licence on the Shelf."
            )
            yield Found(each.media, says, where, fix)


@check("credit", "To be named in the post", "licences", "look")
def unnamed(looked: Looked) -> Iterator[Found]:
    """Lines that the text for the post does not have yet."""
    seen = set()
    for each in looked.shelf:
        if each.credit and not each.refusal and each.credit not in looked.post and each.credit not in seen:
            seen.add(each.credit)
            says = f"The text for the post has to name {each.credit}. Write that text: the line is put under it."
            yield Found(each.media, says, _where(looked, each))


def _where(looked: Looked, used: OnShelf) -> Where:
    """From which frame it is there, and what shows it."""
    layer = next((each for each in looked.scene.laid if used.media in each.content.media_shown), None)
    last = layer.last if layer else looked.last_frame
    return looked.frames(used.frame, max(last, used.frame), layer.layer if layer else None)


@check("gone", "Gone", "licences")
def gone(looked: Looked) -> Iterator[Found]:
    """Pieces of recordings that were deleted, or are not ready."""
    for piece in looked.sheet.pieces:
        if piece.recording is not None and piece.recording not in looked.sources:
            fix = Fix(label="Take the piece out", edits=(RemovePiece(piece=piece.id),))
            alone = len(looked.sheet.pieces) == 1
            says = "A recording of this clip was deleted, or is not ready: what was of it is left out."
            yield Found(piece.id, says, None, () if alone else (fix,))
