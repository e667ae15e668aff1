"""Build the caption fonts from the npm font packages: ``python -m hovvet.core.captions.make_fonts web/node_modules``.

Each package holds one file for each part of the alphabet; a caption needs one
file for all, under a family name of its own, the same for preview and export.
Run by hand when a font is added; the results are in the repository.
"""

import sys
import tempfile
from pathlib import Path

from fontTools.merge import Merger
from fontTools.ttLib import TTFont

from hovvet.core.captions.fonts import CAPTION_FONTS, FALLBACK, FONTS


def build(modules: Path) -> None:
    """Write every font of the caption styles, and its licence, into the fonts folder."""
    for made in (*CAPTION_FONTS.values(), FALLBACK):
        folder = modules / "@fontsource" / made.package
        with tempfile.TemporaryDirectory() as scratch:
            parts = []
            for subset in made.subsets:
                font = TTFont(folder / "files" / f"{made.package}-{subset}-{made.weight}-normal.woff2")
                font.flavor = None
                for table in ("GSUB", "GDEF", "kern", "gasp", "MATH", "avar", "STAT"):
                    if table in font:
                        del font[table]
                parts.append(Path(scratch) / f"{subset}.ttf")
                font.save(parts[-1])
            merged = Merger().merge([str(part) for part in parts])
        for record in list(merged["name"].names):
            if record.nameID in (1, 4, 16):
                merged["name"].setName(made.family, record.nameID, *_ids(record))
            elif record.nameID == 6:
                merged["name"].setName(made.family.replace(" ", ""), 6, *_ids(record))
            elif record.nameID in (2, 17):
                merged["name"].setName("Regular", record.nameID, *_ids(record))
        # One face a family: weight and slant as plain as can be, so that nothing is made bold artificially.
        merged["OS/2"].usWeightClass = 400
        merged["OS/2"].fsSelection = 0x40
        merged["head"].macStyle = 0
        merged.save(FONTS / made.file)
        licence = (folder / "LICENSE").read_text()
        (FONTS / made.file.replace(".ttf", ".licence.txt")).write_text(licence)


def _ids(record: object) -> tuple[int, int, int]:
    return record.platformID, record.platEncID, record.langID  # type: ignore[attr-defined]


if __name__ == "__main__":
    build(Path(sys.argv[1]))
