"""Cutting in a piece, and bringing back: many cuts at once take no longer than as many one by one."""

from bisect import bisect_left
from collections.abc import Sequence

from hovvet.core.sheet.edits import BringBack, CutPause, CutWords, EditError
from hovvet.core.sheet.model import PauseCut, Piece, WordCut
from hovvet.core.spans import Span, merge
from hovvet.core.value import with_changes


def only(cuts: Sequence[WordCut], words: frozenset[int] | set[int]) -> tuple[WordCut, ...]:
    """Cuts as far as they are of these words."""
    kept = ((cut, tuple(word for word in cut.words if word in words)) for cut in cuts)
    return tuple(cut if len(left) == len(cut.words) else with_changes(cut, words=left) for cut, left in kept if left)


class Cutting:
    """A piece while cuts are made in it."""

    def __init__(self, piece: Piece) -> None:
        self._before = piece
        self._words = list(piece.word_cuts)
        self._pauses = list(piece.pause_cuts)
        self._struck = {word for cut in piece.word_cuts for word in cut.words}
        self._known = {(cut.start, cut.end, cut.reason) for cut in piece.pause_cuts}

    @property
    def piece(self) -> Piece:
        """The piece as it is now."""
        words, pauses = tuple(self._words), tuple(self._pauses)
        if words == self._before.word_cuts and pauses == self._before.pause_cuts:
            return self._before
        return with_changes(self._before, word_cuts=words, pause_cuts=pauses)

    def cut_words(self, edit: CutWords) -> None:
        """Strike out words that are not struck yet."""
        fresh = tuple(word for word in dict.fromkeys(edit.words) if word not in self._struck)
        if fresh:
            self._words.append(WordCut(words=fresh, reason=edit.reason))
            self._struck.update(fresh)

    def cut_pause(self, edit: CutPause) -> None:
        """Take out a stretch, as far as it is in the piece. Raises EditError for one that is not."""
        start, end = max(edit.start, self._before.start), min(edit.end, self._before.end)
        if end <= start:
            raise EditError("That pause is not in this piece.", f"{edit.start}-{edit.end} s")
        if (start, end, edit.reason) not in self._known:
            self._pauses.append(PauseCut(start=start, end=end, reason=edit.reason))
            self._known.add((start, end, edit.reason))

    def bring_back(self, edit: BringBack) -> None:
        """Bring back words, and the cuts of pauses that meet what is named."""
        back = self._struck.intersection(edit.words)
        if back:
            self._struck -= back
            self._words = list(only(self._words, self._struck))
        if edit.spans:
            spans = merge([span for span in edit.spans if span[0] <= span[1]])
            self._pauses = [cut for cut in self._pauses if not _meets(cut, spans)]
            self._known = {(cut.start, cut.end, cut.reason) for cut in self._pauses}


def _meets(cut: PauseCut, spans: Sequence[Span]) -> bool:
    """Whether a cut lies over one of some spans, which are in order and apart."""
    n = bisect_left(spans, cut.end, key=_start) - 1
    return n >= 0 and cut.start < spans[n][1]


def _start(span: Span) -> float:
    return span[0]
