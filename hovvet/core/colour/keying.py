"""A screen of one colour behind somebody, taken out.

A pixel at an edge, in hair or in what moves is a mixture of what stands before the screen and of the screen. How much of the screen is in it
is told by how far its chroma lies along the screen's own, away from grey; what is of another hue is not of the screen, however strong it is
(colour difference, as in Smith and Blinn, "Blue Screen Matting", SIGGRAPH 1996). Chroma has half the size of the light: which pixel of four
is hair and which is screen is told by the light around, with which the share goes up and down (He and Sun, "Fast Guided Filter", 2015). The
page does the same (``web/src/player/keying.ts``).
"""

from functools import lru_cache
from typing import Any, NamedTuple

import cv2
import numpy as np
from numpy.typing import NDArray

from hovvet.core.colour.screen import GREY, Colour, Screen, is_coloured

Plane = NDArray[Any]  # of uint8
Planes = tuple[Plane, Plane, Plane]
Box = tuple[int, int, int, int]  # left, top, right, bottom, in pixels
_ASIDE = 0.6  # by how much being of another hue counts against being of the screen
_AROUND = 2  # pixels of half the size on each side, over which the light tells where the edge is
_FLAT = 6.5  # variance of light under which it tells nothing
_SURE = 6  # of 255: so little of the screen, or of what stands before it, is none
_BORDER = 0.06  # of a picture's width and height: where a screen is looked for first
_SHARED = 0.5  # of what is there, at least, that a screen has


class Left(NamedTuple):
    """What stands before a screen: its planes times how much it covers of what is behind it, and that, 0 to 255, for the light and, of
    half the size, for the colours."""

    light: Plane
    blue: Plane
    red: Plane
    covers: Plane
    covers_half: Plane


def found(planes: Planes) -> Colour | None:
    """The screen's colour by what most of the upper edge and the sides of a picture have in common; None where that is nothing, or
    too near to grey."""
    height, width = planes[1].shape
    across, down = max(int(width * _BORDER), 1), max(int(height * _BORDER), 1)
    light = cv2.resize(planes[0], (width, height), interpolation=cv2.INTER_AREA)
    parts = (np.s_[:down, :], np.s_[down : height * 2 // 3, :across], np.s_[down : height * 2 // 3, width - across :])
    y, u, v = (
        np.concatenate([plane[part].ravel() for part in parts]).astype(np.float64) for plane in (light, *planes[1:])
    )
    blue, red = float(np.median(u)), float(np.median(v))
    strong = np.hypot(blue - GREY, red - GREY)
    near = np.hypot(u - blue, v - red) < strong / 3
    if not is_coloured(blue, red) or near.mean() < _SHARED:
        return None
    return Colour(*(round(float(np.median(each[near])), 1) for each in (y, u, v)))


def colour_at(planes: Planes, across: float, down: float) -> Colour:
    """The colour around a point of a picture, 0 to 1 from its left and top."""
    height, width = planes[1].shape
    x, y = min(int(across * width), width - 1), min(int(down * height), height - 1)
    near = np.s_[max(y - 1, 0) : y + 2, max(x - 1, 0) : x + 2]
    light = planes[0][max(2 * y - 2, 0) : 2 * y + 4, max(2 * x - 2, 0) : 2 * x + 4]
    return Colour(*(float(np.median(each)) for each in (light, planes[1][near], planes[2][near])))


def taken_out(planes: Planes, screen: Screen, inside: Box) -> Left:
    """What is left of 4:2:0 planes with even sides without the screen; what is not ``inside`` (pixels of the light, even) counts as screen."""
    light, blue, red = planes
    tables = tables_of(screen)
    place = np.ascontiguousarray(cv2.merge((red, blue))).view(np.uint16)[..., 0]  # Cb * 256 + Cr
    half, left_blue, left_red = (np.take(table, place) for table in tables)
    share = cv2.LUT(_guided(half, light), _SNAPPED)
    left_light = cv2.subtract(light, cv2.multiply(share, _WHOLE, scale=screen.light / 255))
    left_light[share == 255] = 0
    made = Left(left_light, left_blue, left_red, 255 - share, 255 - half)
    for plane, part in zip(made, (1, 2, 2, 1, 2), strict=True):
        x0, y0, x1, y1 = (at // part for at in inside)
        plane[:y0], plane[y1:], plane[:, :x0], plane[:, x1:] = 0, 0, 0, 0
    return made


def laid_over(left: Left, behind: Planes) -> Planes:
    """What stands before a screen, before something else of the same size."""
    half = 255 - left.covers_half
    light, blue, red = behind
    return (
        cv2.add(left.light, cv2.multiply(light, 255 - left.covers, scale=1 / 255)),
        cv2.add(left.blue, cv2.multiply(blue, half, scale=1 / 255)),
        cv2.add(left.red, cv2.multiply(red, half, scale=1 / 255)),
    )


_WHOLE: Any = 1.0  # what a share is multiplied by, besides its scale
_SNAPPED = np.arange(256, dtype=np.uint8)
_SNAPPED[:_SURE], _SNAPPED[-_SURE:] = 0, 255


@lru_cache(maxsize=8)
def tables_of(screen: Screen) -> tuple[Plane, Plane, Plane]:
    """By ``Cb * 256 + Cr``: how much of a pixel is screen (255: nothing else), and what is left of its Cb and Cr."""
    u, v = screen.blue - GREY, screen.red - GREY
    strong = max(u * u + v * v, 1.0)
    cb, cr = (each.astype(np.float64) for each in np.divmod(np.arange(65536), 256))
    along = ((cb - GREY) * u + (cr - GREY) * v) / strong
    aside = np.abs((cb - GREY) * v - (cr - GREY) * u) / strong
    full = 1 - screen.reach
    least = full * (1 - screen.softness)
    share = np.clip((along - _ASIDE * aside - least) / (full - least), 0, 1)
    share = _SNAPPED[np.round(share * 255).astype(int)] / 255
    spilt = np.maximum(along - share, 0) * screen.spill * (share < 1)
    colours = (np.where(share < 1, own - share * (GREY + key) - spilt * key, 0) for own, key in ((cb, u), (cr, v)))
    blue, red = (np.clip(np.round(each), 0, 255).astype(np.uint8) for each in colours)
    return np.round(share * 255).astype(np.uint8), blue, red


def _guided(half: Plane, light: Plane) -> Plane:
    """A share of half the size, enlarged so that it changes where the light does."""
    small = cv2.resize(light, (half.shape[1], half.shape[0]), interpolation=cv2.INTER_AREA)
    window = (2 * _AROUND + 1, 2 * _AROUND + 1)
    mean_light, mean_share = cv2.boxFilter(small, cv2.CV_32F, window), cv2.boxFilter(half, cv2.CV_32F, window)
    both = cv2.boxFilter(cv2.multiply(small, half, dtype=cv2.CV_32F), cv2.CV_32F, window)
    varies = cv2.sqrBoxFilter(small, cv2.CV_32F, window) - mean_light * mean_light
    slope = (both - mean_light * mean_share) / (varies + np.float32(_FLAT))
    rest = mean_share - slope * mean_light
    size = (light.shape[1], light.shape[0])
    times, more = (cv2.resize(cv2.blur(each, window), size, interpolation=cv2.INTER_LINEAR) for each in (slope, rest))
    return cv2.add(cv2.multiply(times, light, dtype=cv2.CV_32F), more, dtype=cv2.CV_8U)
