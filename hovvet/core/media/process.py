"""Programs run on files we do not trust: within limits, and never outliving us."""

import json
import os
import signal
import subprocess
import sys
import tempfile
import threading
from collections.abc import Callable, Iterator, Sequence
from contextlib import contextmanager, suppress
from dataclasses import dataclass
from typing import IO, Any, TypeVar

from hovvet.core.errors import CoreError

T = TypeVar("T")

_LOG = 4 * 1024**2  # bytes: what a program may say of its errors, which go to a file as well
_MEMORY = 4 * 1024**3  # bytes of address space: decoding 8K pictures in two threads stays under 2 GiB


DISK_FULL = "The disk is full. Free some space, then try again; nothing was lost."


class MediaError(CoreError):
    """A media file could not be read or written."""


class LimitError(MediaError):
    """A file asked for more than a recording of its length should."""

    def __init__(self, detail: str = "") -> None:
        super().__init__(
            "This file asks for far more work than a recording of its length should, so it was stopped. "
            "It is probably damaged: copy it again from where it was recorded.",
            detail,
        )


class KilledError(MediaError):
    """A program was ended from outside, and not for what it did."""

    def __init__(self, detail: str = "") -> None:
        super().__init__(
            "The program that worked on this was ended from outside, twice: the machine has probably run out of memory. "
            "Let other work finish, then retry; nothing was lost.",
            detail,
        )


@dataclass(frozen=True)
class Limits:
    """What a program may use: ``seconds`` on the clock, ``cpu`` seconds of processors, bytes of ``memory``, and
    ``output`` bytes in any file it writes."""

    seconds: float
    cpu: float
    output: int
    memory: int = _MEMORY


PARSING = Limits(
    seconds=10, cpu=10, output=512 * 1024**2, memory=1024**3
)  # for a picture, font or table of a person's own
_TOO_MUCH = "This file asks for far too much work (10 seconds, or 1 GB, was not enough), so it was stopped. Save it simpler or smaller."


def limits(duration: float, pace: float, bytes_per_second: int = 0) -> Limits:
    """Limits for work on ``duration`` seconds of media.

    ``pace`` is how many seconds a second of it may take on a busy machine; ``bytes_per_second`` how much it may write.
    """
    seconds = 120 + pace * duration
    return Limits(seconds=seconds, cpu=2 * seconds, output=32 * 1024**2 + int(bytes_per_second * duration))


def guarded(command: Sequence[str], limit: Limits) -> list[str]:
    """The command under its limits; it is killed when the thread that started it ends, however that happens.

    prlimit and setpriv (util-linux) become the program itself, so that its process id stays the one that was started.
    """
    cpu = int(limit.cpu) + 1  # from then on it is asked to end; killed later, so that one can be told from the other
    return [
        "prlimit", f"--as={limit.memory}", f"--cpu={cpu}:{cpu + 5}", f"--fsize={max(limit.output, _LOG)}", "--core=0",
        "setpriv", "--pdeathsig", "KILL", *command,
    ]  # fmt: skip


class Program:
    """A program at work under limits; its errors go to a file."""

    def __init__(self, process: "subprocess.Popen[bytes]", log: IO[bytes], limit: Limits) -> None:
        self.process = process
        self._log, self._limit = log, limit
        self._late = threading.Event()

    def stop(self) -> None:
        """Kill it and its children, if it still runs."""
        if self.process.poll() is None:
            with suppress(ProcessLookupError):
                os.killpg(self.process.pid, signal.SIGKILL)

    def too_late(self) -> None:
        """Stop it because its time is over."""
        self._late.set()
        self.stop()

    def finish(self) -> None:
        """Wait for its end. Raises LimitError, MediaError unless it went well."""
        code = self.process.wait()
        if self._late.is_set():
            raise LimitError(f"more than {self._limit.seconds:.0f} s")
        if code == 0:
            return
        self._log.seek(0)
        text = self._log.read()[-200_000:].decode(errors="replace")
        if code in (-signal.SIGKILL, -signal.SIGTERM):
            raise KilledError(f"ended by {code}: {text[-2000:]}")
        beyond = code in (-signal.SIGXCPU, -signal.SIGXFSZ)
        if beyond or "Cannot allocate memory" in text or "File too large" in text:
            raise LimitError(f"ended by {code}: {text[-2000:]}")
        raise failure(text)


@contextmanager
def running(
    command: Sequence[str], limit: Limits, stdin: int = subprocess.DEVNULL, stdout: int = subprocess.PIPE
) -> Iterator[Program]:
    """A program at work under limits. It is killed, with all it started, when its time is over and on leaving."""
    with (
        tempfile.TemporaryFile() as log,
        subprocess.Popen(guarded(command, limit), stdin=stdin, stdout=stdout, stderr=log, process_group=0) as process,
    ):
        program = Program(process, log, limit)
        timer = threading.Timer(limit.seconds, program.too_late)
        timer.start()
        try:
            yield program
        finally:
            timer.cancel()
            program.stop()


def run(command: Sequence[str], limit: Limits) -> bytes:
    """Run a program to its end; its standard output. One that is killed from outside is run once more: it writes its files
    from the beginning. Raises LimitError, KilledError, MediaError."""
    return twice(lambda: _run(command, limit))


def twice(work: Callable[[], T]) -> T:
    """What some work comes to; done once more where a program of it was killed from outside. Raises KilledError then."""
    try:
        return work()
    except KilledError:
        return work()


def _run(command: Sequence[str], limit: Limits) -> bytes:
    with running(command, limit) as program:
        assert program.process.stdout
        out = program.process.stdout.read()
        program.finish()
        return out


def answer_of(module: str, arguments: Sequence[str], limit: Limits, broken: str) -> Any:
    """What one of our own modules prints as JSON, run as a program of its own: a parser of what comes from outside.

    Raises CoreError with what its answer says is ``wrong``; with ``broken`` where it came to no answer.
    """
    try:
        answer = json.loads(run([sys.executable, "-P", "-m", module, *arguments], limit))
    except LimitError as error:
        raise CoreError(_TOO_MUCH, error.detail) from None
    except MediaError as error:
        raise CoreError(broken, error.detail) from None
    if wrong := answer.get("wrong"):
        raise CoreError(wrong)
    return answer


def answering(work: Callable[[], dict[str, object]], broken: str) -> int:
    """The other side of ``answer_of``: print what some work came to, or what is ``wrong``; ``broken`` for what no one foresaw."""
    try:
        answer = work()
    except CoreError as error:
        answer = {"wrong": str(error)}
    except MemoryError:
        answer = {"wrong": _TOO_MUCH}
    except Exception as error:
        answer = {"wrong": broken}
        print(repr(error), file=sys.stderr)
    print(json.dumps(answer))
    return 0


def failure(log: str) -> MediaError:
    """What ffmpeg's log means to a person."""
    if "No space left on device" in log:
        message = DISK_FULL
    elif "not in whitelist" in log or "not on whitelist" in log or "Invalid data found" in log or "End of file" in log:
        message = "This is not a video or audio file that Hovvet can read. Try MP4, MOV, MKV, WebM, MP3, WAV or M4A."
    else:
        message = "The file could not be read to its end."
    return MediaError(message, log[-2000:])
