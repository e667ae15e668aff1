"""``manage.py serve``: the web server and its workers, each started again when it dies."""

import argparse
import os
import signal
import socket
import subprocess
import sys
import time
from pathlib import Path
from types import FrameType
from typing import Any

from django.conf import settings
from django.core.management.base import BaseCommand, CommandError

HOST = "127.0.0.1"
_ACCESS_LOG = settings.DATA_DIR / "access.log"
_LARGEST_LOG = 50_000_000  # bytes: at the next start a larger one becomes access.log.1
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
        _turn_over(_ACCESS_LOG)
        signal.signal(signal.SIGTERM, _stop)
        web = [sys.executable, "-m", "gunicorn", "hovvet.server.wsgi", "--bind", f"{HOST}:{port}"]
        web += ["--threads", "16", "--timeout", "120", "--graceful-timeout", "5", "--log-level", "warning"]
        web += ["--access-logfile", str(_ACCESS_LOG), "--access-logformat", _ACCESS]
        work = [sys.executable, str(settings.BASE_DIR / "manage.py"), "worker"]
        commands = [web, *([work] * options["workers"])]
        children = [_start(command) for command in commands]
        self.stdout.write(f"Hovvet is at http://localhost:{port}/")
        self.stdout.flush()
        try:
            while True:
                time.sleep(0.5)
                for n, child in enumerate(children):
                    if child.poll() is not None:
                        self.stderr.write(f"{commands[n][-1]} ended with {child.returncode}; starting it again")
                        time.sleep(1)
                        children[n] = _start(commands[n])
        except (KeyboardInterrupt, SystemExit):
            pass
        finally:
            _end(children)


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
    """A child that is asked to end when this process does, even when that is killed outright."""
    return subprocess.Popen(["setpriv", "--pdeathsig", "TERM", *command])


def _end(children: list["subprocess.Popen[bytes]"]) -> None:
    for child in children:
        child.terminate()
    until = time.monotonic() + _PATIENCE
    for child in children:
        try:
            child.wait(max(until - time.monotonic(), 0.1))
        except subprocess.TimeoutExpired:
            child.kill()
