"""Films of drawn people whose faces are at known places."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from pathlib import Path

import av
import cv2
import numpy as np

WIDTH, HEIGHT, RATE = 960, 540, 15
SHADE = 8  # fractional bits of cv2's drawing
_GRAIN = np.random.default_rng(1).integers(0, 9, (HEIGHT, WIDTH, 3), np.uint8)

Path2 = Callable[[float], tuple[float, float]]


@dataclass(frozen=True)
class Person:
    """``at`` gives the centre of the face in shares of the picture at a time of the shot, ``mouth`` how open it is (0 to
    1), ``turn`` its tilt in degrees; ``size`` is the height of the head in shares of the picture's height."""

    at: Path2
    size: float = 0.24
    skin: tuple[int, int, int] = (215, 160, 122)
    coat: tuple[int, int, int] = (43, 95, 199)
    mouth: Callable[[float], float] = lambda t: 0.2
    turn: Callable[[float], float] = lambda t: 0.0


@dataclass(frozen=True)
class Shot:
    """``seconds`` of some people before a wall of a colour; ``light`` dims it."""

    seconds: float
    people: Sequence[Person]
    wall: tuple[int, int, int] = (217, 200, 166)
    light: float = 1.0


def film(out: Path, shots: Sequence[Shot]) -> list[tuple[float, list[tuple[float, float]]]]:
    """Write the film, silent, with a key frame as often as a working copy has; returns for each frame its time and where the faces are."""
    truth: list[tuple[float, list[tuple[float, float]]]] = []
    with av.open(str(out), "w") as file:
        stream = file.add_stream(
            "libx264", rate=RATE, options={"preset": "ultrafast", "crf": "18", "g": str(RATE // 2)}
        )
        stream.width, stream.height, stream.pix_fmt = WIDTH, HEIGHT, "yuv420p"
        for shot in shots:
            for n in range(round(shot.seconds * RATE)):
                t = n / RATE
                file.mux(stream.encode(av.VideoFrame.from_ndarray(_drawn(shot, t), format="rgb24")))
                truth.append((len(truth) / RATE, [person.at(t) for person in shot.people]))
        file.mux(stream.encode())
    return truth


def _drawn(shot: Shot, t: float) -> np.ndarray:
    picture = np.empty((HEIGHT, WIDTH, 3), np.uint8)
    picture[:] = shot.wall
    cv2.rectangle(picture, (60, 60), (340, 230), (47, 74, 66), -1)
    cv2.rectangle(picture, (0, 420), (WIDTH, HEIGHT), (138, 106, 74), -1)
    for person in shot.people:
        _person(picture, person, t)
    soft = cv2.convertScaleAbs(cv2.GaussianBlur(picture, (0, 0), 1.0), alpha=shot.light)
    return cv2.add(soft, np.roll(_GRAIN, int(t * 9973), axis=1))


def _person(picture: np.ndarray, person: Person, t: float) -> None:
    x, y = person.at(t)
    high = person.size * HEIGHT
    turn = np.deg2rad(person.turn(t))

    def at(across: float, down: float) -> tuple[int, int]:
        """A point of the face, in heads from its centre."""
        dx, dy = across * high, down * high
        px, py = x * WIDTH + dx * np.cos(turn) - dy * np.sin(turn), y * HEIGHT + dx * np.sin(turn) + dy * np.cos(turn)
        return round(px * 2**SHADE), round(py * 2**SHADE)

    def oval(across: float, down: float, wide: float, tall: float, colour: Sequence[float]) -> None:
        axes = round(wide * high * 2**SHADE), round(max(tall * high, 0.6) * 2**SHADE)
        cv2.ellipse(picture, at(across, down), axes, person.turn(t), 0, 360, colour, -1, cv2.LINE_AA, SHADE)

    dark = [0.86 * each for each in person.skin]
    oval(0, 1.5, 0.75, 1.0, person.coat)
    oval(0, 0.6, 0.17, 0.25, dark)
    oval(0, -0.1, 0.44, 0.52, (74, 53, 39))
    oval(0, 0.02, 0.38, 0.5, person.skin)
    for side in (-1, 1):
        oval(side * 0.39, 0.02, 0.06, 0.1, dark)
        oval(side * 0.16, -0.13, 0.09, 0.018, (74, 53, 39))
        oval(side * 0.16, -0.04, 0.07, 0.038, (245, 240, 232))
        oval(side * 0.16, -0.04, 0.034, 0.036, (32, 36, 43))
    oval(0, 0.1, 0.05, 0.07, dark)
    oval(0, 0.27, 0.14, 0.02 + 0.08 * person.mouth(t), (124, 47, 42))
