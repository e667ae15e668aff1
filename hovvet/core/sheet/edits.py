"""Edits: every change to a sheet is a small value, and ``apply`` is a pure function."""

from collections.abc import Sequence
from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field, FiniteFloat

from hovvet.core.errors import CoreError
from hovvet.core.sheet.model import CutReason, Name, PauseCut, Piece, Sheet, WordCut
from hovvet.core.time import EPSILON


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


class SplitPiece(_Edit):
    """Make two pieces of one, at ``at`` seconds of the recording; the second is called ``fresh``, and the struck
    words ``struck`` go along with it."""

    type: Literal["split_piece"] = "split_piece"
    piece: Name
    at: Annotated[FiniteFloat, Field(ge=0)]
    fresh: Name
    struck: Annotated[tuple[int, ...], Field(max_length=100_000)] = ()


Names = Annotated[tuple[Name, ...], Field(min_length=1, max_length=2_000)]


class MovePieces(_Edit):
    """Put pieces before another one, or at the end (None). Pieces that then go on where the one before ends are joined."""

    type: Literal["move_pieces"] = "move_pieces"
    pieces: Names
    before: Name | None = None


class CopyPieces(_Edit):
    """Put copies of pieces, called ``fresh``, before another one, or at the end (None)."""

    type: Literal["copy_pieces"] = "copy_pieces"
    pieces: Names
    fresh: Names
    before: Name | None = None


class RemovePiece(_Edit):
    """Take a piece off the sheet; the last one stays."""

    type: Literal["remove_piece"] = "remove_piece"
    piece: Name


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
    CutWords
    | CutPause
    | BringBack
    | SplitPiece
    | MovePieces
    | CopyPieces
    | RemovePiece
    | SetOutlet
    | SetCaptions
    | Batch,
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
    match edit:
        case MovePieces() | CopyPieces():
            return sheet.model_copy(update={"pieces": _placed(sheet, edit)})
        case RemovePiece():
            return sheet.model_copy(update={"pieces": _without(sheet, edit)})
        case SplitPiece():
            return sheet.model_copy(update={"pieces": _parted(sheet, edit)})
    piece = _piece(sheet, edit.piece)
    match edit:
        case CutWords():
            piece = _cut_words(piece, edit)
        case CutPause():
            piece = _cut_pause(piece, edit)
        case BringBack():
            piece = _bring_back(piece, edit)
    pieces = tuple(piece if each.id == piece.id else each for each in sheet.pieces)
    return sheet.model_copy(update={"pieces": pieces})


def _piece(sheet: Sheet, piece_id: str) -> Piece:
    try:
        return sheet.piece(piece_id)
    except KeyError:
        raise EditError("That piece is no longer on the sheet.", f"no piece {piece_id!r}") from None


def _placed(sheet: Sheet, edit: MovePieces | CopyPieces) -> tuple[Piece, ...]:
    """The pieces after some of them were moved, or copied, to another place."""
    chosen = [_piece(sheet, name) for name in edit.pieces]
    rest = list(sheet.pieces)
    if isinstance(edit, CopyPieces):
        if len(edit.fresh) != len(chosen):
            raise EditError("Each copy needs a name of its own.")
        _check_fresh(sheet, edit.fresh)
        chosen = [piece.model_copy(update={"id": name}) for piece, name in zip(chosen, edit.fresh, strict=True)]
    else:
        rest = [piece for piece in rest if piece not in chosen]
    ids = [piece.id for piece in rest]
    if edit.before is not None and edit.before not in ids:
        raise EditError("The place to move to is no longer on the sheet.", f"no piece {edit.before!r}")
    place = len(ids) if edit.before is None else ids.index(edit.before)
    return joined([*rest[:place], *chosen, *rest[place:]])


def _without(sheet: Sheet, edit: RemovePiece) -> tuple[Piece, ...]:
    gone = _piece(sheet, edit.piece)
    if len(sheet.pieces) == 1:
        raise EditError("This is the only piece left. Delete the clip instead.")
    return joined([piece for piece in sheet.pieces if piece is not gone])


def _parted(sheet: Sheet, edit: SplitPiece) -> tuple[Piece, ...]:
    whole = _piece(sheet, edit.piece)
    _check_fresh(sheet, (edit.fresh,))
    place = sheet.pieces.index(whole)
    return (*sheet.pieces[:place], *split(whole, edit), *sheet.pieces[place + 1 :])


def _check_fresh(sheet: Sheet, names: Sequence[str]) -> None:
    taken = {piece.id for piece in sheet.pieces}
    if taken.intersection(names) or len(set(names)) < len(names):
        raise EditError("This was done already.", f"of {names!r} some are there")


def split(piece: Piece, edit: SplitPiece) -> tuple[Piece, Piece]:
    """The two pieces on both sides of a time. Raises EditError when that is not inside."""
    at = edit.at
    if not piece.start + EPSILON < at < piece.end - EPSILON:
        raise EditError("A piece can be split only inside.", f"{at} s of {piece.start}-{piece.end} s")

    def cuts(start: float, end: float) -> tuple[PauseCut, ...]:
        return tuple(
            cut.model_copy(update={"start": max(cut.start, start), "end": min(cut.end, end)})
            for cut in piece.pause_cuts
            if max(cut.start, start) < min(cut.end, end)
        )

    after = frozenset(edit.struck)
    before = frozenset(word for cut in piece.word_cuts for word in cut.words) - after
    first = {"end": at, "word_cuts": _only(piece, before), "pause_cuts": cuts(piece.start, at)}
    second = {"id": edit.fresh, "start": at, "word_cuts": _only(piece, after), "pause_cuts": cuts(at, piece.end)}
    return piece.model_copy(update=first), piece.model_copy(update=second)


def _only(piece: Piece, words: frozenset[int]) -> tuple[WordCut, ...]:
    """The cuts of a piece as far as they are of these words."""
    kept = ((cut, tuple(word for word in cut.words if word in words)) for cut in piece.word_cuts)
    return tuple(cut.model_copy(update={"words": left}) for cut, left in kept if left)


def joined(pieces: Sequence[Piece]) -> tuple[Piece, ...]:
    """The pieces, those that go on exactly where the one before them ends made one with it."""
    made: list[Piece] = []
    for piece in pieces:
        if made and made[-1].recording == piece.recording and made[-1].end == piece.start:
            made[-1] = _one(made[-1], piece)
        else:
            made.append(piece)
    return tuple(made)


def _one(first: Piece, second: Piece) -> Piece:
    words = first.word_cuts + second.word_cuts
    pauses = list(first.pause_cuts)
    for cut in second.pause_cuts:
        meets = next((n for n, each in enumerate(pauses) if each.end == cut.start and each.reason == cut.reason), None)
        if meets is None:
            pauses.append(cut)
        else:
            pauses[meets] = pauses[meets].model_copy(update={"end": cut.end})
    return first.model_copy(update={"end": second.end, "word_cuts": words, "pause_cuts": tuple(pauses)})


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
    word_cuts = _only(piece, frozenset(word for cut in piece.word_cuts for word in cut.words) - back)
    pause_cuts = tuple(
        cut for cut in piece.pause_cuts if not any(cut.start < end and start < cut.end for start, end in edit.spans)
    )
    return piece.model_copy(update={"word_cuts": word_cuts, "pause_cuts": pause_cuts})
