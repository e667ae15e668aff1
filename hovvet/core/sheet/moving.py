"""Moving words: from what a person wants, in words, to edits of pieces, in seconds."""

from collections.abc import Mapping, Sequence
from itertools import islice

from pydantic import BaseModel, ConfigDict

from hovvet.core.plan.kept import piece_words
from hovvet.core.sheet.edits import Batch, CopyPieces, Edit, EditError, MovePieces, SplitPiece, apply
from hovvet.core.sheet.model import Name, Piece, Sheet
from hovvet.core.words.transcript import Transcript, Word


class WordRef(BaseModel):
    """A word where it stands on a sheet: the same word may stand there twice, in two pieces."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    piece: Name
    word: int


def move_words(
    sheet: Sheet, transcripts: Mapping[str, Transcript], first: WordRef, last: WordRef, before: WordRef | None,
    repeat: bool = False,
) -> Edit:  # fmt: skip
    """The edit that moves the words ``first`` to ``last`` (in the order of the sheet) before another one, or to the end.

    With ``repeat`` they stay where they are as well. An edit that changes nothing when ``before`` is one of them or
    follows them. Raises EditError for words that are not on the sheet.
    """
    steps = _Steps(sheet, transcripts)
    if before is not None and not repeat and steps.is_within(before, first, last):
        return Batch(edits=())
    begin = steps.split_before(first)
    end = steps.split_after(last)
    target = steps.split_before(before) if before is not None else None
    ids = [piece.id for piece in steps.sheet.pieces]
    start, stop = ids.index(begin), ids.index(end) + 1
    if stop <= start:
        raise EditError("The words to move stand in another order now. Select them again.")
    if not repeat and target == (ids[stop] if stop < len(ids) else None):
        return Batch(edits=())
    chosen = tuple(ids[start:stop])
    if repeat:
        steps.do(CopyPieces(pieces=chosen, fresh=steps.fresh(len(chosen)), before=target))
    else:
        steps.do(MovePieces(pieces=chosen, before=target))
    return Batch(edits=tuple(steps.edits))


class _Steps:
    """Edits so far, and the sheet that they lead to."""

    def __init__(self, sheet: Sheet, transcripts: Mapping[str, Transcript]) -> None:
        self.sheet, self._transcripts = sheet, transcripts
        self.edits: list[Edit] = []

    def do(self, edit: Edit) -> None:
        self.edits.append(edit)
        self.sheet = apply(self.sheet, edit)

    def fresh(self, count: int) -> tuple[str, ...]:
        """Names that no piece has."""
        taken = {piece.id for piece in self.sheet.pieces}
        free = (name for n in range(1, len(taken) + count + 1) if (name := f"p{n}") not in taken)
        return tuple(islice(free, count))

    def split_before(self, ref: WordRef) -> str:
        """Make a piece begin with a word; its name."""
        piece, words, place = self._found(ref)
        if place == 0:
            return piece.id
        return self._split(piece, words, place)

    def split_after(self, ref: WordRef) -> str:
        """Make a piece end with a word; its name."""
        piece, words, place = self._found(ref)
        if place + 1 < len(words):
            self._split(piece, words, place + 1)
        return piece.id

    def is_within(self, ref: WordRef, first: WordRef, last: WordRef) -> bool:
        """Whether a word is one of those from ``first`` to ``last``."""
        return self._order(first) <= self._order(ref) <= self._order(last)

    def _order(self, ref: WordRef) -> tuple[int, int]:
        piece, _, place = self._found(ref)
        return self.sheet.pieces.index(piece), place

    def _split(self, piece: Piece, words: Sequence[Word], place: int) -> str:
        """Split a piece half-way between two of its words; the name of the second half."""
        (fresh,) = self.fresh(1)
        at = (words[place - 1].end + words[place].start) / 2
        struck = {word for cut in piece.word_cuts for word in cut.words}
        after = tuple(word.id for word in words[place:] if word.id in struck)
        self.do(SplitPiece(piece=piece.id, at=at, fresh=fresh, struck=after))
        return fresh

    def _found(self, ref: WordRef) -> tuple[Piece, Sequence[Word], int]:
        """The piece in which a word stands now (it may have been split off since the person saw it), and its place."""
        named = next((piece for piece in self.sheet.pieces if piece.id == ref.piece), None)
        if named is None:
            raise EditError("That piece is no longer on the sheet. Select the words again.", f"no piece {ref.piece!r}")
        after = self.sheet.pieces[self.sheet.pieces.index(named) :]
        for piece in after:
            if piece.recording != named.recording:
                break
            words = piece_words(self._transcripts[piece.recording], piece)
            place = next((n for n, word in enumerate(words) if word.id == ref.word), None)
            if place is not None:
                return piece, words, place
        raise EditError(
            "Those words are no longer on the sheet. Select them again.", f"no word {ref.word} in {ref.piece}"
        )
