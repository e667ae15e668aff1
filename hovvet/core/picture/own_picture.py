"""Pictures that people bring in: read in a program of its own, and written anew with nothing in them but pixels.

``python -m hovvet.core.picture.own_picture IN OUT`` is that program; it prints what it found as JSON.
"""

import sys
import tempfile
from dataclasses import dataclass
from pathlib import Path

from PIL import Image, ImageOps

from hovvet.core.errors import CoreError
from hovvet.core.media.checked import published
from hovvet.core.media.process import PARSING, answer_of, answering

LARGEST = 60_000_000  # bytes
LONGEST_SIDE = 3_840  # pixels that are kept: more than any output shows
_MOST_PIXELS = 120_000_000
_KINDS = {b"\x89PNG": "PNG", b"\xff\xd8\xff": "JPEG", b"RIFF": "WEBP"}  # how PNG, JPEG and WebP begin
_BROKEN = "This picture is broken: it could not be read to its end. Save or download it again."
_BEHIND = "#FFFFFF"  # what is seen through it becomes


@dataclass(frozen=True)
class OwnPicture:
    """Its size in pixels, as it is shown."""

    width: int
    height: int


def bring_in_picture(data: bytes, out: Path) -> OwnPicture:
    """Check a picture (PNG, JPEG or WebP) and write it anew to ``out``, as it is drawn. Raises CoreError."""
    if len(data) > LARGEST:
        raise CoreError(f"The picture is larger than {LARGEST // 1_000_000} MB. Save it smaller.")
    if not any(data.startswith(begins) for begins in _KINDS):
        raise CoreError("This is not a picture that Hovvet can read. Take PNG, JPEG or WebP.")
    with published(out) as part, tempfile.NamedTemporaryFile() as given:
        given.write(data)
        given.flush()
        return OwnPicture(**answer_of("hovvet.core.picture.own_picture", [given.name, str(part)], PARSING, _BROKEN))


def cleaned(path: Path) -> Image.Image:
    """The pixels of a picture, upright, opaque, with even sides no longer than is of use. Raises CoreError for one that is
    too large; anything at all for one that is broken."""
    Image.MAX_IMAGE_PIXELS = None  # we tell what is too large ourselves
    with Image.open(path, formats=tuple(_KINDS.values())) as given:
        if given.width * given.height > _MOST_PIXELS:
            raise CoreError(
                f"This picture is {given.width:,} by {given.height:,} pixels: too many to be worked with. Save it smaller."
            )
        given.draft("RGB", (LONGEST_SIDE, LONGEST_SIDE))
        given.load()
        given.thumbnail(
            (LONGEST_SIDE, LONGEST_SIDE), Image.Resampling.LANCZOS
        )  # before it is turned, which takes a copy
        seen = ImageOps.exif_transpose(given).convert("RGBA")
    made = Image.new("RGB", seen.size, _BEHIND)
    made.paste(seen, mask=seen)
    return made.crop((0, 0, max(made.width // 2 * 2, 2), max(made.height // 2 * 2, 2)))


def main(given: str, out: str) -> int:
    """Read a picture and write it anew; print what it is, or what is wrong with it."""

    def work() -> dict[str, object]:
        made = cleaned(Path(given))
        made.save(out, "PNG", compress_level=3)
        return {"width": made.width, "height": made.height}

    return answering(work, _BROKEN)


if __name__ == "__main__":
    sys.exit(main(*sys.argv[1:]))
