"""Taking up again what dead workers left: jobs, and the rows of the queue that stand for them."""

import logging
import threading
from datetime import timedelta
from typing import Any

from django.conf import settings
from django.db import close_old_connections, connection
from django.db.models import DateTimeField, ExpressionWrapper, Q
from django.db.models.expressions import CombinedExpression
from django.db.models.functions import Now
from django.utils import timezone
from django_tasks import TaskResultStatus
from django_tasks_db.models import DBTaskResult

from hovvet.server.jobs.leases import holder_lives
from hovvet.server.jobs.models import Job, Turn
from hovvet.server.jobs.running import begin_following, enqueue, tell_ended

logger = logging.getLogger("hovvet.jobs")
State = Job.State

REAPER = "reaper"
EVERY = 5.0  # seconds
_SETTLED = timedelta(seconds=10)  # after which a task whose job is over is one that a dead worker left


def _ago(seconds: float) -> "ExpressionWrapper[CombinedExpression]":
    """A moment by the clock of the database: it is the one clock that all machines share."""
    return ExpressionWrapper(Now() - timedelta(seconds=seconds), output_field=DateTimeField())


def take_up_stale_jobs() -> int:
    """Hand out again the jobs of workers that died; how many. A job that ends three workers is given up.

    A run is alive while its heart beats, and, where that can be told, its process lives: a process that lives but is not
    heard of (it lost its database, say) has lost its job, and may write nothing more.
    """
    taken = _enqueue_forgotten()
    beats = set(
        Job.objects.filter(state=State.RUNNING, heartbeat__gt=_ago(settings.JOB_STALE_SECONDS)).values_list(
            "pk", flat=True
        )
    )
    for job in Job.objects.filter(state=State.RUNNING):
        if job.pk in beats and holder_lives(job.lease) is not False:
            continue
        mine = Job.objects.filter(pk=job.pk, lease=job.lease, state=State.RUNNING)
        if job.cancel_requested:
            mine.update(state=State.CANCELLED, lease="", cancel_requested=False, finished=timezone.now())
            begin_following(job)
        elif job.attempts >= settings.JOB_ATTEMPTS:
            message = "This stopped the worker three times, so it was given up. Retry, or try another file."
            mine.update(state=State.FAILED, lease="", error=message, finished=timezone.now())
            begin_following(job)
            tell_ended(job)
        elif mine.update(state=State.QUEUED, lease=""):
            enqueue(job)
            taken += 1
    _forget_left_tasks()
    return taken


def _enqueue_forgotten() -> int:
    """Hand out queued jobs that no task stands for: a worker died between taking the task and the job."""
    settled = timezone.now() - timedelta(seconds=settings.JOB_FORGOTTEN_SECONDS)
    waiting = Q(after__isnull=True) | ~Q(after__state__in=(State.QUEUED, State.RUNNING))
    queued = list(Job.objects.filter(waiting, state=State.QUEUED, created__lt=settled))
    if not queued:
        return 0
    known = {_job_of(task) for task in DBTaskResult.objects.ready()}
    forgotten = [job for job in queued if str(job.pk) not in known]
    for job in forgotten:
        enqueue(job)
    return len(forgotten)


def _job_of(task: "DBTaskResult[Any, Any]") -> str:
    arguments = task.args_kwargs["args"]
    return str(arguments[0]) if arguments else ""


def _forget_left_tasks() -> None:
    """End tasks that would run for ever, since the worker that took them is dead: those whose job is not running, and all but
    the newest of a job that is. One that was about to end by itself still does."""
    tasks = list(
        DBTaskResult.objects.running().filter(started_at__lt=timezone.now() - _SETTLED).order_by("-started_at")
    )
    if not tasks:
        return
    running = {str(pk) for pk in Job.objects.filter(state=State.RUNNING).values_list("pk", flat=True)}
    for task in tasks:
        job = _job_of(task)
        if job in running:
            running.discard(job)
        else:
            left = DBTaskResult.objects.running().filter(pk=task.pk)
            left.update(status=TaskResultStatus.FAILED, finished_at=timezone.now())


def reap_for_ever(stop: threading.Event, every: float = EVERY) -> None:
    """Take up stale jobs until told to stop; of several workers one at a time does."""
    while not stop.wait(every):
        close_old_connections()
        try:
            if Turn.take(REAPER, every):
                take_up_stale_jobs()
        except Exception:
            logger.exception("taking up stale jobs")
    connection.close()
