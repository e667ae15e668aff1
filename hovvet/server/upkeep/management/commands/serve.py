"""``manage.py serve``: the web server and its workers, each started again when it dies."""

import argparse
import os
import signal
import socket
import subprocess
import sys
import time
from collections.abc import Callable
from pathlib import Path
from types import FrameType
from typing import Any

from django.conf import settings
from django.core.management.base import BaseCommand, CommandError

HOST = "127.0.0.1"
_ACCESS_LOG = settings.DATA_DIR / "access.log"
_LARGEST_LOG = 50_000_000  # bytes: at the next start a larger one becomes access.log.1
_FIRST_WAIT, _LONGEST_WAIT = 1.0, 60.0  # seconds before a process that ended is started again
_STEADY = 120.0  # seconds after which it counts as having run well
_MOST_DEATHS = 7  # in a row
_PATIENCE = 8.0  # seconds that the web server and the workers get to end by themselves
# Method, address, status, bytes, seconds; and the number that a person sees with an error.
_ACCESS = '%(t)s %(h)s "%(m)s %(U)s" %(s)s %(B)s %(L)s %({x-request-id}o)s'


class Command(BaseCommand):
    """Start and watch gunicorn and the workers."""

    help = "Start Hovvet on this machine."
    requires_system_checks = ()  # the web server and the workers load all that they need by themselves

    def add_arguments(self, parser: argparse.ArgumentParser) -> None:
        """Port and number of workers."""
        parser.add_argument("--port", type=int, default=int(os.environ.get("PORT", "8000")))
        parser.add_argument("--workers", type=int, default=2)

    def handle(self, *_arguments: Any, **options: Any) -> None:
        """Watch the processes until told to stop."""
        port = options["port"]
        _check_free(port)
        os.environ["PORT"] = str(port)  # links in mail lead there
        _turn_over(_ACCESS_LOG)
        signal.signal(signal.SIGTERM, _stop)
        web = [sys.executable, "-m", "gunicorn", "hovvet.server.wsgi", "--bind", f"{HOST}:{port}"]
        web += ["--threads", "24", "--timeout", "120", "--graceful-timeout", "5", "--log-level", "warning"]
        web += ["--access-logfile", str(_ACCESS_LOG), "--access-logformat", _ACCESS]
        work = [sys.executable, str(settings.BASE_DIR / "manage.py"), "worker"]
        count = options["workers"]
        # Where there are several, one has no part in exports: bringing in and listening never wait for all of them.
        workers = [[*work, "--short"] if n == 0 and count > 1 else work for n in range(count)]
        children = [Kept("The web server", web), *(Kept("A worker", each) for each in workers)]
        self.stdout.write(f"Hovvet is at http://localhost:{port}/")
        self.stdout.flush()
        try:
            while True:
                time.sleep(0.5)
                for child in children:
                    if told := child.look_after():
                        self.stderr.write(told)
        except GivenUp as end:
            raise CommandError(str(end)) from None
        except (KeyboardInterrupt, SystemExit):
            pass
        finally:
            _end([child.process for child in children])


class GivenUp(Exception):
    """A process that cannot be kept running."""


class Kept:
    """A process that is started again when it ends: at once, then after waits that grow, and in the end no more."""

    def __init__(self, name: str, command: list[str], clock: Callable[[], float] = time.monotonic) -> None:
        self.name, self._command, self._clock = name, command, clock
        self._deaths = 0
        self._again: float | None = None  # when it is to be started again
        self.process = self._begin()

    def _begin(self) -> "subprocess.Popen[bytes]":
        self._since, self._again = self._clock(), None
        return _start(self._command)

    def look_after(self) -> str:
        """Start it again when it is time; what there is to tell of it, "" for nothing. Raises GivenUp."""
        now = self._clock()
        if self._again is not None:
            if now >= self._again:
                self.process = self._begin()
            return ""
        code = self.process.poll()
        if code is None:
            return ""
        self._deaths = 1 if now - self._since > _STEADY else self._deaths + 1
        if self._deaths > _MOST_DEATHS:
            raise GivenUp(
                f"{self.name} ended {self._deaths} times in a row soon after it was started, the last time with {code}. "
                "What it said of that stands above. Hovvet stops here; nothing that was saved is lost."
            )
        wait = min(_FIRST_WAIT * 2 ** (self._deaths - 1), _LONGEST_WAIT)
        self._again = now + wait
        return f"{self.name} ended with {code}; it is started again in {wait:g} s"


def _turn_over(log: Path) -> None:
    if log.exists() and log.stat().st_size > _LARGEST_LOG:
        log.replace(log.with_name(f"{log.name}.1"))


def _check_free(port: int) -> None:
    with socket.socket() as probe:
        probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        try:
            probe.bind((HOST, port))
        except OSError:
            raise CommandError(
                f"Port {port} is taken: is Hovvet running already? Stop that, or choose another with PORT=8001 make demo."
            ) from None


def _stop(_signal: int, _frame: FrameType | None) -> None:
    sys.exit(0)


def _start(command: list[str]) -> "subprocess.Popen[bytes]":
    """A child that is asked to end when this process does, even when that is killed outright. Its memory is given back
    rather than kept in an arena for each of many threads."""
    environment = os.environ | {"MALLOC_ARENA_MAX": os.environ.get("MALLOC_ARENA_MAX", "2")}
    return subprocess.Popen(["setpriv", "--pdeathsig", "TERM", *command], env=environment)


def _end(children: list["subprocess.Popen[bytes]"]) -> None:
    for child in children:
        child.terminate()
    until = time.monotonic() + _PATIENCE
    for child in children:
        try:
            child.wait(max(until - time.monotonic(), 0.1))
        except subprocess.TimeoutExpired:
            child.kill()
