"""Tables of colours that people bring in as .cube files: read, and checked.

The format is that of the Cube LUT specification 1.0: ``LUT_1D_SIZE`` or ``LUT_3D_SIZE``, ``DOMAIN_MIN``, ``DOMAIN_MAX``
and ``TITLE``, then one colour a line, red running fastest.
"""

import io
from dataclasses import dataclass

import numpy as np

from hovvet.core.colour.lut import POINTS, Colours, Lut, interpolated
from hovvet.core.errors import CoreError
from hovvet.core.text import clean

LARGEST = 12_000_000  # bytes: 65 x 65 x 65 colours with nine decimals are under 10 MB
MOST_POINTS = {"LUT_1D_SIZE": 65_536, "LUT_3D_SIZE": 65}
_MOST_LINES = 300_000  # more than the largest table has, remarks included
_NARROWEST = 1e-6  # of a domain
_LARGEST_NUMBER = 1e6
_LONGEST_LINE = 250  # characters, as the specification has it
_NOT_ONE = "This is not a .cube file with a table of colours. Save the look as .cube in the program it was made with."


@dataclass(frozen=True)
class OwnTable:
    """A table as it was brought in: its ``title``, "" where it has none, how many points it has in a direction, whether
    those are of all three channels together, and what it makes of colours."""

    title: str
    points: int
    is_3d: bool
    lut: Lut


def read_cube(data: bytes) -> OwnTable:
    """Read a .cube file, 1D or 3D, in its domain. Raises CoreError that says what is wrong with it, and where."""
    if len(data) > LARGEST:
        raise CoreError(f"The file is larger than {LARGEST // 1_000_000} MB: no table of colours needs that.")
    try:
        text = data.decode("utf-8-sig")
    except UnicodeDecodeError:
        raise CoreError(_NOT_ONE) from None
    title, size, kind = "", 0, ""
    domain = {"DOMAIN_MIN": (0.0, 0.0, 0.0), "DOMAIN_MAX": (1.0, 1.0, 1.0)}
    rows: list[tuple[float, float, float]] = []
    for n, line in enumerate(io.StringIO(text, newline=None), 1):
        if n > _MOST_LINES:
            raise CoreError(_NOT_ONE)
        told = line.strip()
        if not told or told.startswith("#"):
            continue
        if len(told) > _LONGEST_LINE:
            raise CoreError(_NOT_ONE)
        word, _, rest = told.partition(" ")
        if word == "TITLE":
            title = clean(rest).strip().strip('"')[:60]
        elif word in MOST_POINTS:
            if kind:
                raise CoreError(f"Line {n} gives the table a size once more. There can be one table in a file.")
            kind, size = word, _size(word, rest, n)
        elif word in domain:
            domain[word] = _three(rest, n)
        elif word[0].isalpha():
            raise CoreError(
                f"Line {n} begins with “{word[:40]}”, which this kind of file does not know." if kind else _NOT_ONE
            )
        else:
            rows.append(_three(told, n))
            if len(rows) > _wanted(kind, size):
                break
    if not kind:
        raise CoreError(_NOT_ONE)
    is_3d = kind == "LUT_3D_SIZE"
    wanted = _wanted(kind, size)
    if len(rows) != wanted:
        has = f"has {len(rows):,}" if len(rows) < wanted else "has more"
        raise CoreError(f"The table should have {wanted:,} colours and {has}. Save it again: the file is not whole.")
    low, high = np.array(domain["DOMAIN_MIN"]), np.array(domain["DOMAIN_MAX"])
    if np.any(high - low < _NARROWEST):
        raise CoreError(f"DOMAIN_MAX must be above DOMAIN_MIN in all three channels, by {_NARROWEST:g} or more.")
    return OwnTable(title, size, is_3d, _usual(np.array(rows), size, is_3d, low, high))


def _wanted(kind: str, size: int) -> int:
    """How many colours a table has; the most that any has, where its size is not known yet."""
    if not kind:
        return max(MOST_POINTS["LUT_3D_SIZE"] ** 3, MOST_POINTS["LUT_1D_SIZE"])
    return size**3 if kind == "LUT_3D_SIZE" else size


def _size(word: str, rest: str, line: int) -> int:
    most = MOST_POINTS[word]
    try:
        size = int(rest)
    except ValueError:
        size = 0
    if not 2 <= size <= most:
        raise CoreError(f"Line {line} gives the table a size of “{rest.strip()[:20]}”. It can be 2 to {most:,}.")
    return size


def _three(text: str, line: int) -> tuple[float, float, float]:
    try:
        red, green, blue = (float(each) for each in text.split())
    except ValueError:
        raise CoreError(f"Line {line} should be three numbers: “{text[:40]}”.") from None
    if not all(abs(each) <= _LARGEST_NUMBER for each in (red, green, blue)):
        raise CoreError(f"Line {line} has a number that is none: “{text[:40]}”.")
    return red, green, blue


def _usual(rows: Colours, size: int, is_3d: bool, low: Colours, high: Colours) -> Lut:
    """The table at the points that all of ours have, from 0 to 1; outside its domain it goes on as at the edge."""
    steps = np.linspace(0, 1, POINTS)
    if not is_3d:
        at = np.linspace(0, 1, size)
        curves = [np.interp((steps - low[k]) / (high[k] - low[k]), at, rows[:, k]) for k in range(3)]
        made = np.stack(np.meshgrid(*curves, indexing="ij"), axis=-1)
    else:
        grid = np.stack(np.meshgrid(steps, steps, steps, indexing="ij"), axis=-1).reshape(-1, 3)
        table = rows.reshape(size, size, size, 3).transpose(2, 1, 0, 3)
        made = interpolated(table, (grid - low) / (high - low)).reshape(POINTS, POINTS, POINTS, 3)
    final: Lut = np.clip(made, 0, 1)
    return final
