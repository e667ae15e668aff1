"""Tables of colours: a grade as 33 x 33 x 33 colours, and the same as the numbers of video."""

from functools import lru_cache
from pathlib import Path

import cv2
import numpy as np
from numpy.typing import NDArray

from hovvet.core.colour.grade import LUMA, Grade, graded

POINTS = 33
_CHROMA = 128  # steps of the chroma in tables for video: two values of 8 bits a step
_COARSE = 65  # places in each direction at which such a table is worked out

Colours = NDArray[np.float64]
Lut = NDArray[np.float64]  # shape (33, 33, 33, 3), by red, green, blue
Planes = tuple[NDArray[np.uint8], NDArray[np.uint8], NDArray[np.uint8]]


@lru_cache(maxsize=32)
def lut_of(grade: Grade, table: Path | None = None) -> Lut:
    """A grade as a table; ``table`` is the file of the one that it names."""
    steps = np.linspace(0, 1, POINTS)
    made = graded(np.stack(np.meshgrid(steps, steps, steps, indexing="ij"), axis=-1), grade)
    if table is None or not grade.has_table:
        return made
    final: Lut = made + (applied(kept(table), made.reshape(-1, 3)).reshape(made.shape) - made) * grade.strength
    return final


def applied(lut: Lut, colours: Colours) -> Colours:
    """Colours, shape (n, 3), by a table: straight lines between its points, in all three directions."""
    return interpolated(lut, np.clip(colours, 0, 1))


def interpolated(table: Colours, colours: Colours) -> Colours:
    """The same of a table of any size, its shape (size, size, size, 3)."""
    from scipy.ndimage import map_coordinates  # here: it is a third of the time in which a process that draws starts

    at = colours.T * (len(table) - 1)
    return np.stack([map_coordinates(table[..., k], at, order=1, mode="nearest") for k in range(3)], axis=-1)


def keep(lut: Lut, path: Path) -> None:
    """Write a table to a file of our own: no text to be read anew for each picture."""
    with path.open("wb") as file:
        np.save(file, lut.astype(np.float32), allow_pickle=False)


@lru_cache(maxsize=8)
def kept(path: Path) -> Lut:
    """A table that was written so."""
    lut: Lut = np.load(path, allow_pickle=False).astype(np.float64)
    return lut


def cube(lut: Lut, title: str) -> str:
    """A table as a .cube file (3D, domain 0 to 1; red runs fastest, as that format has it)."""
    rows = lut.transpose(2, 1, 0, 3).reshape(-1, 3)
    lines = [
        f'TITLE "{title.replace(chr(34), chr(39))}"',
        f"LUT_3D_SIZE {POINTS}",
        *(f"{r:.6f} {g:.6f} {b:.6f}" for r, g, b in rows),
    ]
    return "\n".join(lines) + "\n"


def packed(lut: Lut) -> bytes:
    """A table as the page takes it: 33 x 33 x 33 colours of 8 bits, red runs fastest."""
    return (lut.transpose(2, 1, 0, 3) * 255 + 0.5).astype(np.uint8).tobytes()


@lru_cache(maxsize=6)
def video_tables(
    grade: Grade, table: Path | None = None
) -> tuple[NDArray[np.uint8], NDArray[np.int8], NDArray[np.int8]]:
    """What a grade makes of Y'CbCr (8 bits, BT.709, limited): Y', and by how much Cb and Cr change; each indexed by
    ``(Cb // 2 * 128 + Cr // 2) * 256 + Y'``. Differences, so that colours between the steps stay apart."""
    coarse = np.linspace(0.0, 256.0, _COARSE, dtype=np.float64)
    u, v, y = (each.ravel() for each in np.meshgrid(coarse, coarse, coarse, indexing="ij"))
    # What is no colour at all (below black, beyond the screen) is held at the nearest that is one: compare with that.
    seen = np.clip(_rgb(y, u, v), 0, 1)
    made = applied(lut_of(grade, table), seen)
    luma, was = made @ LUMA, seen @ LUMA
    moved = (
        (luma - was) * 219,
        (made[:, 2] - luma - seen[:, 2] + was) / 1.8556 * 224,
        (made[:, 0] - luma - seen[:, 0] + was) / 1.5748 * 224,
    )
    steps = np.arange(_CHROMA, dtype=np.float64) * 2 + 0.5  # between the two values of a step
    light, cb, cr = (_finer(each.reshape([_COARSE] * 3), steps, np.arange(256.0)) for each in moved)
    luma8 = np.clip(light + np.arange(256) + 0.5, 16, 235).astype(np.uint8)
    return luma8.ravel(), *(np.clip(np.round(each), -127, 127).astype(np.int8).ravel() for each in (cb, cr))


def _finer(table: NDArray[np.float64], chroma: NDArray[np.float64], luma: NDArray[np.float64]) -> NDArray[np.float32]:
    """A coarse table at more places: straight lines, one direction after the other."""
    made = table.astype(np.float32)
    for axis, places in enumerate((chroma, chroma, luma)):
        at = places * (_COARSE - 1) / 256
        low = np.minimum(at.astype(int), _COARSE - 2)
        shape = [-1 if k == axis else 1 for k in range(3)]
        part = (at - low).astype(np.float32).reshape(shape)
        made = np.take(made, low, axis) * (1 - part) + np.take(made, low + 1, axis) * part
    return made


def _rgb(y: NDArray[np.float64], u: NDArray[np.float64], v: NDArray[np.float64]) -> NDArray[np.float64]:
    """R'G'B' of Y'CbCr, shape (n, 3), outside 0 to 1 where that is no colour."""
    luma, cb, cr = (y - 16) / 219, (u - 128) / 224, (v - 128) / 224
    red, blue = luma + 1.5748 * cr, luma + 1.8556 * cb
    return np.stack([red, (luma - LUMA[0] * red - LUMA[2] * blue) / LUMA[1], blue], axis=-1)


def regraded(planes: Planes, grade: Grade, table: Path | None = None) -> Planes:
    """Planes of 4:2:0 with even sides in the colours of a grade, new ones."""
    luma, cb, cr = video_tables(grade, table)
    y, u, v = planes
    chroma = (u.astype(np.int32) >> 1 << 15) | (v.astype(np.int32) >> 1 << 8)
    place = np.empty(y.shape, np.int32)
    for row in (0, 1):
        for column in (0, 1):
            place[row::2, column::2] = chroma
    place |= y
    corner = place[::2, ::2]  # stands for the four that share a chroma
    u2, v2 = (cv2.add(plane, np.take(table, corner), dtype=cv2.CV_8U) for plane, table in ((u, cb), (v, cr)))
    return np.take(luma, place), u2, v2  # type: ignore[return-value]
