"""The timeline of a clip: what is kept of its pieces, in whole frames, one after the other."""

from bisect import bisect_left, bisect_right
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from functools import cached_property
from itertools import pairwise
from math import floor

from hovvet.core.compile.source import Source
from hovvet.core.compile.timing import Pace, Stop, Timing
from hovvet.core.sheet.cutting import kept_spans
from hovvet.core.sheet.model import Piece, Sheet
from hovvet.core.spans import Span
from hovvet.core.time import EPSILON, Frames, Rate
from hovvet.core.words.transcript import Word

_QUIETER = 2.0  # dB by which the further one of two frame edges must be quieter to be taken
_NEAR = 1e-4  # frames: this near a whole one is a whole one


@dataclass(frozen=True)
class Part:
    """A part of the timeline, played on from beginning to end.

    ``knots`` are (frames into the part, seconds of the recording), straight lines between; empty in a gap.
    ``follows``: goes on in the recording exactly where the part before it ended.
    """

    piece: Piece
    frame: int
    frames: int
    knots: tuple[tuple[int, float], ...] = ()
    pace: Pace | None = None
    stop: Stop | None = None
    follows: bool = False

    @property
    def end(self) -> int:
        """One past its last frame."""
        return self.frame + self.frames

    @property
    def even(self) -> bool:
        """Whether it is played at its own speed."""
        return self.pace is None and self.stop is None

    def output(self, seconds: float) -> float:
        """Frames (with fractions) of the output at a moment of the recording inside it."""
        knots = self.knots
        n = 1 if len(knots) == 2 else max(bisect_left(knots, seconds, key=_seconds), 1)
        if n >= len(knots) or seconds > knots[n][1]:
            return float(self.end)
        (a, start), (b, end) = knots[n - 1], knots[n]
        part = (seconds - start) / (end - start) if seconds > start else 0.0
        return self.frame + a + part * (b - a)


@dataclass(frozen=True)
class Timeline:
    """All parts in order."""

    rate: Rate
    parts: tuple[Part, ...]
    _of_piece: dict[str, list[Part]] = field(default_factory=dict)

    def __post_init__(self) -> None:
        for part in self.parts:
            self._of_piece.setdefault(part.piece.id, []).append(part)

    @cached_property
    def frames(self) -> Frames:
        """The length of the clip."""
        return Frames(self.parts[-1].end if self.parts else 0)

    def of(self, piece: str) -> Sequence[Part]:
        """The parts of a piece."""
        return self._of_piece.get(piece, ())

    def part_at(self, piece: str, seconds: float) -> Part | None:
        """The part in which a moment of a piece's recording is heard; None when it is cut."""
        own = self.of(piece)
        n = (
            0
            if len(own) == 1 and seconds + EPSILON >= _begins(own[0])
            else bisect_right(own, seconds + EPSILON, key=_begins) - 1
        )
        while n >= 0 and own[n].stop:
            n -= 1
        if n < 0 or not own[n].knots:
            return own[0] if own and own[0].piece.is_gap else None
        return own[n] if seconds <= own[n].knots[-1][1] + EPSILON else None

    def kept(self, piece: str, start: float, end: float) -> float:
        """Seconds of a stretch of a piece's recording that are heard."""
        total = 0.0
        for part in self.of(piece):
            if part.knots and not part.stop:
                total += max(0.0, min(end, part.knots[-1][1]) - max(start, part.knots[0][1]))
        return total

    def frame_at(self, piece: str, seconds: float) -> float:
        """Where a moment of a piece is in the output, in frames with fractions; of one that is cut, where what follows
        it in its piece begins."""
        part = self.part_at(piece, seconds)
        if part is not None:
            return part.output(seconds) if part.knots else float(part.frame)
        own = self.of(piece)
        after = next((each for each in own if _begins(each) > seconds), None)
        if after is not None:
            return float(after.frame)
        return float(own[-1].end) if own else 0.0


def _seconds(knot: tuple[int, float]) -> float:
    return knot[1]


def _begins(part: Part) -> float:
    return part.knots[0][1] if part.knots else 0.0


def lay_out(sheet: Sheet, sources: Mapping[str, Source], rate: Rate, timings: Sequence[Timing]) -> Timeline:
    """The timeline of a sheet. Every cut is a whole number of frames from the next, so that taking words out moves
    what follows by whole frames and leaves it as it is. What ``sources`` does not have is left out."""
    changed: dict[str, list[Pace | Stop]] = {}
    for timing in timings:
        changed.setdefault(timing.piece, []).append(timing.what)
    parts: list[Part] = []
    for piece in sheet.pieces:
        at = parts[-1].end if parts else 0
        if piece.recording is None:
            frames = max(rate.frame(piece.end - piece.start), 1)
            parts.append(Part(piece, at, frames))
        elif piece.recording in sources:
            before = parts[-1] if parts else None
            parts += _Piece(piece, sources[piece.recording], rate, changed.get(piece.id, ())).parts(at, before)
    return Timeline(rate, tuple(parts))


class _Piece:
    """One piece on its way to parts."""

    def __init__(self, piece: Piece, source: Source, rate: Rate, changes: Sequence[Pace | Stop]) -> None:
        self._piece, self._source, self._rate = piece, source, rate
        self._paces = sorted((each for each in changes if isinstance(each, Pace)), key=lambda pace: pace.start)
        self._stops = sorted((each for each in changes if isinstance(each, Stop)), key=lambda stop: stop.at)
        self._struck = frozenset(word for cut in piece.word_cuts for word in cut.words)

    def parts(self, at: int, before: Part | None) -> Iterator[Part]:
        """Its parts from a frame on, after another piece's part."""
        spans = kept_spans(self._source.transcript, self._piece, self._source.levels)
        for n, (start, end) in enumerate(spans):
            limit = spans[n + 1][0] if n + 1 < len(spans) else float("inf")
            follows = n == 0 and before is not None and self._goes_on(before, start)
            for part in self._span(start, end, limit, at, follows):
                yield part
                at = part.end

    def _goes_on(self, before: Part, start: float) -> bool:
        """Whether the piece begins where the part before it ended."""
        if not before.knots or before.piece.recording != self._piece.recording:
            return False
        return abs(before.knots[-1][1] - start) < EPSILON

    def _span(self, start: float, end: float, limit: float, at: int, follows: bool) -> Iterator[Part]:
        """The parts of one kept span: what is said up to a freeze frame or a change of speed, then that."""
        position = start
        for a, b in self._edges(start, end):
            for stop in self._stops:
                if abs(stop.at - a) < EPSILON:
                    frames = max(self._rate.frame(stop.seconds), 1)
                    yield Part(self._piece, at, frames, ((0, position), (frames, position)), stop=stop, follows=follows)
                    at, follows = at + frames, True
            pace = next((each for each in self._paces if each.start - EPSILON <= a and b <= each.end + EPSILON), None)
            is_last = b >= end - EPSILON
            if pace is not None:
                frames = max(self._rate.frame(pace.lasts(position, b)), 1)
                knots = pace.knots(position, b, frames)
            else:
                frames = self._frames(position, b, limit) if is_last else self._rate.frame(b - position)
                if frames <= 0:
                    continue
                knots = ((0, position), (frames, position + self._rate.seconds(frames)))
            yield Part(self._piece, at, frames, knots, pace=pace, follows=follows)
            at, follows, position = at + frames, True, knots[-1][1]

    def _edges(self, start: float, end: float) -> Iterator[Span]:
        """The kept span in stretches between which the speed changes or a frame is held."""
        if not self._stops and not self._paces:
            yield start, end
            return
        cuts = {stop.at for stop in self._stops} | {at for pace in self._paces for at in (pace.start, pace.end)}
        inside = sorted(at for at in cuts if start + EPSILON < at < end - EPSILON)
        edges = [start, *inside, end]
        yield from pairwise(edges)

    def _frames(self, start: float, end: float, limit: float) -> int:
        """How many whole frames a stretch that ends with a cut takes: it ends at the quieter of the two frame edges around
        the cut, never inside a kept word and never where the next stretch has begun."""
        exact = (end - start) * self._rate.fps
        less = floor(exact + _NEAR)
        if exact - less < _NEAR:
            return less
        ends = [start + self._rate.seconds(frames) for frames in (less, less + 1)]
        last = self._last_kept(start, end)
        if less == 0 or (last is not None and ends[0] < min(last.end, end) - EPSILON):
            return less + 1 if less or last is not None else 0
        if ends[1] > limit + EPSILON:
            return less
        nearer, other = (0, 1) if exact - less < 0.5 else (1, 0)
        levels = self._source.levels
        if levels is not None and levels.at(ends[other]) < levels.at(ends[nearer]) - _QUIETER:
            return less + other
        return less + nearer

    def _last_kept(self, start: float, end: float) -> Word | None:
        """The last word within some seconds that is not struck."""
        words = self._source.transcript.words
        within = self._source.transcript.positions(max(start, self._piece.start), min(end, self._piece.end))
        return next((words[n] for n in reversed(within) if words[n].id not in self._struck), None)
