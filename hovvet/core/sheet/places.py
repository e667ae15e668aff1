"""Where things stand on a sheet: its words in order, and what of them a span lies over.

Nothing here is kept: a span names stretches of speech and is looked up anew in the sheet as it is. So a layer travels
with its words, shrinks when some are cut, sleeps when all are, and wakes when they come back.
"""

from bisect import bisect_right
from collections.abc import Iterator, Mapping, Sequence
from functools import cached_property
from typing import NamedTuple

from hovvet.core.sheet.cutting import piece_words
from hovvet.core.sheet.edits import EditError
from hovvet.core.sheet.model import Piece, Run, Sheet, Span, WordRef
from hovvet.core.words.transcript import Transcript, Word


class Spot(NamedTuple):
    """A word on the sheet (None: a gap), kept or struck."""

    piece: Piece
    word: Word | None
    kept: bool

    @property
    def start(self) -> float:
        """Seconds of its recording."""
        return self.word.start if self.word else self.piece.start

    @property
    def end(self) -> float:
        """Seconds of its recording."""
        return self.word.end if self.word else self.piece.end

    @property
    def ref(self) -> WordRef:
        """What names it."""
        return WordRef(origin=self.piece.origin, word=self.word.id if self.word else None)


class _Standing(NamedTuple):
    """Where the words of a piece stand: those from position ``first`` up to ``last`` of its transcript from ``place`` on."""

    first: int
    last: int
    place: int
    piece: Piece


def _first(standing: _Standing) -> int:
    return standing.first


class Places:
    """All that stands on a sheet, in order. ``transcripts`` by recording; those of missing recordings may be left out.

    Looked up when first asked for: a desk of 20,000 words is edited without.
    """

    def __init__(self, sheet: Sheet, transcripts: Mapping[str, Transcript]) -> None:
        self._sheet, self._transcripts = sheet, transcripts
        self._kept: dict[Span, tuple[int, int] | None] = {}

    @cached_property
    def spots(self) -> list[Spot]:
        """All words and gaps."""
        spots: list[Spot] = []
        for piece in self._sheet.pieces:
            struck = frozenset(word for cut in piece.word_cuts for word in cut.words)
            words: Sequence[Word | None] = (None,)
            if piece.recording is not None:
                transcript = self._transcripts.get(piece.recording)
                words = piece_words(transcript, piece) if transcript else ()
            spots += [Spot(piece, word, word is None or word.id not in struck) for word in words]
        return spots

    @cached_property
    def _by_origin(self) -> dict[str, list[_Standing]]:
        """What stands there of an origin, in order of time."""
        found: dict[str, list[_Standing]] = {}
        place = 0
        for piece in self._sheet.pieces:
            positions = self._positions(piece, piece.start, piece.end)
            found.setdefault(piece.origin, []).append(_Standing(positions.start, positions.stop, place, piece))
            place += len(positions)
        for own in found.values():
            own.sort(key=_first)
        return found

    def _positions(self, piece: Piece, start: float, end: float) -> range:
        """Which words of the recording of a piece have their middle within ``start`` to ``end``; of a gap the one there is."""
        if piece.recording is None:
            return range(int(start <= (piece.start + piece.end) / 2 < end))
        transcript = self._transcripts.get(piece.recording)
        return transcript.positions(start, end) if transcript else range(0)

    @cached_property
    def _place(self) -> dict[tuple[str, int | None], int]:
        found: dict[tuple[str, int | None], int] = {}
        for place, spot in enumerate(self.spots):
            found.setdefault((spot.piece.origin, spot.word.id if spot.word else None), place)
        return found

    def find(self, ref: WordRef) -> int:
        """The place of a word. Raises EditError when it is not on the sheet (any more)."""
        place = self._place.get((ref.origin, ref.word))
        if place is None:
            raise EditError("Those words are no longer on the sheet. Select them again.", f"no {ref!r}")
        return place

    def over(self, first: WordRef, last: WordRef) -> Span:
        """The span that lies over the words from one to another, in either order."""
        a, b = sorted((self.find(first), self.find(last)))
        runs: list[Run] = []
        for place in range(a, b + 1):
            start, end = self.times(place)
            origin = self.spots[place].piece.origin
            if runs and runs[-1].origin == origin and runs[-1].end == start:
                runs[-1] = Run(origin=origin, start=runs[-1].start, end=end)
            else:
                runs.append(Run(origin=origin, start=start, end=end))
        return Span(runs=tuple(runs))

    def times(self, place: int) -> tuple[float, float]:
        """From half-way between a word and the one before to half-way to the one after, in seconds of its recording."""
        spot = self.spots[place]
        before, after = self._beside(place, -1), self._beside(place, 1)
        start = (before.end + spot.start) / 2 if before else min(spot.piece.start, spot.start)
        end = (spot.end + after.start) / 2 if after else max(spot.piece.end, spot.end)
        return start, end

    def _beside(self, place: int, step: int) -> Spot | None:
        """The word next to one in its own piece."""
        other = place + step
        if 0 <= other < len(self.spots) and self.spots[other].piece is self.spots[place].piece:
            return self.spots[other]
        return None

    def covered(self, span: Span) -> tuple[int, int] | None:
        """The first and last place that a span lies over, struck ones included; None when nothing of it is left.

        Of words that were moved apart the larger part counts; others put between its words are taken in while they are
        fewer than its own.
        """
        if span.is_whole:
            return (0, len(self.spots) - 1) if self.spots else None
        groups: list[tuple[int, int, int]] = []  # first place, last place, words of the span in it
        for place in sorted({place for run in span.runs for place in self._in_run(run)}):
            if groups:
                first, last, count = groups[-1]
                if place - first - count < count or place == last + 1:
                    groups[-1] = (first, place, count + 1)
                    continue
            groups.append((place, place, 1))
        if not groups:
            return None
        first, last, _ = max(groups, key=lambda group: (group[2], -group[0]))
        return first, last

    def _in_run(self, run: Run) -> Iterator[int]:
        own = self._by_origin.get(run.origin)
        if not own:
            return
        wanted = self._positions(own[0].piece, run.start, run.end)
        for standing in own[max(bisect_right(own, wanted.start, key=_first) - 1, 0) :]:
            if standing.first >= wanted.stop:
                return
            for position in range(max(wanted.start, standing.first), min(wanted.stop, standing.last)):
                yield standing.place + position - standing.first

    def kept(self, span: Span) -> tuple[int, int] | None:
        """The first and last place of a span that is kept; None while it sleeps."""
        if span not in self._kept:
            self._kept[span] = self._kept_of(span)
        return self._kept[span]

    def _kept_of(self, span: Span) -> tuple[int, int] | None:
        covered = self.covered(span)
        if covered is None:
            return None
        places = [place for place in range(covered[0], covered[1] + 1) if self.spots[place].kept]
        return (places[0], places[-1]) if places else None
