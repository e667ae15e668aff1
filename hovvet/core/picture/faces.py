"""Where the faces of a recording are: looked for in the key frames of its working copy, linked to tracks."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field
from functools import cached_property
from itertools import pairwise
from pathlib import Path
from typing import Any, Literal

import av
import cv2
import numpy as np
from numpy.typing import NDArray

from hovvet.core.engines.faces import LIKELY, SAME, Face, FaceDetector, Picture, around, overlap, squares
from hovvet.core.media.ffmpeg import GUARD_OPTIONS, Progress, no_progress
from hovvet.core.media.process import MediaError
from hovvet.core.value import Value

Floats = NDArray[np.float64]
VERSION: Literal[1] = 1
_WIDE = 960  # pixels: no face that matters is missed in a picture this wide
_EVERY = 4  # looks; in between only where faces were a moment ago
_CLOSELY = 8  # looks: while nobody is seen it is looked for small faces too, this seldom
_LOST = 4  # looks after which a face that is not seen again is gone
_FEWEST = 3  # looks in which a face has to be seen
_NEAR = 1.2  # times its side that a face moves between two looks at most
_SMALL = (64, 36)  # pixels of the pictures by which cuts are found
_CUT = 22.0  # of 255: two looks that differ by this much on average may be of two shots
_SUDDEN = 0.6  # part of the difference of two looks that comes between two frames, at a cut
_SMOOTH = 3  # looks over which the place of a face is taken (median)
_MOUTH = (24, 16)  # pixels of what is compared of a mouth


class Track(Value):
    """One face in one shot, at each look from the ``first`` on: its centre, in shares of the picture's width and height;
    its ``side``, in shares of the width; and how much its mouth changed since the look before (0 to 1)."""

    first: int
    x: tuple[float, ...]
    y: tuple[float, ...]
    side: tuple[float, ...]
    moved: tuple[float, ...]

    @cached_property
    def smooth(self) -> tuple[Floats, Floats]:
        """Its centre across and down at each look, the median of that look and its neighbours."""
        return _smoothed(self.x), _smoothed(self.y)


def _smoothed(places: Sequence[float]) -> Floats:
    padded = np.pad(np.array(places), _SMOOTH // 2, mode="edge")
    made: Floats = np.median(np.lib.stride_tricks.sliding_window_view(padded, _SMOOTH), axis=1)
    return made


class Faces(Value):
    """The faces of a recording at its looks, ``times`` in seconds; ``cuts`` are the seconds at which a shot begins in it."""

    version: Literal[1] = VERSION
    times: tuple[float, ...] = ()
    cuts: tuple[float, ...] = ()
    tracks: tuple[Track, ...] = ()

    @cached_property
    def moments(self) -> Floats:
        """``times`` to be computed with."""
        return np.array(self.times)

    @property
    def together(self) -> bool:
        """Whether two are seen at once somewhere."""
        spans = sorted(self.span(track) for track in self.tracks)
        return any(after[0] < before[1] for before, after in pairwise(spans))

    def span(self, track: Track) -> tuple[float, float]:
        """The seconds of the first and last look at a face."""
        return self.times[track.first], self.times[track.first + len(track.x) - 1]


def find_faces(working: Path, duration: float, progress: Progress = no_progress) -> Faces:
    """Look for faces in a working copy, about twice a second. Raises MediaError when it cannot be read."""
    detector = FaceDetector()
    times: list[float] = []
    cuts: list[float] = []
    linker = _Linker()
    small: NDArray[np.int16] | None = None
    for n, (at, picture) in enumerate(key_pictures(working)):
        before, small = small, _thumb(picture)
        if before is not None and np.abs(small - before).mean() > _CUT:
            cut = _cut_between(working, times[-1], at)
            if cut is not None:
                cuts.append(cut)
                linker.cut()
        linker.look(n, _look(detector, n, picture, linker.seen), picture)
        times.append(round(at, 3))
        progress(min(at / max(duration, 0.1), 1.0))
    size = linker.size or (1, 1)
    tracks = [each.track(*size) for each in linker.done() if each.seen >= _FEWEST]
    return Faces(times=tuple(times), cuts=tuple(cuts), tracks=tuple(sorted(tracks, key=lambda track: track.first)))


def _look(detector: FaceDetector, n: int, picture: Picture, seen: Sequence[Face]) -> list[Face]:
    """The faces of look ``n``: looked for all over now and again, else where they were."""
    height, width = picture.shape[:2]
    if not seen and n % _CLOSELY == 0:
        return detector.look(picture, [*squares(width, height), *squares(width, height, parts=2)])
    if not seen:
        return detector.look(picture, squares(width, height)) if n % 2 == 0 else []
    known = detector.look(picture, [around(face) for face in seen], LIKELY)
    if n % _EVERY:
        return known
    more = detector.look(picture, squares(width, height))
    return [*known, *(face for face in more if all(overlap(face, other) < SAME for other in known))]


def key_pictures(path: Path) -> Iterator[tuple[float, Picture]]:
    """(seconds, picture) of the key frames."""
    try:
        with av.open(str(path.resolve()), options=dict(GUARD_OPTIONS)) as file:
            stream = file.streams.video[0]
            stream.codec_context.skip_frame = "NONKEY"
            for frame in file.decode(stream):
                if frame.time is not None:
                    yield frame.time, _colours(frame)
    except (av.FFmpegError, IndexError) as error:
        raise MediaError("The picture could not be read to look for faces.", str(error)) from None


def _colours(frame: Any) -> Picture:
    width = min(_WIDE, frame.width)
    picture: Picture = frame.to_ndarray(width=width, height=round(frame.height * width / frame.width), format="rgb24")
    return picture


def _thumb(picture: Picture) -> NDArray[np.int16]:
    small: NDArray[np.int16] = cv2.resize(picture, _SMALL, interpolation=cv2.INTER_AREA).mean(axis=2).astype(np.int16)
    return small


def _cut_between(path: Path, start: float, end: float) -> float | None:
    """The seconds of the frame with which a shot begins between two looks; None where the picture changes slowly."""
    seen: list[tuple[float, NDArray[np.int16]]] = []
    with av.open(str(path.resolve()), options=dict(GUARD_OPTIONS)) as file:
        stream = file.streams.video[0]
        assert stream.time_base
        file.seek(int(start / stream.time_base), stream=stream, backward=True)
        for frame in file.decode(stream):
            if frame.time is not None and frame.time >= start - 1e-3:
                seen.append((frame.time, _thumb(_colours(frame))))
            if frame.time is not None and frame.time >= end - 1e-3:
                break
    steps = [float(np.abs(b - a).mean()) for (_, a), (_, b) in pairwise(seen)]
    if not steps:
        return None
    n = int(np.argmax(steps))
    whole = float(np.abs(seen[-1][1] - seen[0][1]).mean())
    return round(seen[n + 1][0], 3) if steps[n] > _SUDDEN * whole else None


@dataclass
class _Open:
    """A face that is being followed."""

    first: int
    faces: list[Face | None] = field(default_factory=list)
    mouths: list[NDArray[np.float32] | None] = field(default_factory=list)

    @property
    def last(self) -> Face:
        """Where it was seen last."""
        return next(face for face in reversed(self.faces) if face)

    @property
    def seen(self) -> int:
        """How often it was."""
        return sum(face is not None for face in self.faces)

    @property
    def missing(self) -> int:
        """Looks since then."""
        return next(n for n, face in enumerate(reversed(self.faces)) if face)

    def track(self, width: int, height: int) -> Track:
        """The looks at it; where it was not seen, on the way between those before and after."""
        end = len(self.faces) - self.missing
        known = [n for n in range(end) if self.faces[n]]

        def all_of(values: list[float], size: int) -> tuple[float, ...]:
            return tuple(round(float(v), 4) for v in np.interp(range(end), known, values) / size)

        faces = [face for face in self.faces if face]
        moved = [0.0] * end
        for n in range(1, end):
            one, two = self.mouths[n - 1], self.mouths[n]
            if one is not None and two is not None:
                moved[n] = round(float(np.abs(two - one).mean()), 4)
        return Track(
            first=self.first,
            x=all_of([face.x for face in faces], width),
            y=all_of([face.y for face in faces], height),
            side=all_of([face.side for face in faces], width),
            moved=tuple(moved),
        )


class _Linker:
    """Links the faces of one look with those of the look before."""

    def __init__(self) -> None:
        self._open: list[_Open] = []
        self._done: list[_Open] = []
        self.size: tuple[int, int] | None = None

    @property
    def seen(self) -> list[Face]:
        """The faces that are being followed, where they were last."""
        return [each.last for each in self._open]

    def cut(self) -> None:
        """A new shot: nobody is where they were."""
        self._done += self._open
        self._open = []

    def look(self, n: int, faces: Sequence[Face], picture: Picture) -> None:
        """Take in the faces of look ``n``: each goes to the nearest one that is followed, or begins a track."""
        self.size = picture.shape[1], picture.shape[0]
        pairs = sorted(
            (float(np.hypot(face.x - each.last.x, face.y - each.last.y)), a, b)
            for a, each in enumerate(self._open)
            for b, face in enumerate(faces)
            if 0.5 < face.side / each.last.side < 2
        )
        taken: dict[int, int] = {}
        for far, a, b in pairs:
            if a not in taken and b not in taken.values() and far < _NEAR * self._open[a].last.side:
                taken[a] = b
        for a, each in enumerate(self._open):
            face = faces[taken[a]] if a in taken else None
            each.faces.append(face)
            each.mouths.append(_mouth(picture, face) if face else None)
        for b, face in enumerate(faces):
            if b not in taken.values():
                self._open.append(_Open(n, [face], [_mouth(picture, face)]))
        self._done += [each for each in self._open if each.missing >= _LOST]
        self._open = [each for each in self._open if each.missing < _LOST]

    def done(self) -> list[_Open]:
        """All that were followed."""
        return [*self._done, *self._open]


def _mouth(picture: Picture, face: Face) -> NDArray[np.float32]:
    """The mouth of a face, upright and always of one size, by its light alone: shape (16, 24), about 0 to 1."""
    (x0, y0), (x1, y1) = face.eyes
    turn = np.arctan2(y1 - y0, x1 - x0)
    scale = _MOUTH[0] / (face.side * 0.5)
    cos, sin = float(np.cos(-turn)) * scale, float(np.sin(-turn)) * scale
    x, y = face.mouth
    matrix = np.array([[cos, -sin, _MOUTH[0] / 2 - cos * x + sin * y], [sin, cos, _MOUTH[1] / 2 - sin * x - cos * y]])
    patch = cv2.warpAffine(picture, matrix, _MOUTH, flags=cv2.INTER_AREA, borderMode=cv2.BORDER_REPLICATE)
    light = patch.mean(axis=2).astype(np.float32) / 255
    made: NDArray[np.float32] = light - light.mean()
    return made
