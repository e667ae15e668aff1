"""Fonts that people bring in: read in a program of its own, and written anew with nothing in them but letters.

``python -m hovvet.core.captions.own_fonts IN OUT`` is that program; it prints what it found as JSON.
"""

import io
import sys
import tempfile
from dataclasses import dataclass
from hashlib import sha256
from pathlib import Path

import uharfbuzz as hb
from fontTools.ttLib import TTFont

from hovvet.core.errors import CoreError
from hovvet.core.media.checked import published
from hovvet.core.media.process import PARSING, answer_of, answering
from hovvet.core.text import clean

LARGEST = 10_000_000  # bytes
_KINDS = (b"\0\1\0\0", b"true", b"OTTO", b"wOFF", b"wOF2")  # how TTF, OTF, WOFF and WOFF2 begin
_COLLECTION = b"ttcf"
# Outlines, measures and shaping. Hints, bitmaps, colours, variations and signatures go: they are programs, or not drawn.
_KEPT = frozenset("cmap head hhea hmtx maxp name OS/2 post glyf loca GSUB GPOS GDEF kern".split()) | {"CFF "}
_NEEDED = ("cmap", "head", "hhea", "hmtx", "maxp", "name")
_RESTRICTED = 0x0002  # of OS/2 fsType: must not be embedded without leave
_TOO_LARGE = f"The font is larger than {LARGEST // 1_000_000} MB. Take one with fewer scripts."
_BROKEN = "This font is broken: it could not be read to its end. Download it again, or take another one."


@dataclass(frozen=True)
class OwnFont:
    """``name`` is what its maker calls it, ``family`` its name in scripts; ``letters`` how many it has; ``licence`` what it
    says of itself."""

    name: str
    family: str
    letters: int
    licence: str


def bring_in_font(data: bytes, out: Path) -> OwnFont:
    """Check a font (TTF, OTF, WOFF or WOFF2) and write it anew to ``out``, as it is drawn. Raises CoreError."""
    if len(data) > LARGEST:
        raise CoreError(_TOO_LARGE)
    if data[:4] == _COLLECTION:
        raise CoreError("This file holds several fonts. Bring in one of them as a file of its own.")
    if data[:4] not in _KINDS:
        raise CoreError("This is not a font that Hovvet can read. Take TTF, OTF, WOFF or WOFF2.")
    with published(out) as part, tempfile.NamedTemporaryFile() as given:
        given.write(data)
        given.flush()
        return OwnFont(**answer_of("hovvet.core.captions.own_fonts", [given.name, str(part)], PARSING, _BROKEN))


def cleaned(data: bytes) -> tuple[bytes, OwnFont]:
    """A font with nothing in it but letters, under a family name of its own. Raises CoreError for one that may not or cannot
    be used; anything at all for one that is broken."""
    font = TTFont(io.BytesIO(data), lazy=False, recalcTimestamp=False)
    if any(table not in font for table in _NEEDED) or not ("glyf" in font or "CFF " in font):
        raise CoreError("This font has no outlines that can be drawn. Take one with TrueType or CFF outlines.")
    if "OS/2" not in font:
        raise CoreError(_BROKEN)
    if font["OS/2"].fsType & _RESTRICTED:
        raise CoreError("The maker of this font does not allow it to be embedded. Take another one, or ask for leave.")
    letters = len(font.getBestCmap() or {})
    if not letters:
        raise CoreError("This font has no letters that can be typed: it may be one of symbols. Take another one.")
    name = (_said(font, 4, 1) or "Font")[:60]
    licence = " ".join(_said(font, 13, 14, 0).split())[:200]
    tables = set(font.keys())
    for table in tables - _KEPT - {"GlyphOrder"}:
        del font[table]
    if "glyf" in font:
        for glyph in font.getGlyphOrder():
            font["glyf"][glyph].removeHinting()
    family = f"Hovvet own {sha256(data).hexdigest()[:12]}"
    _name(font, family)
    font.flavor = None
    made = io.BytesIO()
    font.save(made)
    _check(made.getvalue())
    return made.getvalue(), OwnFont(name, family, letters, licence)


def _said(font: TTFont, *numbers: int) -> str:
    """The first of these names that the font has; "" for none."""
    names = (font["name"].getDebugName(number) for number in numbers)
    return next((clean(str(name)) for name in names if name), "")


def _name(font: TTFont, family: str) -> None:
    """Give it a name that no other font has, and the plain weight: so it is found by its family alone."""
    table = font["name"]
    table.names = []
    for number, text in {1: family, 2: "Regular", 3: family, 4: family, 6: family.replace(" ", "")}.items():
        table.setName(text, number, 3, 1, 0x409)
    os2 = font["OS/2"]
    os2.usWeightClass, os2.fsSelection = 400, 0x40
    font["head"].macStyle = 0


def _check(data: bytes) -> None:
    """Raises unless the shaper can use it."""
    face = hb.Font(hb.Face(hb.Blob(data)))
    buffer = hb.Buffer()
    buffer.add_str("Hovvet")
    buffer.guess_segment_properties()
    hb.shape(face, buffer)


def main(given: str, out: str) -> int:
    """Read a font and write it anew; print what it is, or what is wrong with it."""

    def work() -> dict[str, object]:
        data, found = cleaned(Path(given).read_bytes())
        Path(out).write_bytes(data)
        return vars(found)

    return answering(work, _BROKEN)


if __name__ == "__main__":
    sys.exit(main(*sys.argv[1:]))
