"""``manage.py worker``: do jobs, and take up those of workers that died."""

import threading
from typing import Any

from django.core.management import call_command
from django.core.management.base import BaseCommand

from hovvet.server.jobs.running import reap_for_ever


class Command(BaseCommand):
    """Run one worker."""

    help = "Do queued jobs until stopped."

    def handle(self, *_arguments: Any, **_options: Any) -> None:
        """Reap in the background, work in the foreground."""
        stop = threading.Event()
        threading.Thread(target=reap_for_ever, args=(stop,), daemon=True).start()
        try:
            call_command("db_worker", queue_name="*", interval=0.3, startup_delay=False)
        finally:
            stop.set()
