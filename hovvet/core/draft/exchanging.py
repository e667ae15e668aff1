"""What is said in one place, said otherwise: another stretch of speech takes the place of a piece, and what lies over it, and what
is marked in it, stays with the words."""

from collections.abc import Mapping, Sequence
from difflib import SequenceMatcher
from typing import NamedTuple

from hovvet.core.sheet.applying import apply
from hovvet.core.sheet.cutting import piece_words
from hovvet.core.sheet.edits import (
    Batch,
    BreakCaption,
    Edit,
    EditError,
    InsertPieces,
    MarkKeywords,
    PutLayer,
    RemovePiece,
)
from hovvet.core.sheet.model import Piece, Run, Sheet, WordRef
from hovvet.core.sheet.moving import fresh_names
from hovvet.core.sheet.starting import passage
from hovvet.core.value import with_changes
from hovvet.core.words.transcript import Transcript, Word
from hovvet.core.words.vocabulary import bare


class Instead(NamedTuple):
    """Words ``first`` to ``last`` (ids) of a recording, which are to stand in the place of a ``piece``; ``desk`` is the sheet of
    that recording, whose cuts come along."""

    piece: str
    desk: Sheet
    first: int
    last: int


def exchanged(sheet: Sheet, transcripts: Mapping[str, Transcript], instead: Sequence[Instead]) -> Edit:
    """The edit that puts each stretch in the place of its piece. Raises EditError where a piece is not there (any more)."""
    edits: list[Edit] = []
    for each in instead:
        old = next((piece for piece in sheet.pieces if piece.id == each.piece), None)
        if old is None or old.recording is None or old.recording not in transcripts:
            raise EditError("That sentence is no longer on the sheet. Choose it again.", f"no piece {each.piece!r}")
        (recording,) = each.desk.recordings
        name = next(iter(fresh_names(sheet, "p")))
        new = with_changes(passage(each.desk, transcripts[recording], each.first, each.last), id=name, origin=name)
        step = _one(sheet, transcripts, old, new)
        edits += step
        sheet = apply(sheet, Batch(edits=tuple(step)))
    return Batch(edits=tuple(edits))


def _one(sheet: Sheet, transcripts: Mapping[str, Transcript], old: Piece, new: Piece) -> list[Edit]:
    assert old.recording is not None and new.recording is not None
    before = piece_words(transcripts[old.recording], old)
    after = piece_words(transcripts[new.recording], new)
    pairs = _same(before, after)
    along = _Along(old, new, before, after, pairs)
    others = {piece.origin for piece in sheet.pieces if piece.id != old.id}
    edits: list[Edit] = [InsertPieces(pieces=(new,), before=old.id)]
    for layer in sheet.layers:
        runs = tuple(along.moved(run, run.origin in others) for run in layer.span.runs)
        if runs != layer.span.runs:
            edits.append(PutLayer(layer=with_changes(layer, span=with_changes(layer.span, runs=runs))))
    ids = {before[a].id: after[b].id for a, b in pairs}

    def ref(word: WordRef) -> WordRef | None:
        if word.origin != old.origin or word.word not in ids:
            return None
        return WordRef(origin=new.origin, word=ids[word.word])

    marked = tuple(now for word in sheet.keywords if (now := ref(word)))
    if marked:
        edits.append(MarkKeywords(words=marked))
    edits += [BreakCaption(word=now, how=each.how) for each in sheet.breaks if (now := ref(each.word))]
    return [*edits, RemovePiece(piece=old.id)]


def _same(before: Sequence[Word], after: Sequence[Word]) -> list[tuple[int, int]]:
    """Positions of the words that both have, in order."""
    blocks = SequenceMatcher(
        None, [bare(each.text) for each in before], [bare(each.text) for each in after], autojunk=False
    )
    return [(a + k, b + k) for a, b, size in blocks.get_matching_blocks() for k in range(size)]


class _Along(NamedTuple):
    """An old stretch beside a new one: their pieces, their words, and the positions of those that both have."""

    old: Piece
    new: Piece
    before: Sequence[Word]
    after: Sequence[Word]
    pairs: Sequence[tuple[int, int]]

    def moved(self, run: Run, shared: bool) -> Run:
        """A run of a layer, in the new stretch: over the same words. One that reaches beyond the piece, whose origin other pieces
        have, stays with them."""
        old, new = self.old, self.new
        if run.origin != old.origin or run.end <= old.start or run.start >= old.end:
            return run
        if shared and (run.start < old.start or run.end > old.end):
            return run
        covered = [n for n, word in enumerate(self.before) if run.start <= (word.start + word.end) / 2 < run.end]
        if not covered:
            return run
        found = [b for a, b in self.pairs if covered[0] <= a <= covered[-1]]
        whole = covered[0] == 0 and covered[-1] == len(self.before) - 1
        first = 0 if whole else found[0] if found else self._beside(covered[0])
        last = len(self.after) - 1 if whole else found[-1] if found else max(self._beside(covered[-1]), first)
        return Run(origin=new.origin, start=self._begins(first), end=self._ends(last))

    def _beside(self, place: int) -> int:
        """Where a word would stand that the new stretch does not have: as far along as it was."""
        return round(place * (len(self.after) - 1) / max(len(self.before) - 1, 1))

    def _begins(self, place: int) -> float:
        return (self.after[place - 1].end + self.after[place].start) / 2 if place else self.new.start

    def _ends(self, place: int) -> float:
        if place + 1 == len(self.after):
            return self.new.end
        return (self.after[place].end + self.after[place + 1].start) / 2
