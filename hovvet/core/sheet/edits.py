"""Edits: every change to a sheet is a small value; ``applying`` applies them."""

from typing import Annotated, Literal

from pydantic import Field

from hovvet.core.captions.layout import CaptionLayout
from hovvet.core.captions.style import CaptionStyle
from hovvet.core.errors import CoreError
from hovvet.core.sheet.model import (
    CutReason,
    Edition,
    Layer,
    Piece,
    WordRef,
    Worn,
)
from hovvet.core.value import BreakHow, Moment, Name, Value, WordId


class EditError(CoreError):
    """The edit does not fit the sheet."""


class CutWords(Value):
    """Strike out words of a piece. Words already struck stay as they are."""

    type: Literal["cut_words"] = "cut_words"
    piece: Name
    words: Annotated[tuple[WordId, ...], Field(min_length=1, max_length=100_000)]
    reason: CutReason = "hand"


class CutPause(Value):
    """Take out a stretch of silence, in seconds of the recording."""

    type: Literal["cut_pause"] = "cut_pause"
    piece: Name
    start: Moment
    end: Moment
    reason: CutReason = "pause"


class BringBack(Value):
    """Bring back struck words, and every pause cut that meets one of ``spans`` (start, end in seconds)."""

    type: Literal["bring_back"] = "bring_back"
    piece: Name
    words: Annotated[tuple[WordId, ...], Field(max_length=100_000)] = ()
    spans: Annotated[tuple[tuple[Moment, Moment], ...], Field(max_length=20_000)] = ()


class SplitPiece(Value):
    """Make two pieces of one, at ``at`` seconds of the recording; the second is called ``fresh``, and the struck
    words ``struck`` go along with it."""

    type: Literal["split_piece"] = "split_piece"
    piece: Name
    at: Moment
    fresh: Name
    struck: Annotated[tuple[WordId, ...], Field(max_length=100_000)] = ()


Names = Annotated[tuple[Name, ...], Field(min_length=1, max_length=2_000)]


class MovePieces(Value):
    """Put pieces before another one, or at the end (None). Pieces that then go on where the one before ends are joined."""

    type: Literal["move_pieces"] = "move_pieces"
    pieces: Names
    before: Name | None = None


class CopyPieces(Value):
    """Put copies of pieces, called ``fresh``, before another one, or at the end (None)."""

    type: Literal["copy_pieces"] = "copy_pieces"
    pieces: Names
    fresh: Names
    before: Name | None = None


class RemovePiece(Value):
    """Take a piece off the sheet; the last one stays."""

    type: Literal["remove_piece"] = "remove_piece"
    piece: Name


class InsertPieces(Value):
    """Put new pieces before another one, or at the end (None)."""

    type: Literal["insert_pieces"] = "insert_pieces"
    pieces: Annotated[tuple[Piece, ...], Field(min_length=1, max_length=2_000)]
    before: Name | None = None


class ArrangePieces(Value):
    """Have these pieces in place of all there are: as a timeline has them that came back from another editor. What lies over
    an origin stays with it."""

    type: Literal["arrange_pieces"] = "arrange_pieces"
    pieces: Annotated[tuple[Piece, ...], Field(min_length=1, max_length=2_000)]


class TrimPiece(Value):
    """Let a piece begin and end elsewhere in its recording, in seconds; of a gap only the length counts. Its cuts stay,
    also where they are outside now."""

    type: Literal["trim_piece"] = "trim_piece"
    piece: Name
    start: Moment
    end: Moment


class PutLayer(Value):
    """Lay something over words, or change what is laid there: the layer of this id is replaced whole."""

    type: Literal["put_layer"] = "put_layer"
    layer: Layer


class RemoveLayer(Value):
    """Take a layer off."""

    type: Literal["remove_layer"] = "remove_layer"
    layer: Name


class PutEdition(Value):
    """Make the clip in one more edition, or change the edition of this id."""

    type: Literal["put_edition"] = "put_edition"
    edition: Edition


class RemoveEdition(Value):
    """Leave out an edition; the last one stays."""

    type: Literal["remove_edition"] = "remove_edition"
    edition: Name


class Batch(Value):
    """Several edits as one: applied in order, undone together."""

    type: Literal["batch"] = "batch"
    edits: Annotated[tuple["Edit", ...], Field(max_length=20_000)]


class SetCaptions(Value):
    """Choose the caption style by name, or None for no captions; ``style``, one of a person's own, in full."""

    type: Literal["set_captions"] = "set_captions"
    captions: Name | None
    style: CaptionStyle | None = None


class SetLayout(Value):
    """Choose how words are grouped into captions."""

    type: Literal["set_layout"] = "set_layout"
    layout: CaptionLayout


class BreakCaption(Value):
    """Break the captions at a word as a person wants it; None leaves it to the layout again."""

    type: Literal["break_caption"] = "break_caption"
    word: WordRef
    how: BreakHow | None


class MarkKeywords(Value):
    """Mark words in the captions, or (``marked`` False) no longer."""

    type: Literal["mark_keywords"] = "mark_keywords"
    words: Annotated[tuple[WordRef, ...], Field(max_length=20_000)]
    marked: bool = True


class WearHouse(Value):
    """Note the house style that the clip is dressed in; None: it wears none."""

    type: Literal["wear_house"] = "wear_house"
    worn: Worn | None


Edit = Annotated[
    CutWords
    | CutPause
    | BringBack
    | SplitPiece
    | MovePieces
    | CopyPieces
    | RemovePiece
    | InsertPieces
    | ArrangePieces
    | TrimPiece
    | PutLayer
    | RemoveLayer
    | PutEdition
    | RemoveEdition
    | SetCaptions
    | SetLayout
    | BreakCaption
    | MarkKeywords
    | WearHouse
    | Batch,
    Field(discriminator="type"),
]
Batch.model_rebuild()
