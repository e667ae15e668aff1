"""Moving words: from what a person wants, in words, to edits of pieces, in seconds."""

from collections.abc import Mapping, Sequence
from itertools import count, islice

from hovvet.core.sheet.applying import apply
from hovvet.core.sheet.cutting import piece_words
from hovvet.core.sheet.edits import Batch, CopyPieces, Edit, EditError, InsertPieces, MovePieces, SplitPiece
from hovvet.core.sheet.limits import check_gap
from hovvet.core.sheet.model import Piece, Sheet, WordRef
from hovvet.core.sheet.places import Places
from hovvet.core.value import with_changes
from hovvet.core.words.transcript import Transcript, Word

USUAL_GAP = 2.0  # seconds


def fresh_names(sheet: Sheet, letter: str, taken: Sequence[str] = ()) -> "islice[str]":
    """Names that nothing on a sheet has, nor anything that a layer or an edition remembers: ``letter`` and a number."""
    used = set(taken)
    used.update(name for piece in sheet.pieces for name in (piece.id, piece.origin))
    used.update(run.origin for layer in sheet.layers for run in layer.span.runs)
    used.update(layer.id for layer in sheet.layers)
    used.update(name for edition in sheet.editions for name in (edition.id, *edition.hidden))
    return islice((name for n in count(1) if (name := f"{letter}{n}") not in used), len(used) + 10_000)


def move_words(
    sheet: Sheet, transcripts: Mapping[str, Transcript], first: WordRef, last: WordRef, before: WordRef | None,
    repeat: bool = False,
) -> Edit:  # fmt: skip
    """The edit that moves the words ``first`` to ``last`` (in the order of the sheet) before another one, or to the end.

    With ``repeat`` they stay where they are as well. An edit that changes nothing when ``before`` is one of them or
    follows them. Raises EditError for words that are not on the sheet.
    """
    steps = Steps(sheet, transcripts)
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


def put_in(
    sheet: Sheet, transcripts: Mapping[str, Transcript], pieces: Sequence[Piece], before: WordRef | None
) -> Edit:
    """The edit that puts new pieces before a word, or at the end; they are given names that are free."""
    steps = Steps(sheet, transcripts)
    target = steps.split_before(before) if before is not None else None
    names = steps.fresh(len(pieces))
    named = (with_changes(each, id=name, origin=name) for each, name in zip(pieces, names, strict=True))
    steps.do(InsertPieces(pieces=tuple(named), before=target))
    return Batch(edits=tuple(steps.edits))


def gap(seconds: float) -> Piece:
    """A gap of so many seconds, to be put in. Raises EditError when it is too short or too long."""
    check_gap(seconds)
    return Piece(id="gap", recording=None, start=0, end=seconds)


class Steps:
    """Edits so far, and the sheet that they lead to."""

    def __init__(self, sheet: Sheet, transcripts: Mapping[str, Transcript]) -> None:
        self.sheet, self._transcripts = sheet, transcripts
        self.edits: list[Edit] = []
        self.places = Places(sheet, transcripts)

    def do(self, edit: Edit) -> None:
        """Make one more edit."""
        self.edits.append(edit)
        self.sheet = apply(self.sheet, edit)
        self.places = Places(self.sheet, self._transcripts)

    def fresh(self, number: int) -> tuple[str, ...]:
        """Names that no piece has."""
        return tuple(islice(fresh_names(self.sheet, "p"), number))

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
        return self.places.find(first) <= self.places.find(ref) <= self.places.find(last)

    def _split(self, piece: Piece, words: Sequence[Word], place: int) -> str:
        """Split a piece half-way between two of its words; the name of the second half."""
        (fresh,) = self.fresh(1)
        at = (words[place - 1].end + words[place].start) / 2
        struck = {word for cut in piece.word_cuts for word in cut.words}
        after = tuple(word.id for word in words[place:] if word.id in struck)
        self.do(SplitPiece(piece=piece.id, at=at, fresh=fresh, struck=after))
        return fresh

    def _found(self, ref: WordRef) -> tuple[Piece, Sequence[Word], int]:
        """The piece in which a word stands, that piece's words, and the word's place among them."""
        piece = self.places.spots[self.places.find(ref)].piece
        if piece.recording is None:
            return piece, (), 0
        words = piece_words(self._transcripts[piece.recording], piece)
        return piece, words, next(n for n, word in enumerate(words) if word.id == ref.word)
