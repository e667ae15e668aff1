"""Running ffmpeg on files we do not trust."""

from collections.abc import Callable, Iterator, Sequence
from pathlib import Path
from typing import IO

from hovvet.core.media.process import Limits, running

# Only real containers: never a playlist, a script or an image sequence, which
# could point to other files or hosts.
CONTAINERS = (
    "mov,mp4,m4a,3gp,3g2,mj2,matroska,webm,wav,w64,mp3,flac,ogg,aac,mpegts,mpeg,avi,asf,flv,aiff,caf,amr,mxf,ac3,eac3"
)
GUARD = ("-protocol_whitelist", "file", "-format_whitelist", CONTAINERS)
GUARD_OPTIONS = {"protocol_whitelist": "file", "format_whitelist": CONTAINERS}

Progress = Callable[[float], None]  # called with the part done, 0 to 1; may raise Cancelled


def no_progress(_part: float) -> None:
    """For callers that show none."""


def source(path: Path) -> str:
    """The path as ffmpeg input: never an option, never a protocol."""
    return f"file:{path.resolve()}"


def encode(arguments: Sequence[str], duration: float, progress: Progress, limit: Limits) -> None:
    """Run ``ffmpeg`` with ``arguments``, reporting progress against ``duration`` seconds of output.

    Raises MediaError when it fails, LimitError when it goes beyond ``limit``, and
    whatever ``progress`` raises; the program is then stopped.
    """
    command = ["ffmpeg", "-v", "error", "-nostdin", "-y", "-progress", "pipe:1", *arguments]
    with running(command, limit) as program:
        assert program.process.stdout
        for at in _times(program.process.stdout):
            progress(min(at / duration, 1.0) if duration > 0 else 0.0)
        program.finish()


def _times(lines: IO[bytes]) -> Iterator[float]:
    """Seconds written so far, from ffmpeg's progress report."""
    for line in lines:
        key, _, value = line.decode(errors="replace").strip().partition("=")
        if key == "out_time_us" and value.lstrip("-").isdigit():
            yield max(int(value), 0) / 1e6
