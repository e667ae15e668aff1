"""A timeline that comes back from another editor: reordered, trimmed, shortened, it becomes one change of the sheet.

What comes from outside is parsed in a program of its own, under limits; nothing that it names is opened. Only the track of
what is said is taken in (``interchange.SPEECH``, or the first video track): the rest stays as it is on the sheet, and what
was changed there is told.
"""

import sys
import tempfile
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from pathlib import Path, PurePosixPath
from typing import Any, NamedTuple

import opentimelineio as otio

from hovvet.core.errors import CoreError
from hovvet.core.formats.interchange import OURS, SPEECH
from hovvet.core.media.process import Limits, answer_of, answering
from hovvet.core.plan.model import Plan, Stretch
from hovvet.core.sheet.edits import ArrangePieces
from hovvet.core.sheet.limits import LONGEST_GAP, MOST_PIECES, SHORTEST_GAP
from hovvet.core.sheet.model import PauseCut, Piece, Sheet, WordCut
from hovvet.core.sheet.moving import fresh_names
from hovvet.core.spans import subtract
from hovvet.core.time import Rate
from hovvet.core.value import with_changes
from hovvet.core.words.transcript import Transcript

LARGEST = 20_000_000  # bytes of a file that comes back
_LIMITS = Limits(seconds=20, cpu=20, output=0, memory=1024**3)
_BROKEN = "This is not a timeline that can be read. Save it as OpenTimelineIO (.otio) and bring it in again."
_MOST_TOLD = 20  # things that are not taken in, told one by one
_NEAR = 0.51  # frames: so near, an edge is where it was


class Came(NamedTuple):
    """A clip of the track: which recording it is of (by its id here, "" where none is named), its file, its piece and origin
    here; from and to which second of it; ``gap`` for nothing."""

    recording: str
    file: str
    piece: str
    origin: str
    start: float
    end: float
    gap: bool = False


class Read(NamedTuple):
    """What a timeline says: the clips of its speech in order, the names and shapes of its other tracks, and what of it is not
    understood."""

    clips: list[Came]
    others: list[list[Any]]
    left_out: list[str]


class TakenIn(NamedTuple):
    """The one change that it comes to (None: the cuts are as they were), and what it says that is not taken in."""

    edit: ArrangePieces | None
    left_out: list[str]


def read_apart(data: bytes) -> Read:
    """What is in a timeline from outside. Raises CoreError."""
    if len(data) > LARGEST:
        raise CoreError(f"The file is larger than {LARGEST // 1_000_000} MB, too large for the timeline of a clip.")
    with tempfile.TemporaryDirectory() as scratch:
        file = Path(scratch) / "given.otio"
        file.write_bytes(data)
        answer = answer_of("hovvet.core.formats.interchange_in", [str(file)], _LIMITS, _BROKEN)
    return Read([Came(*each) for each in answer["clips"]], answer["others"], answer["left_out"])


def read_here(text: str) -> Read:
    """The same of what is trusted. Raises CoreError."""
    try:
        whole = otio.adapters.read_from_string(text, "otio_json")
    except (otio.exceptions.OTIOError, ValueError, TypeError, RuntimeError):
        raise CoreError(_BROKEN) from None
    if not isinstance(whole, otio.schema.Timeline):
        raise CoreError("There is no timeline in this file. Save the timeline itself, not a clip or a bin.")
    tracks = [each for each in whole.tracks if isinstance(each, otio.schema.Track)]
    films = [each for each in tracks if each.kind == "Video"]
    speech = next((each for each in films if each.name == SPEECH), films[0] if films else None)
    if speech is None:
        raise CoreError("There is no picture track in this timeline. Bring in one that was made from a clip here.")
    left_out: list[str] = []
    clips = list(_clips(speech, left_out))
    if len(clips) > MOST_PIECES:
        raise CoreError(f"There are more than {MOST_PIECES:,} clips in this timeline, more than a clip may have.")
    others = [shape_of(each) for each in tracks if each is not speech and each.name != SPEECH]
    return Read(clips, others, left_out)


def _clips(track: otio.schema.Track, left_out: list[str]) -> Iterator[Came]:
    for item in track:
        if isinstance(item, otio.schema.Transition):
            continue
        if isinstance(item, otio.schema.Gap):
            own = _ours(item)
            lasts = item.trimmed_range().duration.to_seconds()
            yield Came("", "", own.get("piece", ""), own.get("origin", ""), 0.0, lasts, True)
        elif isinstance(item, otio.schema.Clip):
            yield from _clip(item, left_out)
        else:
            left_out.append(
                f"“{item.name or type(item).__name__}” holds tracks of its own: put its clips onto the track."
            )


def _clip(item: otio.schema.Clip, left_out: list[str]) -> Iterator[Came]:
    try:
        span = item.trimmed_range()
    except otio.exceptions.OTIOError:
        left_out.append(f"“{item.name}” does not say which part of its file it is.")
        return
    reference, own = item.media_reference, _ours(item)
    there = reference.available_range if reference is not None else None
    begins = there.start_time.to_seconds() if there is not None else 0.0
    url = getattr(reference, "target_url", "") or ""
    file = PurePosixPath(url.replace("\\", "/")).name
    start, lasts = span.start_time.to_seconds() - begins, span.duration.to_seconds()
    if not (0 <= start < 1e6 and 0 < lasts < 1e6):
        left_out.append(f"“{item.name}” is at a time that its file does not have.")
        return
    recording = own.get("recording") or _ours(reference).get("media", "")
    yield Came(recording, file, own.get("piece", ""), own.get("origin", ""), start, start + lasts * _speed(item))


def _speed(item: otio.schema.Clip) -> float:
    """Times as fast as it was filmed."""
    warp = next((each for each in item.effects if isinstance(each, otio.schema.LinearTimeWarp)), None)
    return min(max(abs(warp.time_scalar), 0.0), 100.0) if warp is not None else 1.0


def _ours(item: Any) -> dict[str, str]:
    own = item.metadata.get(OURS) if item is not None else None
    return {key: value for key, value in (own or {}).items() if isinstance(value, str) and len(value) <= 100}


def shape_of(track: otio.schema.Track) -> list[Any]:
    """What tells whether a track was changed: its name, and of each of its parts what it is, its name and its length."""
    parts = []
    for item in track:
        span = item.source_range if isinstance(item, otio.core.Item) else None
        times = [round(span.start_time.to_seconds(), 3), round(span.duration.to_seconds(), 3)] if span else []
        parts.append([type(item).__name__, item.name, *times])
    return [track.name, parts]


@dataclass
class _Run:
    """Stretches ``first`` to ``last`` of a piece, one after the other, as they were but for where the first begins and the last
    ends: so many frames later."""

    piece: Piece
    first: int
    last: int
    starts_later: int
    ends_later: int


def _later(clip: Came, own: Stretch, rate: Rate) -> tuple[int, int]:
    """By how many frames a clip begins and ends later than the stretch that it was."""
    if not own.even:
        return 0, 0  # its speed is the sheet's own
    first, lasts = round(clip.start * rate.fps), round((clip.end - clip.start) * rate.fps)
    before = int(own.start * rate.fps + 0.5)
    return first - before, first + lasts - before - own.frames


def taken_in(
    read: Read,
    sheet: Sheet,
    plan: Plan,
    others: Sequence[list[Any]],
    transcripts: Mapping[str, Transcript],
    known: Mapping[str, str],
) -> TakenIn:
    """What a timeline that came back changes. ``plan`` is that of the sheet as it stands, ``others`` the shapes of the other
    tracks as they would go out now; ``known`` names recordings of the workspace by their files. Raises CoreError where
    nothing would be left."""
    left_out = list(read.left_out)
    made = list(_pieces(read.clips, sheet, plan, transcripts, known, left_out))
    if not made:
        raise CoreError("Nothing of this clip is in that timeline, so it was not taken in. Is it the right one?")
    left_out += _changed_others(read.others, others)
    told = left_out[:_MOST_TOLD]
    if len(left_out) > _MOST_TOLD:
        told.append(f"And {len(left_out) - _MOST_TOLD} more.")
    same = [each.model_dump(exclude={"id"}) for each in made] == [
        each.model_dump(exclude={"id"}) for each in sheet.pieces
    ]
    return TakenIn(None if same else ArrangePieces(pieces=tuple(made)), told)


def _changed_others(came: Sequence[list[Any]], own: Sequence[list[Any]]) -> Iterator[str]:
    ours = {each[0]: each[1] for each in own}
    theirs = {each[0]: each[1] for each in came}
    for name in dict.fromkeys([*ours, *theirs]):
        if ours.get(name) == theirs.get(name):
            continue
        what = "is new" if name not in ours else "is gone" if name not in theirs else "was changed"
        yield f"The track “{name}” {what} there. Here it stays as it is: only the cuts of what is said are taken in."


def _pieces(
    clips: Sequence[Came],
    sheet: Sheet,
    plan: Plan,
    transcripts: Mapping[str, Transcript],
    known: Mapping[str, str],
    left_out: list[str],
) -> Iterator[Piece]:
    stretches = _by_piece(plan.stretches)
    names = fresh_names(sheet, "p", [piece.origin for piece in sheet.pieces])
    taken: dict[str, list[tuple[float, float]]] = {}
    for run in _runs(clips, sheet, plan.rate, stretches, known, left_out):
        if isinstance(run, Piece):
            yield with_changes(run, id=(name := next(names)), origin=run.origin if run.origin != "new" else name)
            continue
        piece = _cut_to(run, stretches[run.piece.id], plan.rate, transcripts)
        used = taken.setdefault(piece.origin, [])
        again = any(a < piece.end - 1e-6 and piece.start < b - 1e-6 for a, b in used)
        used.append((piece.start, piece.end))
        name = next(names)
        yield with_changes(piece, id=name, origin=name if again else piece.origin)


def _by_piece(stretches: Sequence[Stretch]) -> dict[str, list[Stretch]]:
    found: dict[str, list[Stretch]] = {}
    for each in stretches:
        found.setdefault(each.piece, []).append(each)
    return found


def _runs(
    clips: Sequence[Came],
    sheet: Sheet,
    rate: Rate,
    stretches: Mapping[str, list[Stretch]],
    known: Mapping[str, str],
    left_out: list[str],
) -> Iterator["_Run | Piece"]:
    """Runs of stretches, and pieces of what is new."""
    pieces = {piece.id: piece for piece in sheet.pieces}
    run: _Run | None = None
    for clip in clips:
        found = None if clip.gap else _stretch(clip, sheet, stretches, _NEAR / rate.fps)
        starts, ends = _later(clip, stretches[found[0]][found[1]], rate) if found else (0, 0)
        # What was trimmed is a piece by itself: beside it, cuts of words would come to lie otherwise by a frame.
        as_it_was = run and not (run.starts_later or run.ends_later or starts or ends)
        if run and found == (run.piece.id, run.last + 1) and as_it_was:
            run.last += 1
            continue
        if run:
            yield run
            run = None
        if found:
            run = _Run(pieces[found[0]], found[1], found[1], starts, ends)
        elif clip.gap:
            yield from _gap(clip, pieces.get(clip.piece), rate, left_out)
        else:
            yield from _new(clip, sheet, known, left_out)
    if run:
        yield run


def _gap(clip: Came, own: Piece | None, rate: Rate, left_out: list[str]) -> Iterator[Piece]:
    """A gap: the one that it was, as long as it was where that is as many frames, or one that is new."""
    if own is not None and own.is_gap:
        same = rate.frame(own.end) == round(clip.end * rate.fps)
        yield own if same else with_changes(own, end=round(min(max(clip.end, SHORTEST_GAP), LONGEST_GAP), 6))
    elif SHORTEST_GAP <= clip.end <= LONGEST_GAP:
        yield Piece(id="new", origin="new", recording=None, start=0, end=round(clip.end, 6))
    else:
        left_out.append(f"A gap of {clip.end:.1f} s: one may last {SHORTEST_GAP:g} to {LONGEST_GAP:g} s.")


def _stretch(clip: Came, sheet: Sheet, stretches: Mapping[str, list[Stretch]], near: float) -> tuple[str, int] | None:
    """Which stretch of which piece a clip is: of those of its origin the one that it shares most with.
    What a freeze frame is of lasts no time: ``near`` it is as good."""
    best: tuple[tuple[float, float], str, int] | None = None
    for piece in sheet.pieces:
        if piece.recording is None or piece.origin != clip.origin or clip.recording not in ("", piece.recording):
            continue
        for n, each in enumerate(stretches.get(piece.id, ())):
            shared = min(clip.end, each.end) - max(clip.start, each.start)
            alike = max(shared, 0.0), -abs(clip.start - each.start) - abs(clip.end - each.end)
            if shared >= -near and (best is None or alike > best[0]):
                best = alike, piece.id, n
    return (best[1], best[2]) if best else None


def _new(clip: Came, sheet: Sheet, known: Mapping[str, str], left_out: list[str]) -> Iterator[Piece]:
    """A stretch that was not in the clip before."""
    recording = clip.recording if clip.recording in sheet.recordings else known.get(clip.file, "")
    if not recording:
        left_out.append(
            f"“{clip.file or 'A clip'}” is none of your recordings. Bring it in first, then this timeline again."
        )
        return
    yield Piece(id="new", origin="new", recording=recording, start=round(clip.start, 6), end=round(clip.end, 6))


def _cut_to(run: _Run, own: Sequence[Stretch], rate: Rate, transcripts: Mapping[str, Transcript]) -> Piece:
    """A piece as a run has it: where an edge is where it was, it is kept to the last digit."""
    piece, first, last = run.piece, own[run.first], own[run.last]
    is_first, is_last = run.first == 0, run.last == len(own) - 1
    start = first.start + run.starts_later / rate.fps if run.starts_later or not is_first else piece.start
    end = last.end + run.ends_later / rate.fps if run.ends_later or not is_last else piece.end
    if (start, end) == (piece.start, piece.end):
        return piece
    kept = [(each.start, each.end) for each in own[run.first : run.last + 1]]
    shown = [(start, kept[0][1]), *kept[1:-1], (kept[-1][0], end)] if len(kept) > 1 else [(start, end)]
    transcript = transcripts.get(piece.recording or "")
    return Piece(
        id=piece.id,
        origin=piece.origin,
        recording=piece.recording,
        start=round(start, 6),
        end=round(end, 6),
        word_cuts=_word_cuts(piece, shown, (start, end), transcript),
        pause_cuts=_pause_cuts(piece, shown, (start, end)),
    )


def _word_cuts(
    piece: Piece, shown: Sequence[tuple[float, float]], span: tuple[float, float], transcript: Transcript | None
) -> tuple[WordCut, ...]:
    """The cuts of words that hold still: of words inside, and not of those that are shown again."""
    if transcript is None:
        return piece.word_cuts
    middles = {word.id: (word.start + word.end) / 2 for word in transcript.between(*span)}

    def holds(word: int) -> bool:
        at = middles.get(word)
        return at is not None and span[0] <= at < span[1] and not any(a <= at < b for a, b in shown)

    cuts = ((each, tuple(word for word in each.words if holds(word))) for each in piece.word_cuts)
    return tuple(with_changes(each, words=words) for each, words in cuts if words)


def _pause_cuts(piece: Piece, shown: Sequence[tuple[float, float]], span: tuple[float, float]) -> tuple[PauseCut, ...]:
    """The same of pauses."""
    cuts: list[PauseCut] = []
    for each in piece.pause_cuts:
        inside = max(each.start, span[0]), min(each.end, span[1])
        if inside[1] <= inside[0]:
            continue
        cuts += [
            with_changes(each, start=round(a, 6), end=round(b, 6))
            for a, b in subtract([inside], list(shown))
            if b - a > 1e-3
        ]
    return tuple(cuts)


if __name__ == "__main__":
    sys.exit(answering(lambda: read_here(Path(sys.argv[1]).read_text("utf-8", "replace"))._asdict(), _BROKEN))
