"""``manage.py serve``: the web server and its workers, each started again when it dies."""

import argparse
import os
import signal
import subprocess
import sys
import time
from typing import Any

from django.conf import settings
from django.core.management.base import BaseCommand


class Command(BaseCommand):
    """Start and watch gunicorn and the workers."""

    help = "Start Hovvet on this machine."

    def add_arguments(self, parser: argparse.ArgumentParser) -> None:
        """Port and number of workers."""
        parser.add_argument("--port", type=int, default=int(os.environ.get("PORT", "8000")))
        parser.add_argument("--workers", type=int, default=2)

    def handle(self, *_arguments: Any, **options: Any) -> None:
        """Watch the processes until told to stop."""
        web = [sys.executable, "-m", "gunicorn", "hovvet.server.wsgi", "--bind", f"127.0.0.1:{options['port']}"]
        web += ["--threads", "8", "--timeout", "120", "--access-logfile", "/dev/null", "--log-level", "warning"]
        work = [sys.executable, str(settings.BASE_DIR / "manage.py"), "worker"]
        commands = [web, *([work] * options["workers"])]
        children = [subprocess.Popen(command) for command in commands]
        signal.signal(signal.SIGTERM, lambda *_: sys.exit(0))
        self.stdout.write(f"Hovvet is at http://localhost:{options['port']}/")
        self.stdout.flush()
        try:
            while True:
                time.sleep(0.5)
                for n, child in enumerate(children):
                    if child.poll() is not None:
                        self.stderr.write(f"{commands[n][-1]} ended with {child.returncode}; starting it again")
                        time.sleep(1)
                        children[n] = subprocess.Popen(commands[n])
        except (KeyboardInterrupt, SystemExit):
            pass
        finally:
            for child in children:
                child.terminate()
            for child in children:
                try:
                    child.wait(10)
                except subprocess.TimeoutExpired:
                    child.kill()
