"""Files that appear only when they are whole: written under a name of their own, checked, then renamed."""

import errno
import os
import uuid
import wave
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from pathlib import Path

import av

from hovvet.core.media.ffmpeg import GUARD_OPTIONS
from hovvet.core.media.process import DISK_FULL, MediaError
from hovvet.core.media.wav import wav_length

PART = ".part"  # ends the name of every file that is still being written
_SLACK = 1.0  # seconds by which a file may be shorter than it should be: a frame or two, the last packet of sound
_SAMPLE = 8  # frames decoded at each place looked at


def no_check(_path: Path) -> None:
    """For files that are whole when they could be written at all."""


@contextmanager
def published(out: Path, check: Callable[[Path], None] = no_check, lasting: bool = True) -> Iterator[Path]:
    """A path to write to; after ``check`` found it good it becomes ``out``. What is ``lasting`` is on the disk by then, name
    and all, so that it is there also after the machine failed.

    Every attempt has a name of its own, so that two that overlap (a worker thought dead, say) never write into
    one file. Raises MediaError when the disk is full, and what ``check`` raises; the attempt is then removed.
    """
    part = out.with_name(f".{out.name}.{uuid.uuid4().hex[:12]}{PART}")
    try:
        yield part
        check(part)
        if lasting:
            flushed(part)
        part.replace(out)
        if lasting:
            flushed(out.parent)
    except OSError as error:
        if error.errno == errno.ENOSPC:
            raise MediaError(DISK_FULL, str(error)) from None
        raise
    finally:
        part.unlink(missing_ok=True)


def flushed(path: Path) -> None:
    """Have a file, or the names in a folder, written to the disk before anything else is done."""
    opened = os.open(path, os.O_RDONLY)
    try:
        os.fsync(opened)
    finally:
        os.close(opened)


def check_media(path: Path, seconds: float, has_picture: bool, has_sound: bool) -> None:
    """Open a file that was made, compare its length, and decode a little at its beginning, middle and end.

    Raises MediaError when it is not what it should be.
    """
    try:
        with av.open(str(path.resolve()), options=dict(GUARD_OPTIONS)) as made:
            wanted = [("video", has_picture), ("audio", has_sound)]
            for kind, expected in wanted:
                if expected and not any(stream.type == kind for stream in made.streams):
                    raise MediaError(_BROKEN, f"no {kind} in {path}")
            length = float(made.duration or 0) / av.time_base
            if length < seconds - max(_SLACK, 0.01 * seconds):
                raise MediaError(_BROKEN, f"{path} is {length:.2f} s long, not {seconds:.2f}")
            for stream in made.streams:
                for place in (0.0, 0.5, 0.95):
                    made.seek(int(place * length * av.time_base))
                    if not any(True for _ in zip(range(_SAMPLE), made.decode(stream), strict=False)):
                        raise MediaError(_BROKEN, f"nothing at {place:.0%} of the {stream.type} of {path}")
    except (av.FFmpegError, OSError) as error:
        raise MediaError(_BROKEN, f"{path}: {error}") from None


def check_wav(path: Path) -> None:
    """Raises MediaError unless a WAV says of itself what it holds."""
    try:
        samples, _ = wav_length(path)
    except (OSError, EOFError, wave.Error) as error:
        raise MediaError(_BROKEN, f"{path}: {error}") from None
    if path.stat().st_size < 2 * samples:
        raise MediaError(_BROKEN, f"{path} is cut short")


_BROKEN = "What was made came out broken, so it was thrown away. Retry; what you had is unchanged."
