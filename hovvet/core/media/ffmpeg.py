"""Running ffmpeg and ffprobe on files we do not trust."""

import subprocess
import tempfile
import threading
from collections.abc import Callable, Iterator, Sequence
from pathlib import Path
from typing import IO

from hovvet.core.errors import CoreError

# Only real containers: never a playlist, a script or an image sequence, which
# could point to other files or hosts.
CONTAINERS = (
    "mov,mp4,m4a,3gp,3g2,mj2,matroska,webm,wav,w64,mp3,flac,ogg,aac,mpegts,mpeg,avi,asf,flv,aiff,caf,amr,mxf,ac3,eac3"
)
GUARD = ("-protocol_whitelist", "file", "-format_whitelist", CONTAINERS)
GUARD_OPTIONS = {"protocol_whitelist": "file", "format_whitelist": CONTAINERS}

Progress = Callable[[float], None]  # called with the part done, 0 to 1; may raise Cancelled


class MediaError(CoreError):
    """A media file could not be read or written."""


def no_progress(_part: float) -> None:
    """For callers that show none."""


def source(path: Path) -> str:
    """The path as ffmpeg input: never an option, never a protocol."""
    return f"file:{path.resolve()}"


def run(command: Sequence[str], seconds: float) -> bytes:
    """Run a program for at most ``seconds``; its standard output. Raises MediaError."""
    try:
        done = subprocess.run(command, capture_output=True, timeout=seconds, check=False, stdin=subprocess.DEVNULL)
    except subprocess.TimeoutExpired:
        raise MediaError("Reading the file took too long, so it was stopped.", " ".join(command)) from None
    if done.returncode != 0:
        raise failure(done.stderr.decode(errors="replace"))
    return done.stdout


def failure(log: str) -> MediaError:
    """What ffmpeg's log means to a person."""
    if "No space left on device" in log:
        message = "The disk is full. Free some space, then try again; nothing was lost."
    elif "not in whitelist" in log or "not on whitelist" in log or "Invalid data found" in log or "End of file" in log:
        message = "This is not a video or audio file that Hovvet can read. Try MP4, MOV, MKV, WebM, MP3, WAV or M4A."
    else:
        message = "The file could not be read to its end."
    return MediaError(message, log[-2000:])


def encode(arguments: Sequence[str], duration: float, progress: Progress, seconds: float) -> None:
    """Run ``ffmpeg`` with ``arguments``, reporting progress against ``duration`` seconds of output.

    Raises MediaError when it fails or takes longer than ``seconds``, and
    whatever ``progress`` raises; the program is then stopped.
    """
    command = ["ffmpeg", "-v", "error", "-nostdin", "-y", "-progress", "pipe:1", *arguments]
    with (
        tempfile.TemporaryFile() as log,
        subprocess.Popen(command, stdout=subprocess.PIPE, stderr=log, stdin=subprocess.DEVNULL) as process,
    ):
        timer = threading.Timer(seconds, process.kill)
        timer.start()
        try:
            assert process.stdout
            for at in _times(process.stdout):
                progress(min(at / duration, 1.0) if duration > 0 else 0.0)
            code = process.wait()
        except BaseException:
            process.kill()
            raise
        finally:
            timer.cancel()
        if code != 0:
            log.seek(0)
            text = log.read().decode(errors="replace")
            if code == -9:
                raise MediaError("Reading the file took too long, so it was stopped.", text[-2000:])
            raise failure(text)


def _times(lines: IO[bytes]) -> Iterator[float]:
    """Seconds written so far, from ffmpeg's progress report."""
    for line in lines:
        key, _, value = line.decode(errors="replace").strip().partition("=")
        if key == "out_time_us" and value.lstrip("-").isdigit():
            yield max(int(value), 0) / 1e6
