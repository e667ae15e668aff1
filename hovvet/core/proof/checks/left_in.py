"""What a sweep would take out, and pauses: left in the clip."""

from collections.abc import Iterator
from itertools import groupby, pairwise

from hovvet.core.proof.fault import Fix
from hovvet.core.proof.looked import Heard, Looked
from hovvet.core.proof.registry import Found, check
from hovvet.core.proof.thresholds import LONGEST_PAUSE, PAUSE_LEFT
from hovvet.core.sheet.contents.freeze import Freeze
from hovvet.core.sheet.edits import CutPause, CutWords, Edit, TrimPiece
from hovvet.core.sheet.model import Piece
from hovvet.core.sweep.finds import FindKind
from hovvet.core.sweep.settings import SweepSettings
from hovvet.core.sweep.sweep import sweep
from hovvet.core.value import with_changes

_KINDS: frozenset[FindKind] = frozenset({"filler", "repeat", "restart", "retake"})
_SAYS: dict[FindKind, str] = {
    "filler": "“{}” is a filler sound.",
    "repeat": "“{}” is said twice.",
    "restart": "“{}” is begun and given up.",
    "retake": "“{}” is said again after it.",
}


@check("left_in", "Fillers and repeats left in", "words")
def left_in(looked: Looked) -> Iterator[Found]:
    """What a sweep finds in the words that are heard, by the settings of its recording."""
    for piece_id, words in groupby(looked.heard, key=lambda each: each.spot.piece.id):
        own = {each.word.id: each for each in words}
        piece = looked.sheet.piece(piece_id)
        transcript = looked.transcript(piece)
        if transcript is None or piece.recording is None:
            continue
        heard = with_changes(transcript, words=tuple(each.word for each in own.values()))
        settings = looked.sweeps.get(piece.recording) or SweepSettings.usual(transcript.language)
        finds = sweep(heard, (), with_changes(settings, kinds=_KINDS)).finds
        for find in finds:
            cut = CutWords(piece=piece_id, words=find.words, reason=find.kind)
            said = [own[word] for word in find.words]
            yield Found(
                f"{piece.origin}:{find.words[0]}",
                _SAYS[find.kind].format(find.text or " ".join(each.word.text for each in said)),
                looked.over(said[0], said[-1]),
                (Fix(label="Cut it", edits=(cut,)),),
            )


@check("pause", "Long pauses left in", "words")
def long_pauses(looked: Looked) -> Iterator[Found]:
    """Between two words that are heard, before the first and after the last; cards, freeze frames and what is said over the
    clip are no pauses."""
    heard = looked.heard
    if not heard:
        return
    pieces = looked.sheet.pieces
    for a, b in pairwise(heard):
        if _quiet(looked, a.end, b.start) > LONGEST_PAUSE and not _between(looked, a, b):
            yield Found(
                f"{a.spot.piece.origin}:{a.word.id}",
                f"A pause of {b.start - a.end:.1f} s after “{a.word.text}”.",
                looked.over(a, b),
                (Fix(label="Shorten it", edits=tuple(_shortened(a, b))),),
            )
    first, last = heard[0], heard[-1]
    if pieces[0].id == first.spot.piece.id and _quiet(looked, 0.0, first.start) > LONGEST_PAUSE:
        trim = TrimPiece(piece=pieces[0].id, start=max(first.word.start - PAUSE_LEFT, 0.0), end=pieces[0].end)
        yield Found("start", f"{first.start:.1f} s pass before the first word.", looked.over(first), (_trim(trim),))
    over = looked.plan.seconds
    if pieces[-1].id == last.spot.piece.id and _quiet(looked, last.end, over) > LONGEST_PAUSE:
        trim = TrimPiece(piece=pieces[-1].id, start=pieces[-1].start, end=last.word.end + PAUSE_LEFT)
        yield Found("end", f"{over - last.end:.1f} s pass after the last word.", looked.over(last), (_trim(trim),))


def _trim(edit: Edit) -> Fix:
    return Fix(label="Take it off", edits=(edit,))


def _quiet(looked: Looked, start: float, end: float) -> float:
    """For how long nobody speaks between two seconds of the output."""
    said = sum(max(min(b, end) - max(a, start), 0.0) for a, b in looked.voices)
    return end - start - said


def _between(looked: Looked, a: Heard, b: Heard) -> bool:
    """Whether something stands between two words that a person put there."""
    spots = looked.scene.places.spots[a.place + 1 : b.place]
    frames = round(a.end * looked.fps), round(b.start * looked.fps)
    stops = any(each.first <= frames[1] and each.last >= frames[0] for each in looked.scene.of(Freeze))
    return stops or any(spot.word is None for spot in spots)


def _shortened(a: Heard, b: Heard) -> Iterator[Edit]:
    """Half of what stays, at either word."""
    half = PAUSE_LEFT / 2
    one, two = a.spot.piece, b.spot.piece
    if one.id == two.id:
        yield CutPause(piece=one.id, start=round(a.word.end + half, 3), end=round(b.word.start - half, 3))
        return
    if _over(a.word.end + half, one, "end"):
        yield TrimPiece(piece=one.id, start=one.start, end=round(a.word.end + half, 3))
    if _over(b.word.start - half, two, "start"):
        yield TrimPiece(piece=two.id, start=round(max(b.word.start - half, 0.0), 3), end=two.end)


def _over(at: float, piece: Piece, edge: str) -> bool:
    return at < piece.end if edge == "end" else at > piece.start
