"""The colours that a film shows at some moments: read in a program of its own.

``python -m hovvet.core.colour.looking FILE SECONDS…`` is that program; it prints the colours as JSON.
"""

import json
import sys
from collections.abc import Sequence
from pathlib import Path

import numpy as np
from PIL import Image

from hovvet.core.colour.grade import Colours
from hovvet.core.media.frames import pick_frames
from hovvet.core.media.process import Limits, MediaError, answer_of
from hovvet.core.time import Rate

_WIDTH, _HEIGHT = 48, 27  # pixels that are looked at in each frame
_LIMITS = Limits(seconds=60, cpu=90, output=4_000_000)
_RATE = Rate(num=100)  # the grid on which moments are sought
_UNREAD = "The picture could not be looked at. Try again; if it fails once more, prepare the recording again."


def colours_at(film: Path, seconds: Sequence[float]) -> Colours:
    """R'G'B' from 0 to 1 of what a film shows at these moments, shape (n, 3). Raises CoreError."""
    found = answer_of("hovvet.core.colour.looking", [str(film), *(f"{at:.3f}" for at in seconds)], _LIMITS, _UNREAD)
    return np.array(found["colours"], np.float64) / 255


def colours_of(picture: Path) -> Colours:
    """R'G'B' from 0 to 1 of a picture that was brought in (and so checked, and written anew), shape (n, 3)."""
    with Image.open(picture) as opened:
        seen = opened.convert("RGB").resize((_WIDTH, _HEIGHT), Image.Resampling.BOX)
    return np.asarray(seen, np.float64).reshape(-1, 3) / 255


def main(film: str, *seconds: str) -> int:
    """Print the colours of some moments, in 8 bits each."""
    wanted = [_RATE.frame_at(float(at)) for at in seconds]
    try:
        frames = [
            frame.reformat(_WIDTH, _HEIGHT, "rgb24", interpolation="AREA").to_ndarray()
            for frame in pick_frames(Path(film), _RATE, wanted)
        ]
    except MediaError as error:
        print(json.dumps({"wrong": str(error)}))
        return 0
    print(json.dumps({"colours": np.concatenate([frame.reshape(-1, 3) for frame in frames]).tolist()}))
    return 0


if __name__ == "__main__":
    sys.exit(main(*sys.argv[1:]))
