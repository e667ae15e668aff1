"""Who of those that are seen is talking: told by how mouths move while each speaker's words are said."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from itertools import groupby, pairwise

import numpy as np

from hovvet.core.picture.faces import Faces, Track
from hovvet.core.words.transcript import Word

_PAUSE = 1.0  # seconds: a longer silence ends a turn
_LATE = 0.3  # seconds by which a look after a turn still tells of it: a mouth is compared with the look before
_STILL = 0.03  # what a mouth that never moves seems to move at most
_SHORTEST = 1.2  # seconds: for a shorter turn nobody looks up


@dataclass(frozen=True)
class Watched:
    """From ``start`` to ``end`` seconds of the recording the ``track`` is to be watched; None where no face is known."""

    start: float
    end: float
    track: Track | None


@dataclass(frozen=True)
class _Turn:
    start: float
    end: float
    speaker: str


def watched(faces: Faces, words: Sequence[Word]) -> list[Watched]:
    """Whom to watch, from the beginning of a recording to its end: who talks, as far as that can be told.

    In each shot speakers are given to faces by how much more a mouth moves while they talk than while they do not. A
    shot in which words have one speaker, or none, goes by the mouths turn by turn.
    """
    turns = list(_turns(words))
    made: list[Watched] = []
    for start, end, own in _shots(faces):
        made += _shot(faces, own, [turn for turn in turns if start <= turn.start < end], start, end)
    return made


def shown_talking(faces: Faces, words: Sequence[Word]) -> dict[str, float]:
    """How well each speaker is seen to talk in a film: how much more the mouth of some face moves while they do than while others do,
    by how large that face is."""
    turns = list(_turns(words))
    shown: dict[str, float] = {}
    for speaker in {turn.speaker for turn in turns}:
        own = [turn for turn in turns if turn.speaker == speaker]
        others = [turn for turn in turns if turn.speaker != speaker]
        much = [
            (_moved(faces, track, own) - _moved(faces, track, others)) * float(np.median(track.side)) ** 0.5
            for track in faces.tracks
        ]
        shown[speaker] = max(much, default=0.0)
    return shown


def nearest(faces: Faces, place: tuple[float, float]) -> list[Watched]:
    """The same for a place of the picture that a person chose: in each shot, who is nearest to it."""

    def far(track: Track) -> float:
        return float(np.hypot(np.median(track.x) - place[0], np.median(track.y) - place[1]))

    return [Watched(start, end, min(own, key=far, default=None)) for start, end, own in _shots(faces)]


def _shots(faces: Faces) -> Iterator[tuple[float, float, list[Track]]]:
    """Where each shot begins and ends, and the faces in it."""
    for start, end in pairwise((0.0, *faces.cuts, float("inf"))):
        yield start, end, [track for track in faces.tracks if start <= faces.times[track.first] + 1e-6 < end]


def _turns(words: Sequence[Word]) -> Iterator[_Turn]:
    """Words of one speaker without a long silence between them."""
    said = [word for word in words if word.kind != "sound"]
    for _, group in groupby(range(len(said)), key=_Breaks(said)):
        members = [said[n] for n in group]
        yield _Turn(members[0].start, members[-1].end, members[0].speaker)


class _Breaks:
    """Counts the places where a turn ends, word by word."""

    def __init__(self, said: Sequence[Word]) -> None:
        self._said, self._count = said, 0

    def __call__(self, n: int) -> int:
        if n:
            one, two = self._said[n - 1], self._said[n]
            self._count += one.speaker != two.speaker or two.start - one.end > _PAUSE
        return self._count


def _shot(faces: Faces, tracks: Sequence[Track], turns: Sequence[_Turn], start: float, end: float) -> Iterator[Watched]:
    """Whom to watch in one shot: anew whenever a turn begins or a face comes or goes. While nobody is seen, whoever was
    seen last."""
    known = _given(faces, tracks, turns) if len(tracks) > 1 and len({turn.speaker for turn in turns}) > 1 else {}
    spans = {id(track): faces.span(track) for track in tracks}
    times = sorted({start, *(turn.start for turn in turns), *(t for span in spans.values() for t in span)})
    at, now = start, None
    for begins, ends in pairwise([*times, min(end, times[-1] + _SHORTEST)]):
        there = [each for each in tracks if spans[id(each)][0] <= begins + 1e-6 and spans[id(each)][1] > begins + 1e-6]
        if not there:
            continue
        turn = next((each for each in reversed(turns) if each.start <= begins + 1e-6), turns[0] if turns else None)
        track = _choice(faces, there, turn, known)
        if now is None:
            now = track
        stays = now in there and (turn is None or min(turn.end, ends) - begins < _SHORTEST)
        if track is not now and not stays:
            yield Watched(at, begins, now)
            at, now = begins, track
    yield Watched(at, end, now)


def _choice(faces: Faces, there: Sequence[Track], turn: _Turn | None, known: dict[str, Track]) -> Track:
    """Whom to watch of those that are there, while somebody has the turn."""
    if len(there) == 1 or turn is None:
        return max(there, key=_presence)
    if known.get(turn.speaker) in there:
        return known[turn.speaker]
    return max(there, key=lambda each: (_moved(faces, each, [turn]), _presence(each)))


def _given(faces: Faces, tracks: Sequence[Track], turns: Sequence[_Turn]) -> dict[str, Track]:
    """The face of each speaker: best pairs first, no face twice."""
    pairs = []
    for speaker in {turn.speaker for turn in turns}:
        own = [turn for turn in turns if turn.speaker == speaker]
        others = [turn for turn in turns if turn.speaker != speaker]
        for n, track in enumerate(tracks):
            pairs.append((_moved(faces, track, own) - _moved(faces, track, others), speaker, n))
    given: dict[str, Track] = {}
    for more, speaker, n in sorted(pairs, reverse=True):
        if more > 0 and speaker not in given and tracks[n] not in given.values():
            given[speaker] = tracks[n]
    return given


def _moved(faces: Faces, track: Track, turns: Sequence[_Turn]) -> float:
    """How much a mouth moves on average during some turns, as a share of how much it does when it moves."""
    times = np.array(faces.times[track.first : track.first + len(track.x)])
    if not turns:
        return 0.0
    starts, ends = (np.array([getattr(turn, edge) for turn in turns]) for edge in ("start", "end"))
    of = np.searchsorted(starts, times, side="right") - 1  # the turn that has begun last
    inside = (of >= 0) & (times <= ends[of] + _LATE)
    moved = np.array(track.moved)
    return float(moved[inside].mean() / max(np.percentile(moved, 90), _STILL)) if inside.any() else 0.0


def _presence(track: Track) -> float:
    """How much there is of a face: large and long."""
    return len(track.x) * float(np.median(track.side))
