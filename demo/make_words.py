"""Remake the stored transcripts of the demo recordings with the recogniser: ``python demo/make_words.py``."""

import sys
from pathlib import Path

from hovvet.cli import main

HERE = Path(__file__).parent

if __name__ == "__main__":
    for speech in sorted((HERE / "speech").glob("*.opus")):
        code = main(["transcribe", str(speech), "-o", str(HERE / "words" / f"{speech.stem}.json")])
        if code:
            sys.exit(code)
