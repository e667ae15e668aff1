"""Logos and stickers that people bring in: read in a program of its own, and written anew as pixels that may be seen through.

``python -m hovvet.core.picture.own_sticker IN OUT`` is that program; it prints what it found as JSON.
"""

import io
import re
import sys
import tempfile
from bisect import bisect_right
from collections.abc import Sequence
from pathlib import Path
from xml.etree.ElementTree import Element, ParseError, tostring

import resvg_py
from defusedxml import DefusedXmlException
from defusedxml.ElementTree import fromstring
from PIL import Image, ImageOps
from PIL.ImageFile import ImageFile

from hovvet.core.errors import CoreError
from hovvet.core.media.checked import published
from hovvet.core.media.process import PARSING, answer_of, answering
from hovvet.core.picture.strip import Strip

LARGEST = 20_000_000  # bytes
LONGEST_SIDE = 1_080  # pixels that are kept
_MOST_PIXELS = 60_000_000
_MOST_SVG = 2_000_000  # bytes
_MOST_ELEMENTS = 20_000
_RASTERS = ("PNG", "WEBP", "GIF")
_BEGINNINGS = (b"\x89PNG", b"RIFF", b"GIF8")
LONGEST_MOVING = 320  # pixels that are kept of what moves
_MOST_FRAMES, _LONGEST = 1_000, 20.0  # frames and seconds of what moves
_A_SECOND, _MOST_KEPT = 15, 150  # frames that are kept of it
_USUAL_STEP, _LEAST_STEP = 100, 20  # milliseconds of a frame that does not say, or says less
_BROKEN = "This picture is broken: it could not be read to its end. Save or download it again."
_ACTIVE = {"script", "foreignobject", "handler", "listener", "iframe", "audio", "video"}
_OUTSIDE = "This drawing links to something outside itself. Save it with everything embedded."
_EMBEDDED = re.compile(r"data:image/(png|jpe?g|webp);base64,[\w+/=\s]*", re.ASCII)
_URL = re.compile(r"url\(\s*['\"]?\s*(?!#)|@import", re.IGNORECASE)


def bring_in_sticker(data: bytes, out: Path) -> Strip:
    """Check a picture (PNG, WebP, GIF or SVG) and write it anew to ``out``: a PNG that may be seen through, cut to what is to
    be seen; of one that moves all frames below one another. Raises CoreError."""
    if len(data) > LARGEST:
        raise CoreError(f"The picture is larger than {LARGEST // 1_000_000} MB. Save it smaller.")
    if not data.startswith(_BEGINNINGS) and b"<svg" not in data[:20_000]:
        raise CoreError("This is not a picture that Hovvet can read here. Take PNG, WebP, GIF or SVG.")
    with published(out) as part, tempfile.NamedTemporaryFile() as given:
        given.write(data)
        given.flush()
        return Strip(**answer_of("hovvet.core.picture.own_sticker", [given.name, str(part)], PARSING, _BROKEN))


def cleaned(data: bytes) -> tuple[Image.Image, Strip]:
    """The pixels of a picture, upright, cut to what is to be seen of it, with even sides no longer than is of use; its frames
    below one another. Raises CoreError for one that may not be used; anything at all for one that is broken."""
    Image.MAX_IMAGE_PIXELS = None  # we tell what is too large ourselves
    if b"<svg" in data[:20_000] and not data.startswith(_BEGINNINGS):
        data = drawn(data)
    with Image.open(io.BytesIO(data), formats=_RASTERS) as given:
        if given.width * given.height > _MOST_PIXELS:
            raise CoreError(
                f"This picture is {given.width:,} by {given.height:,} pixels: too many to be worked with. Save it smaller."
            )
        count = getattr(given, "n_frames", 1)
        if count > _MOST_FRAMES:
            raise CoreError(
                f"This picture has {count:,} frames: more than {_MOST_FRAMES} are too many. Make it shorter."
            )
        if count > 1:
            frames, step = _moving(given, count)
        else:
            given.load()
            frames, step = [ImageOps.exif_transpose(given).convert("RGBA")], 0.0
    return _stacked(frames, step)


def _moving(given: ImageFile, count: int) -> tuple[list[Image.Image], float]:
    """Frames of what moves, each seen for the same time, and that time in seconds."""
    frames, ends, at = [], [], 0.0
    for n in range(count):
        given.seek(n)
        frame = given.convert("RGBA")
        frame.thumbnail((LONGEST_MOVING, LONGEST_MOVING), Image.Resampling.LANCZOS)
        frames.append(frame)
        at += max(given.info.get("duration") or _USUAL_STEP, _LEAST_STEP) / 1000
        ends.append(at)
    if at > _LONGEST:
        raise CoreError(
            f"This picture moves for {at:.0f} seconds: more than {_LONGEST:g} are too many. Make it shorter."
        )
    kept = min(max(round(at * _A_SECOND), 1), _MOST_KEPT)
    step = at / kept
    return [frames[bisect_right(ends, (n + 0.5) * step)] for n in range(kept)], step


def _stacked(frames: Sequence[Image.Image], step: float) -> tuple[Image.Image, Strip]:
    """Frames below one another, cut to what is to be seen in any of them."""
    boxes = [box for frame in frames if (box := frame.getchannel("A").getbbox()) is not None]
    if not boxes:
        raise CoreError("There is nothing to be seen in this picture: all of it is clear.")
    sides = list(zip(*boxes, strict=True))
    seen = min(sides[0]), min(sides[1]), max(sides[2]), max(sides[3])
    cut = [frame.crop(seen) for frame in frames]
    for frame in cut:
        frame.thumbnail((LONGEST_SIDE, LONGEST_SIDE), Image.Resampling.LANCZOS)
    width, height = cut[0].width + cut[0].width % 2, cut[0].height + cut[0].height % 2
    made = Image.new("RGBA", (width, height * len(cut)))
    for n, frame in enumerate(cut):
        made.paste(frame, (0, n * height))
    return made, Strip(width, height, len(cut), round(step, 6))


def drawn(data: bytes) -> bytes:
    """An SVG as a PNG, with nothing run and nothing fetched. Raises CoreError for one that would have to be."""
    if len(data) > _MOST_SVG:
        raise CoreError(f"The drawing is larger than {_MOST_SVG // 1_000_000} MB. Save it simpler, or as PNG.")
    try:
        root = fromstring(data, forbid_dtd=False)
    except (ParseError, DefusedXmlException, ValueError):
        raise CoreError(
            "This drawing could not be read: it is no SVG as it should be. Save it again, or as PNG."
        ) from None
    if sum(1 for _ in root.iter()) > _MOST_ELEMENTS:
        raise CoreError("This drawing has too many parts to be worked with. Save it simpler, or as PNG.")
    _check(root)
    width, height = (_side(root, name) for name in ("width", "height"))
    is_tall = bool(width and height and height > width)
    wide, high = (None, LONGEST_SIDE) if is_tall else (LONGEST_SIDE, None)
    clean = tostring(root, encoding="unicode")
    return bytes(resvg_py.svg_to_bytes(svg_string=clean, skip_system_fonts=True, width=wide, height=high))


def _check(root: Element) -> None:
    """Take out what would be run; refuse what is elsewhere."""
    for parent in [*root.iter()]:
        for child in [*parent]:
            if _name(child.tag) in _ACTIVE:
                parent.remove(child)
    for each in root.iter():
        if _name(each.tag) == "style" and _URL.search(each.text or ""):
            raise CoreError(_OUTSIDE)
        for key, value in [*each.attrib.items()]:
            name = _name(key)
            if name.startswith("on"):
                del each.attrib[key]
            elif name in ("href", "src"):
                if _name(each.tag) == "a":
                    del each.attrib[key]
                elif not value.startswith("#") and not _EMBEDDED.fullmatch(value):
                    raise CoreError(_OUTSIDE)
            elif _URL.search(value):
                raise CoreError(_OUTSIDE)


def _name(tag: object) -> str:
    """The name of an element or attribute without its namespace."""
    return str(tag).rpartition("}")[2].lower()


def _side(root: Element, name: str) -> float | None:
    """The width or height that a drawing says it has, in units of its own."""
    box = (root.get("viewBox") or "").replace(",", " ").split()
    told = box[2 if name == "width" else 3] if len(box) == 4 else re.sub(r"[^\d.]", "", root.get(name) or "")
    try:
        return float(told)
    except ValueError:
        return None


def main(given: str, out: str) -> int:
    """Read a picture and write it anew; print what it is, or what is wrong with it."""

    def work() -> dict[str, object]:
        made, strip = cleaned(Path(given).read_bytes())
        made.save(out, "PNG", compress_level=3)
        return strip._asdict()

    return answering(work, _BROKEN)


if __name__ == "__main__":
    sys.exit(main(*sys.argv[1:]))
