"""How loud a finished file is, by a meter that had no part in making it."""

import re
from math import log10
from pathlib import Path
from typing import NamedTuple

from hovvet.core.media.ffmpeg import GUARD, source
from hovvet.core.media.process import limits, run

_SILENCE = -70.0  # LUFS


class Judged(NamedTuple):
    """Integrated loudness in ``lufs`` and the highest true ``peak`` in dBTP."""

    lufs: float
    peak: float


def judged(path: Path, seconds: float) -> Judged | None:
    """What ffmpeg's meter (EBU R 128) says of the sound of a file; None for silence. Raises MediaError."""
    command = [
        "ffmpeg", "-v", "error", "-nostdin", *GUARD, "-i", source(path), "-map", "0:a:0", "-vn",
        "-af", "ebur128=peak=true:framelog=verbose:metadata=1,ametadata=mode=print:file=-", "-f", "null", "-",
    ]  # fmt: skip
    told = run(command, limits(seconds, 1)).decode()
    loudness = re.findall(r"lavfi\.r128\.I=(-?[\d.]+)", told)
    peaks = [float(each) for each in re.findall(r"lavfi\.r128\.true_peaks_ch\d=([\d.]+)", told)]
    if not loudness or float(loudness[-1]) <= _SILENCE or not any(peaks):
        return None
    return Judged(float(loudness[-1]), round(20 * log10(max(peaks)), 2))
