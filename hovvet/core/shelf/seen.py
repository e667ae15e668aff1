"""What a film or a picture shows: its colours by name, and whether there are people in it.

``python -m hovvet.core.shelf.seen FILE SECONDS…`` looks at a film in a program of its own; it prints what it saw as JSON.
"""

import sys
from collections.abc import Sequence
from pathlib import Path
from typing import Any, NamedTuple

import numpy as np
from PIL import Image

from hovvet.core.engines.faces import FaceDetector, Picture, squares
from hovvet.core.media.frames import pick_frames
from hovvet.core.media.process import Limits, answer_of, answering
from hovvet.core.shelf.traits import colours_in
from hovvet.core.time import Rate

_LOOKS = 6  # frames of a film
_WIDE = 480  # pixels of a picture that is looked at
_FACES_IN = 2  # frames of a film that show a face, before there are people in it: one may be a mistake
_COLOURED = 8  # every so many pixels count for colours
_RATE = Rate(num=100)  # the grid on which moments are sought
_LIMITS = Limits(seconds=60, cpu=90, output=1_000_000)
_UNREAD = "What this shows could not be looked at."


class Seen(NamedTuple):
    """Names of colours, largest first; whether people are seen."""

    colours: list[str]
    people: bool


def seen_in_film(film: Path, duration: float) -> Seen:
    """What a film of so many seconds shows, by a few of its frames. Raises CoreError."""
    moments = [f"{duration * (n + 0.5) / _LOOKS:.3f}" for n in range(_LOOKS)]
    return Seen(**answer_of("hovvet.core.shelf.seen", [str(film), *moments], _LIMITS, _UNREAD))


def seen_in_picture(picture: Path) -> Seen:
    """What a picture shows that was brought in (and so checked, and written anew)."""
    with Image.open(picture) as opened:
        high = max(round(opened.height * _WIDE / opened.width), 1)
        pixels = np.asarray(opened.convert("RGB").resize((_WIDE, high), Image.Resampling.BOX))
    return _seen([pixels], 1)


def _seen(pictures: Sequence[Picture], faces_in: int) -> Seen:
    detector = FaceDetector()
    colours = np.concatenate([each[::_COLOURED, ::_COLOURED].reshape(-1, 3) for each in pictures]) / 255
    return Seen(
        colours_in(colours), sum(_has_face(detector, each) for each in pictures) >= min(faces_in, len(pictures))
    )


def _has_face(detector: FaceDetector, picture: Picture) -> bool:
    height, width = picture.shape[:2]
    return bool(detector.look(picture, [*squares(width, height), *squares(width, height, parts=2)]))


def _small(frame: Any) -> Picture:
    high = max(round(frame.height * _WIDE / frame.width), 2)
    pixels: Picture = frame.reformat(_WIDE, high, "rgb24", interpolation="AREA").to_ndarray()
    return pixels


def main(film: str, *seconds: str) -> int:
    """Print what some moments of a film show."""

    def work() -> dict[str, object]:
        wanted = [_RATE.frame_at(float(at)) for at in seconds]
        return _seen([_small(frame) for frame in pick_frames(Path(film), _RATE, wanted)], _FACES_IN)._asdict()

    return answering(work, _UNREAD)


if __name__ == "__main__":
    sys.exit(main(*sys.argv[1:]))
