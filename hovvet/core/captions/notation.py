"""How an ASS script writes places, times, colours, shapes and texts."""

from functools import lru_cache

import pysubs2

from hovvet.core.captions.fonts import FALLBACK
from hovvet.core.captions.metrics import covers
from hovvet.core.time import EPSILON, Rate


def at(x: float, y: float) -> str:
    """A place in pixels."""
    return f"({x:.1f},{y:.1f})"


def rounded(width: float, height: float, radius: float) -> str:
    """A rectangle with round corners as a drawing, from its top left corner."""
    w, h = round(width), round(height)
    r = round(min(radius, width / 2, height / 2))
    k = round(r * 0.45)  # how far from a corner the handles of a quarter circle stand
    return (
        f"m {r} 0 l {w - r} 0 b {w - k} 0 {w} {k} {w} {r} l {w} {h - r} b {w} {h - k} {w - k} {h} {w - r} {h} "
        f"l {r} {h} b {k} {h} 0 {h - k} 0 {h - r} l 0 {r} b 0 {k} {k} 0 {r} 0"
    )


def time(frame: int, rate: Rate) -> str:
    """When a frame begins, in the hours to hundredths of a second that ASS knows, never after the frame itself."""
    hundredths = int(rate.seconds(frame) * 100 + EPSILON)
    minutes, hundredths = divmod(hundredths, 6000)
    return f"{minutes // 60}:{minutes % 60:02}:{hundredths // 100:02}.{hundredths % 100:02}"


@lru_cache(maxsize=50_000)
def letters(text: str, file: str) -> str:
    """A word, in the fallback font where a style's own lacks a letter."""
    faced = "" if covers(text, file) else rf"{{\fn{FALLBACK.family}}}"
    return faced + plain(text)


def plain(text: str) -> str:
    """Text that cannot be taken for a tag or a line break."""
    return text.replace("\\", "∖").replace("{", "(").replace("}", ")").replace("\n", " ")


def _rgb(colour: str) -> tuple[int, int, int]:
    return int(colour[1:3], 16), int(colour[3:5], 16), int(colour[5:7], 16)


def colour(colour: str) -> pysubs2.Color:
    """A colour as styles have it."""
    return pysubs2.Color(*_rgb(colour))


def seen(opacity: float) -> str:
    """How strongly something is seen, from 0 to 1."""
    return f"\\1a&H{round(255 * (1 - opacity)):02X}&"


@lru_cache(maxsize=256)
def tag(colour: str) -> str:
    """A colour as tags have it."""
    r, g, b = _rgb(colour)
    return f"\\c&H{b:02X}{g:02X}{r:02X}&"
