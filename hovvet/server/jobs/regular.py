"""What is looked after again and again, by one worker at a time for all machines."""

import logging
import threading
import time
from collections.abc import Callable

from django.db import close_old_connections, connection

from hovvet.server.jobs.models import Turn

logger = logging.getLogger("hovvet.jobs")
_TICK = 1.0  # seconds
Work = Callable[[], object]
_works: dict[str, tuple[float, Work]] = {}


def regularly(name: str, seconds: float) -> Callable[[Work], Work]:
    """Declare what is done every so many seconds. It is to be short: all of it has one thread of a worker."""

    def declare(work: Work) -> Work:
        _works[name] = seconds, work
        return work

    return declare


class Regular:
    """What one worker does regularly. It asks whether it is its turn no more often than something is due: asking writes."""

    def __init__(self, clock: Callable[[], float] = time.monotonic) -> None:
        self._clock = clock
        self._asked: dict[str, float] = {}

    def do_what_is_due(self) -> None:
        """Do what nobody has done for long enough; what fails is logged, and done again in its turn."""
        for name, (seconds, work) in list(_works.items()):
            now = self._clock()
            if now - self._asked.get(name, -seconds) < seconds:
                continue
            self._asked[name] = now
            try:
                if Turn.take(name, seconds):
                    work()
            except Exception:
                logger.exception("regular work: %s", name)


def work_regularly(stop: threading.Event) -> None:
    """Do so until told to stop."""
    regular = Regular()
    while not stop.wait(_TICK):
        close_old_connections()
        regular.do_what_is_due()
    connection.close()
