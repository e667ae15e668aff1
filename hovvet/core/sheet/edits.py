"""Edits: every change to a sheet is a small value, and ``apply`` is a pure function."""

from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field, FiniteFloat

from hovvet.core.errors import CoreError
from hovvet.core.sheet.model import CutReason, Name, PauseCut, Piece, Sheet, WordCut


class EditError(CoreError):
    """The edit does not fit the sheet."""


class _Edit(BaseModel):
    model_config = ConfigDict(frozen=True, extra="forbid")


class CutWords(_Edit):
    """Strike out words of a piece. Words already struck stay as they are."""

    type: Literal["cut_words"] = "cut_words"
    piece: Name
    words: Annotated[tuple[int, ...], Field(min_length=1, max_length=100_000)]
    reason: CutReason = "hand"


class CutPause(_Edit):
    """Take out a stretch of silence, in seconds of the recording."""

    type: Literal["cut_pause"] = "cut_pause"
    piece: Name
    start: Annotated[FiniteFloat, Field(ge=0)]
    end: Annotated[FiniteFloat, Field(ge=0)]
    reason: CutReason = "pause"


class BringBack(_Edit):
    """Bring back struck words, and every pause cut that meets one of ``spans`` (start, end in seconds)."""

    type: Literal["bring_back"] = "bring_back"
    piece: Name
    words: tuple[int, ...] = ()
    spans: tuple[tuple[FiniteFloat, FiniteFloat], ...] = ()


class Batch(_Edit):
    """Several edits as one: applied in order, undone together."""

    type: Literal["batch"] = "batch"
    edits: Annotated[tuple["Edit", ...], Field(max_length=20_000)]


class SetOutlet(_Edit):
    """Make the clip for another outlet."""

    type: Literal["set_outlet"] = "set_outlet"
    outlet: Name


class SetCaptions(_Edit):
    """Choose the caption style, or None for no captions."""

    type: Literal["set_captions"] = "set_captions"
    captions: Name | None


Edit = Annotated[
    CutWords | CutPause | BringBack | SetOutlet | SetCaptions | Batch,
    Field(discriminator="type"),
]
Batch.model_rebuild()


def apply(sheet: Sheet, edit: Edit) -> Sheet:
    """The sheet after the edit. The given sheet is not changed.

    Raises EditError when the edit names a piece the sheet does not have, or a
    pause outside its piece.
    """
    match edit:
        case Batch():
            for each in edit.edits:
                sheet = apply(sheet, each)
            return sheet
        case SetOutlet():
            return sheet.model_copy(update={"outlet": edit.outlet})
        case SetCaptions():
            return sheet.model_copy(update={"captions": edit.captions})
    try:
        piece = sheet.piece(edit.piece)
    except KeyError:
        raise EditError("That piece is no longer on the sheet.", f"no piece {edit.piece!r}") from None
    match edit:
        case CutWords():
            piece = _cut_words(piece, edit)
        case CutPause():
            piece = _cut_pause(piece, edit)
        case BringBack():
            piece = _bring_back(piece, edit)
    pieces = tuple(piece if each.id == piece.id else each for each in sheet.pieces)
    return sheet.model_copy(update={"pieces": pieces})


def _cut_words(piece: Piece, edit: CutWords) -> Piece:
    struck = {word for cut in piece.word_cuts for word in cut.words}
    fresh = tuple(word for word in dict.fromkeys(edit.words) if word not in struck)
    if not fresh:
        return piece
    cut = WordCut(words=fresh, reason=edit.reason)
    return piece.model_copy(update={"word_cuts": (*piece.word_cuts, cut)})


def _cut_pause(piece: Piece, edit: CutPause) -> Piece:
    start, end = max(edit.start, piece.start), min(edit.end, piece.end)
    if end <= start:
        raise EditError("That pause is not in this piece.", f"{edit.start}-{edit.end} s")
    cut = PauseCut(start=start, end=end, reason=edit.reason)
    if cut in piece.pause_cuts:
        return piece
    return piece.model_copy(update={"pause_cuts": (*piece.pause_cuts, cut)})


def _bring_back(piece: Piece, edit: BringBack) -> Piece:
    back = frozenset(edit.words)
    word_cuts = []
    for cut in piece.word_cuts:
        left = tuple(word for word in cut.words if word not in back)
        if left:
            word_cuts.append(cut if len(left) == len(cut.words) else cut.model_copy(update={"words": left}))
    pause_cuts = tuple(
        cut for cut in piece.pause_cuts if not any(cut.start < end and start < cut.end for start, end in edit.spans)
    )
    return piece.model_copy(update={"word_cuts": tuple(word_cuts), "pause_cuts": pause_cuts})
