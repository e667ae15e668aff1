"""What things of the Shelf are told apart by, in words: their shape, length, colours."""

import numpy as np

from hovvet.core.colour.grade import Colours
from hovvet.core.colour.matching import oklab

_SQUARE = 1.15  # times that one side may be longer than the other
_LENGTHS = ((5.0, "under 5 seconds"), (15.0, "5 to 15 seconds"), (float("inf"), "over 15 seconds"))
_SHARE = 0.15  # of the pixels that have a colour which is told
_GREY = 0.035  # chroma in Oklab below which a pixel has no colour
_BLACK, _WHITE, _BROWN = 0.3, 0.88, 0.6  # lightness below, above, and below which an orange is called so
# Where hues end, in degrees of Oklab's plane of colours.
_HUES = (
    (15.0, "pink"),
    (40.0, "red"),
    (75.0, "orange"),
    (112.0, "yellow"),
    (165.0, "green"),
    (215.0, "turquoise"),
    (280.0, "blue"),
    (330.0, "purple"),
    (361.0, "pink"),
)


def shape_of(width: int, height: int) -> str:
    """Wide, square or tall."""
    if max(width, height) <= _SQUARE * min(width, height):
        return "square"
    return "wide" if width > height else "tall"


def length_of(seconds: float) -> str:
    """How long something lasts, roughly."""
    return next(name for most, name in _LENGTHS if seconds < most)


def colours_in(colours: Colours) -> list[str]:
    """The names of the colours that fill a good part of a picture (R'G'B' from 0 to 1, shape (n, 3)), largest first."""
    light, a, b = oklab(colours).T
    chroma, hue = np.hypot(a, b), np.degrees(np.arctan2(b, a)) % 360
    names = np.array([name for _, name in _HUES])[np.searchsorted([end for end, _ in _HUES], hue, side="right")]
    names = np.where((names == "orange") & (light < _BROWN), "brown", names)
    plain = np.where(light < _BLACK, "black", np.where(light > _WHITE, "white", "grey"))
    names = np.where((chroma < _GREY) | (light < _BLACK / 2), plain, names)
    found, counts = np.unique(names, return_counts=True)
    order = sorted(zip(-counts, found.tolist(), strict=True))
    return [name for count, name in order if -count >= _SHARE * len(names)]
