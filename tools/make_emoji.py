"""The emoji that Hovvet offers as stickers: one file of drawings, ``web/dist/emoji.zip``, from the npm package that has them.

Each is an SVG named ``GROUP/NAME.svg``. Skin tones and flags are left out: what is laid over a
picture is meant as a sign.
"""

import json
import sys
import zipfile
from pathlib import Path

PACKAGE = Path(__file__).parent.parent / "web" / "node_modules" / "@iconify-json" / "noto"
LEFT_OUT = ("skin-tone",)
GROUPS = (
    "Smileys & Emotion",
    "Objects",
    "Activities",
    "Animals & Nature",
    "Food & Drink",
    "Travel & Places",
    "People & Body",
    "Symbols",
)  # in the order in which they are offered


def main(out: Path) -> int:
    """Write the file; nothing is there until all of it is."""
    icons = json.loads((PACKAGE / "icons.json").read_text())
    groups = json.loads((PACKAGE / "metadata.json").read_text())["categories"]
    usual = icons["width"], icons["height"]
    part = out.with_suffix(".part")
    with zipfile.ZipFile(part, "w", zipfile.ZIP_DEFLATED) as file:
        for group in GROUPS:
            for name in groups[group]:
                icon = icons["icons"].get(name)
                if icon is None or any(each in name for each in LEFT_OUT):
                    continue
                box = f"0 0 {icon.get('width', usual[0])} {icon.get('height', usual[1])}"
                links = ' xmlns:xlink="http://www.w3.org/1999/xlink"' if "xlink:" in icon["body"] else ""
                drawing = f'<svg xmlns="http://www.w3.org/2000/svg"{links} viewBox="{box}">{icon["body"]}</svg>'
                entry = zipfile.ZipInfo(f"{group}/{name}.svg")  # without a date: the same file each time
                entry.compress_type = zipfile.ZIP_DEFLATED
                file.writestr(entry, drawing)
    part.replace(out)
    return 0


if __name__ == "__main__":
    sys.exit(main(Path(sys.argv[1])))
