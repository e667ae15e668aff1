"""A part of a recording as a file of its own."""

from pathlib import Path

from hovvet.core.errors import CoreError
from hovvet.core.media.ffmpeg import GUARD, Progress, encode, no_progress, source
from hovvet.core.media.info import MediaInfo
from hovvet.core.media.process import limits

SHORTEST, LONGEST = 0.2, 600.0  # seconds of a part
_BYTES_PER_SECOND = 8_000_000


def cut_part(
    path: Path, media: MediaInfo, start: float, end: float, out: Path, progress: Progress = no_progress
) -> None:
    """Write the seconds ``start`` to ``end`` of a recording to ``out``, an MP4: exact to the frame, hardly to be told from
    the original. Raises CoreError."""
    check_part(media, start, end)
    seconds = end - start
    arguments = [*GUARD, "-ss", f"{start:.3f}", "-i", source(path), "-t", f"{seconds:.3f}", "-sn", "-dn"]
    arguments += ["-map_metadata", "-1"]
    if media.has_picture:
        arguments += ["-map", "0:v:0", "-c:v", "libx264", "-preset", "veryfast", "-crf", "16", "-pix_fmt", "yuv420p"]
        arguments += ["-vf", "crop=trunc(iw/2)*2:trunc(ih/2)*2"]
    if media.has_sound:
        arguments += ["-map", "0:a:0", "-c:a", "aac", "-b:a", "256k"]
    encode([*arguments, "-f", "mp4", str(out)], seconds, progress, limits(seconds + 60, 8, _BYTES_PER_SECOND))


def check_part(media: MediaInfo, start: float, end: float) -> None:
    """Raises CoreError for a part that is not in a recording, too short or too long."""
    if not 0 <= start < end <= media.duration + 0.5:
        raise CoreError("This part is not in the recording.")
    if not SHORTEST <= end - start <= LONGEST:
        raise CoreError(f"A part for the Shelf is {SHORTEST:g} seconds to {LONGEST / 60:g} minutes long.")
