"""``manage.py worker``: do jobs, and take up those of workers that died."""

import argparse
import logging
import os
import threading
import uuid
from types import FrameType
from typing import Any

from django.core.management.base import BaseCommand
from django.db import close_old_connections, connection
from django_tasks_db.management.commands.db_worker import Worker

from hovvet.server.jobs.reaping import reap_for_ever
from hovvet.server.jobs.regular import work_regularly
from hovvet.server.jobs.running import LONG, draining, put_back_own
from hovvet.server.upkeep.tidying import tidy

logger = logging.getLogger("hovvet.jobs")

TIDY_SECONDS = 3600.0
CHECKPOINT_SECONDS = 3.0  # how long a job may take to its next report when the worker is to stop


class DrainingWorker(Worker):
    """Stops soon when asked to: the job at hand goes back into the queue at its next report, or without it."""

    def shutdown(self, signum: int, frame: FrameType | None) -> None:
        """Take no more jobs; give the one at hand a few seconds."""
        draining.set()
        if self.running and self.running_task:
            threading.Thread(target=_leave_in_time, daemon=True).start()
        super().shutdown(signum, frame)


def _leave_in_time() -> None:
    """Give the job back and go, unless it came to a report before. What the process started dies with it."""
    threading.Event().wait(CHECKPOINT_SECONDS)
    try:
        put_back_own()
    finally:
        os._exit(0)


def _tidy_for_ever(stop: threading.Event) -> None:
    """Tidy once an hour until told to stop."""
    while not stop.wait(TIDY_SECONDS):
        close_old_connections()
        try:
            logger.info("%s", tidy())
        except Exception:
            logger.exception("tidying")
    connection.close()


class Command(BaseCommand):
    """Run one worker."""

    help = "Do queued jobs until stopped."
    requires_system_checks = ()  # it has no addresses to check

    def add_arguments(self, parser: argparse.ArgumentParser) -> None:
        """Whether it leaves out what takes long."""
        parser.add_argument("--short", action="store_true", help="Leave exports to other workers.")

    def handle(self, *_arguments: Any, **options: Any) -> None:
        """Reap in the background, work in the foreground."""
        stop = threading.Event()
        threading.Thread(target=reap_for_ever, args=(stop,), daemon=True).start()
        threading.Thread(target=work_regularly, args=(stop,), daemon=True).start()
        threading.Thread(target=_tidy_for_ever, args=(stop,), daemon=True).start()
        worker = DrainingWorker(
            queue_names=["*"],
            interval=0.3,
            batch=False,
            backend_name="default",
            startup_delay=False,
            max_tasks=None,
            worker_id=uuid.uuid4().hex,
            excluded_queue_names=[LONG] if options["short"] else [],
        )
        worker.configure_signals()
        try:
            worker.run()
        finally:
            stop.set()
