"""Voices over a clip that are to be heard by themselves: in a gap of their own, or as a piece."""

from collections.abc import Mapping

from hovvet.core.sheet.contents.voice_over import VoiceOver
from hovvet.core.sheet.edits import Batch, Edit, EditError, InsertPieces, PutLayer, RemoveLayer
from hovvet.core.sheet.limits import LONGEST_GAP
from hovvet.core.sheet.model import Layer, Piece, Sheet, WordRef
from hovvet.core.sheet.moving import Steps, gap
from hovvet.core.value import with_changes
from hovvet.core.words.transcript import Transcript

_NOWHERE = "This lies over no words that are kept. Lay it over some, then it can stand before them."


def give_room(sheet: Sheet, transcripts: Mapping[str, Transcript], layer: str, seconds: float) -> Edit:
    """A gap of so many seconds before the words of a layer, over which it lies then. Raises EditError."""
    steps = Steps(sheet, transcripts)
    own, before = _standing(steps, layer)
    (name,) = steps.fresh(1)
    piece = with_changes(gap(min(seconds, LONGEST_GAP)), id=name, origin=name)
    steps.do(InsertPieces(pieces=(piece,), before=before))
    over = WordRef(origin=name, word=None)
    steps.do(PutLayer(layer=with_changes(own, span=steps.places.over(over, over))))
    return Batch(edits=tuple(steps.edits))


def as_piece(sheet: Sheet, transcripts: Mapping[str, Transcript], layer: str) -> Edit:
    """The recording of a voice-over as a piece before its words, in its place. Raises EditError."""
    steps = Steps(sheet, transcripts)
    own, before = _standing(steps, layer)
    voice = own.content
    transcript = transcripts.get(voice.media) if isinstance(voice, VoiceOver) else None
    if not isinstance(voice, VoiceOver) or transcript is None:
        raise EditError("Its recording is not there, or not ready yet.")
    (name,) = steps.fresh(1)
    end = min(voice.end or transcript.duration, transcript.duration)
    steps.do(InsertPieces(pieces=(Piece(id=name, recording=voice.media, start=voice.start, end=end),), before=before))
    steps.do(RemoveLayer(layer=own.id))
    return Batch(edits=tuple(steps.edits))


def _standing(steps: Steps, layer: str) -> tuple[Layer, str]:
    """A layer, and the piece that begins with its first word; one is split for that."""
    own = next((each for each in steps.sheet.layers if each.id == layer), None)
    kept = steps.places.kept(own.span) if own and not own.span.is_whole else None
    if own is None or kept is None:
        raise EditError(_NOWHERE)
    return own, steps.split_before(steps.places.spots[kept[0]].ref)
