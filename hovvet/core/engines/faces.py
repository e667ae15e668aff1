"""Faces in a picture: BlazeFace (Bazarevsky et al., 2019, arXiv 1907.05047), the short-range model, run by OpenCV.

``face.tflite`` is the file ``modules/face_detection/face_detection_short_range.tflite`` of the PyPI package mediapipe
0.10.21, under Apache-2.0.
"""

from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from pathlib import Path
from typing import Any

import cv2
import numpy as np
from numpy.typing import NDArray

MODEL = Path(__file__).with_name("face.tflite")
SIDE = 128  # pixels of the square that the model looks at
SURE, LIKELY = 0.6, 0.35  # scores that make a face; where one was a moment ago, less is enough
SAME = 0.3  # two finds that share this much of their area are one face
_GRID = ((16, 2), (8, 6))  # squares across, and anchors in each: what the model was trained with

Picture = NDArray[np.uint8]  # shape (height, width, 3), R'G'B'
Box = tuple[int, int, int]  # left, top and side of a square, in pixels


@dataclass(frozen=True)
class Face:
    """A face: its centre, the side of the square around it, eyes, nose and mouth, all in pixels; ``score`` up to 1."""

    x: float
    y: float
    side: float
    eyes: tuple[tuple[float, float], tuple[float, float]]
    mouth: tuple[float, float]
    score: float
    nose: tuple[float, float] = (0.0, 0.0)


class FaceDetector:
    """Looks for faces in squares of a picture. One for each thread."""

    def __init__(self) -> None:
        self._net: Any = cv2.dnn.readNetFromTFLite(str(MODEL))
        self._anchors = np.array(
            [((x + 0.5) / n, (y + 0.5) / n) for n, k in _GRID for y in range(n) for x in range(n) for _ in range(k)]
        )

    def look(self, picture: Picture, squares: Iterable[Box], least: float = SURE) -> list[Face]:
        """The faces in some squares of a picture with at least that score, each once, surest first. Squares may reach beyond
        its edges."""
        found = sorted((face for box in squares for face in self._in(picture, box, least)), key=_surest)
        kept: list[Face] = []
        for face in found:
            if all(overlap(face, other) < SAME for other in kept):
                kept.append(face)
        return kept

    def _in(self, picture: Picture, box: Box, least: float) -> Iterator[Face]:
        left, top, side = box
        seen = cv2.resize(_square(picture, box), (SIDE, SIDE), interpolation=cv2.INTER_AREA)
        self._net.setInput(cv2.dnn.blobFromImage(seen.astype(np.float32) / 127.5 - 1))
        raw, places = self._net.forward(("classificators", "regressors"))
        scores = 1 / (1 + np.exp(-np.clip(raw[0, :, 0], -50, 50)))
        for n in np.flatnonzero(scores >= least):
            points = places[0, n].reshape(8, 2) / SIDE  # the centre, the size, then six points of the face
            points[[0, *range(2, 8)]] += self._anchors[n]
            x, y = points[:, 0] * side, points[:, 1] * side
            at = [(float(x[k] + left), float(y[k] + top)) for k in range(8)]
            yield Face(*at[0], float(x[1]), (at[2], at[3]), at[5], float(scores[n]), at[4])


def squares(width: int, height: int, parts: int = 1) -> list[Box]:
    """Squares that cover a picture, half over one another: ``parts`` of them fit its shorter side."""
    side = min(width, height) // parts
    return [(x, y, side) for y in _offsets(height, side) for x in _offsets(width, side)]


def _offsets(length: int, side: int) -> list[int]:
    spare = length - side
    count = 1 + -(-spare * 2 // side)
    return [spare * n // max(count - 1, 1) for n in range(count)]


def around(face: Face, times: float = 4.0) -> Box:
    """A square around a face, some ``times`` its size."""
    side = max(int(face.side * times), 16)
    return int(face.x - side / 2), int(face.y - side / 2), side


def _surest(face: Face) -> float:
    return -face.score


def _square(picture: Picture, box: Box) -> Picture:
    left, top, side = box
    height, width = picture.shape[:2]
    inside = picture[max(top, 0) : max(top + side, 0), max(left, 0) : max(left + side, 0)]
    if inside.shape[:2] == (side, side):
        return inside
    edges = (max(-top, 0), max(top + side - height, 0), max(-left, 0), max(left + side - width, 0))
    made: Picture = cv2.copyMakeBorder(inside, *edges, cv2.BORDER_CONSTANT)  # type: ignore[assignment]
    return made


def overlap(one: Face, two: Face) -> float:
    """The part of their joint area that two faces share."""
    apart = (one.side + two.side) / 2  # from centre to centre, where they just touch
    wide, high = (min(max(apart - abs(a - b), 0), one.side, two.side) for a, b in ((one.x, two.x), (one.y, two.y)))
    shared = wide * high
    return shared / (one.side**2 + two.side**2 - shared)
