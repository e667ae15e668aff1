"""``/healthz``: whether this server can do its work, for whoever watches it."""

import shutil
from datetime import timedelta

from django.conf import settings
from django.db import DatabaseError, connection
from django.http import HttpRequest, JsonResponse
from django.utils import timezone

from hovvet.server.jobs.models import Job

_WAITS_LONG = 600  # seconds that a queued job may wait while nothing runs


def health(_request: HttpRequest) -> JsonResponse:
    """200 with what was found when all is well, else 503."""
    checks = {"database": _database(), "disk": _disk()}
    if checks["database"]:
        checks["workers"] = _workers()
    numbers = _queue() if checks["database"] else {}
    return JsonResponse({**checks, **numbers}, status=200 if all(checks.values()) else 503)


def _database() -> bool:
    try:
        with connection.cursor() as cursor:
            cursor.execute("SELECT 1")
    except DatabaseError:
        return False
    return True


def _disk() -> bool:
    return shutil.disk_usage(settings.DATA_DIR).free >= settings.FREE_BYTES


def _workers() -> bool:
    """Whether somebody takes jobs: none waits for long while none runs."""
    long_ago = timezone.now() - timedelta(seconds=_WAITS_LONG)
    waiting = Job.objects.filter(state=Job.State.QUEUED, created__lt=long_ago).exists()
    return not waiting or Job.objects.filter(state=Job.State.RUNNING).exists()


def _queue() -> dict[str, int]:
    return {state: Job.objects.filter(state=state).count() for state in (Job.State.QUEUED, Job.State.RUNNING)}
