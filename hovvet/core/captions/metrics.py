"""How wide text is in a font, shaped as the renderer shapes it."""

import unicodedata
from collections.abc import Iterable
from functools import lru_cache
from typing import Any

import uharfbuzz as hb
from fontTools.ttLib import TTFont

from hovvet.core.captions.fonts import FONTS

_UNSEEN = frozenset(("Cf", "Mn", "Zs", "Cc"))  # joiners, variations, spaces


@lru_cache(maxsize=16)
def _font(file: str) -> tuple[Any, Any]:
    face = hb.Face(hb.Blob.from_file_path(str(FONTS / file)))
    return face, hb.Font(face)


@lru_cache(maxsize=4096)
def width(text: str, file: str, size: float) -> float:
    """Advance width of ``text`` in pixels at ``size``, the line height libass scales a font to."""
    _face, font = _font(file)
    buffer = hb.Buffer()
    buffer.add_str(text)
    buffer.guess_segment_properties()
    hb.shape(font, buffer)
    units = sum(position.x_advance for position in buffer.glyph_positions or ())  # None without any letter
    return float(units * size / _line_units(file))


@lru_cache(maxsize=16)
def _line_units(file: str) -> float:
    """Font units that one ``size`` stands for: libass scales a face by its Windows ascent and descent."""
    os2 = TTFont(FONTS / file)["OS/2"]
    return float(os2.usWinAscent + os2.usWinDescent)


@lru_cache(maxsize=16)
def _characters(file: str) -> frozenset[int]:
    return frozenset(TTFont(FONTS / file).getBestCmap())


def unwritten(texts: Iterable[str], file: str, fallback: str) -> str:
    """The letters of some texts that neither of two fonts has, each once, in the order they come in. What only joins or
    changes other letters counts for nothing."""
    known = _characters(file) | _characters(fallback)
    missing = (letter for text in texts if not covers(text, file) for letter in text if ord(letter) not in known)
    return "".join(dict.fromkeys(each for each in missing if unicodedata.category(each) not in _UNSEEN))


@lru_cache(maxsize=50_000)
def covers(text: str, file: str) -> bool:
    """Whether the font has every letter of the text."""
    return all(ord(letter) in _characters(file) for letter in text)
