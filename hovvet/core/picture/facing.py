"""Whether the one who speaks looks at the camera: by where the nose is between the eyes."""

from bisect import bisect_left
from pathlib import Path

from hovvet.core.engines.faces import LIKELY, Face, FaceDetector, around, squares
from hovvet.core.media.ffmpeg import Progress, no_progress
from hovvet.core.picture.faces import key_pictures
from hovvet.core.value import Value

_ASIDE = 0.22  # of the distance between the eyes: a nose that is farther from between them looks elsewhere
_DOWN = 0.95  # of the distance from eyes to mouth: a nose below that looks down
_UP = 0.2


class Looks(Value):
    """At which of some ``times`` (seconds) somebody was seen, and looked at the camera."""

    times: tuple[float, ...] = ()
    facing: tuple[bool, ...] = ()

    def part(self, start: float, end: float) -> float | None:
        """The part of a stretch (seconds) in which one looks at the camera; None where nobody is seen in it."""
        seen = self.facing[bisect_left(self.times, start) : bisect_left(self.times, end)]
        return sum(seen) / len(seen) if seen else None


def is_facing(face: Face) -> bool:
    """Whether a face is turned to the camera."""
    (ax, ay), (bx, by) = face.eyes
    across, down = bx - ax, by - ay
    apart = (across**2 + down**2) ** 0.5
    if apart < 1:
        return False
    middle = ((ax + bx) / 2, (ay + by) / 2)

    def along(point: tuple[float, float]) -> tuple[float, float]:
        """How far a point is from between the eyes, along them and down from them, in distances between the eyes."""
        x, y = point[0] - middle[0], point[1] - middle[1]
        return (x * across + y * down) / apart**2, (y * across - x * down) / apart**2

    (aside, nose), (_, mouth) = along(face.nose), along(face.mouth)
    return abs(aside) <= _ASIDE and mouth > 0 and _UP * mouth <= nose <= _DOWN * mouth


def find_looks(working: Path, duration: float, progress: Progress = no_progress) -> Looks:
    """Look where the largest face of a working copy looks, about twice a second. Raises MediaError when it cannot be read."""
    detector = FaceDetector()
    times: list[float] = []
    facing: list[bool] = []
    before: Face | None = None
    for at, picture in key_pictures(working):
        height, width = picture.shape[:2]
        faces = detector.look(picture, [around(before)], LIKELY) if before else []
        faces = faces or detector.look(picture, squares(width, height))
        before = max(faces, key=lambda face: face.side, default=None)
        if before:
            times.append(round(at, 3))
            facing.append(is_facing(before))
        progress(min(at / max(duration, 0.1), 1.0))
    return Looks(times=tuple(times), facing=tuple(facing))
