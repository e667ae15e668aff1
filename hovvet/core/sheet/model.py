"""The sheet: the document of one clip, or of a whole recording on its desk.

A sheet is an ordered list of pieces, and in each the cuts made. A cut of words
names the words, so it follows them when their times are refined; a cut of a
pause names the stretch of time taken out.
"""

from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field, FiniteFloat, model_validator

CutReason = Literal["hand", "filler", "phrase", "repeat", "restart", "retake", "pause"]
Name = Annotated[str, Field(min_length=1, max_length=64, pattern=r"^[\w.-]+$")]


class WordCut(BaseModel):
    """Words struck out, by id."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    words: Annotated[tuple[int, ...], Field(min_length=1)]
    reason: CutReason = "hand"


class PauseCut(BaseModel):
    """Silence taken out: seconds of the recording."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    start: Annotated[FiniteFloat, Field(ge=0)]
    end: Annotated[FiniteFloat, Field(ge=0)]
    reason: CutReason = "pause"

    @model_validator(mode="after")
    def _forwards(self) -> "PauseCut":
        if self.end <= self.start:
            raise ValueError("a pause cut must end after it starts")
        return self


class Piece(BaseModel):
    """A stretch of one recording, in its seconds, with the cuts inside it."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    id: Name
    recording: Name
    start: Annotated[FiniteFloat, Field(ge=0)]
    end: Annotated[FiniteFloat, Field(ge=0)]
    word_cuts: tuple[WordCut, ...] = ()
    pause_cuts: tuple[PauseCut, ...] = ()


class Sheet(BaseModel):
    """Pieces in the order they are heard, and how the clip is dressed."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    version: Literal[1] = 1
    pieces: tuple[Piece, ...] = ()
    outlet: Name = "tall"
    captions: Name | None = "bold"

    def piece(self, piece_id: str) -> Piece:
        """The piece with this id. Raises KeyError when there is none."""
        for piece in self.pieces:
            if piece.id == piece_id:
                return piece
        raise KeyError(piece_id)
