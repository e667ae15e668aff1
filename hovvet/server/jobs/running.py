"""Running jobs: handing out, claiming, reporting, cancelling, taking up again."""

import logging
import threading
import time
import uuid
from collections.abc import Callable
from datetime import timedelta

from django.conf import settings
from django.db import close_old_connections, connection, transaction
from django.db.models import F
from django.utils import timezone
from django_tasks import task

from hovvet.core.errors import Cancelled, CoreError
from hovvet.server.accounts.models import Workspace
from hovvet.server.jobs.models import Job

logger = logging.getLogger("hovvet.jobs")

State = Job.State
Handler = Callable[["Report"], None]
_handlers: dict[str, Handler] = {}
_BEAT = 4.0  # seconds between two heartbeats
_SHOW = 0.4  # seconds between two progress writes


def handles(kind: str) -> Callable[[Handler], Handler]:
    """Declare the function that does jobs of a kind."""

    def declare(handler: Handler) -> Handler:
        _handlers[kind] = handler
        return handler

    return declare


def start_job(workspace: Workspace, kind: str, target: uuid.UUID, **wanted: object) -> Job:
    """Queue a job; an unfinished one of the same kind on the same target is returned instead."""
    with transaction.atomic():
        running = Job.objects.filter(kind=kind, target=target, state__in=(State.QUEUED, State.RUNNING)).first()
        if running and not running.cancel_requested:
            return running
        job = Job.objects.create(workspace=workspace, kind=kind, target=target, wanted=wanted)
        transaction.on_commit(lambda: run_job.enqueue(str(job.id)))
    return job


def cancel_job(job: Job) -> None:
    """Stop a job: at once when it waits, within about a second when it runs."""
    Job.objects.filter(pk=job.pk, state=State.QUEUED).update(state=State.CANCELLED, finished=timezone.now())
    Job.objects.filter(pk=job.pk, state=State.RUNNING).update(cancel_requested=True)


class LeaseLost(Exception):
    """Somebody else has taken the job over; this run must stop and write nothing."""


class Report:
    """How a handler tells of its progress; raises Cancelled when the person asked to stop."""

    def __init__(self, job: Job) -> None:
        self.job = job
        self._shown = 0.0
        self._low, self._high = 0.0, 1.0
        self._began = time.monotonic()
        self._stage_began = self._began

    @property
    def target(self) -> uuid.UUID:
        """The id of the object worked on."""
        return self.job.target

    def stage(self, name: str, low: float, high: float) -> None:
        """Begin a stage that covers ``low`` to ``high`` of the whole job."""
        self._low, self._high, self._shown = low, high, 0.0
        self.job.stage = name
        self(0.0)

    def __call__(self, part: float) -> None:
        """``part`` of the stage is done, 0 to 1."""
        now = time.monotonic()
        if now - self._shown < _SHOW:
            return
        self._shown = now
        done = self._low + (self._high - self._low) * part
        spent = now - self._began
        left = spent * (1 - done) / done if done > 0.02 and spent > 2 else None
        mine = Job.objects.filter(pk=self.job.pk, lease=self.job.lease, state=State.RUNNING)
        if not mine.update(stage=self.job.stage, progress=done, seconds_left=left, heartbeat=timezone.now()):
            raise LeaseLost
        if mine.filter(cancel_requested=True).exists():
            raise Cancelled


@task()
def run_job(job_id: str) -> None:
    """Do a queued job. Nothing happens when somebody else has claimed it."""
    lease = uuid.uuid4().hex
    now = timezone.now()
    claimed = Job.objects.filter(pk=job_id, state=State.QUEUED).update(
        state=State.RUNNING,
        lease=lease,
        heartbeat=now,
        started=now,
        attempts=F("attempts") + 1,
        error="",
        error_detail="",
    )
    if not claimed:
        return
    job = Job.objects.get(pk=job_id)
    stop = threading.Event()
    threading.Thread(target=_beat, args=(job.pk, lease, stop), daemon=True).start()
    try:
        _handlers[job.kind](Report(job))
        _finish(job, State.DONE, progress=1.0)
    except LeaseLost:
        logger.warning("job %s was taken over", job)
    except Cancelled:
        _finish(job, State.CANCELLED)
    except CoreError as error:
        logger.info("job %s failed: %s (%s)", job, error, error.detail)
        _finish(job, State.FAILED, error=str(error), error_detail=error.detail[-4000:])
    except OSError as error:
        full = error.errno == 28
        message = (
            "The disk is full. Free some space, then retry." if full else "A file could not be read or written. Retry."
        )
        _finish(job, State.FAILED, error=message, error_detail=repr(error))
        if not full:
            logger.exception("job %s", job)
    except Exception as error:
        logger.exception("job %s", job)
        message = "Something went wrong on our side; what you had is unchanged. Retry, and tell us if it happens again."
        _finish(job, State.FAILED, error=message, error_detail=repr(error)[-4000:])
    finally:
        stop.set()


def _finish(job: Job, state: Job.State, **values: object) -> None:
    Job.objects.filter(pk=job.pk, lease=job.lease).update(
        state=state, finished=timezone.now(), seconds_left=None, cancel_requested=False, **values
    )


def _beat(job_id: uuid.UUID, lease: str, stop: threading.Event) -> None:
    """Show that the worker lives, also while one step takes long."""
    while not stop.wait(_BEAT):
        Job.objects.filter(pk=job_id, lease=lease, state=State.RUNNING).update(heartbeat=timezone.now())
    connection.close()


def take_up_stale_jobs() -> int:
    """Hand out again the jobs of workers that died; how many. A job that fails three workers is given up."""
    stale = Job.objects.filter(
        state=State.RUNNING, heartbeat__lt=timezone.now() - timedelta(seconds=settings.JOB_STALE_SECONDS)
    )
    taken = 0
    for job in stale:
        mine = stale.filter(pk=job.pk, lease=job.lease)
        if job.attempts >= settings.JOB_ATTEMPTS:
            message = "This stopped the worker three times, so it was given up. Retry, or try another file."
            mine.update(state=State.FAILED, lease="", error=message, finished=timezone.now())
        elif mine.update(state=State.QUEUED, lease=""):
            run_job.enqueue(str(job.pk))
            taken += 1
    return taken


def reap_for_ever(stop: threading.Event, every: float = 5.0) -> None:
    """Take up stale jobs until told to stop."""
    while not stop.wait(every):
        close_old_connections()
        try:
            take_up_stale_jobs()
        except Exception:
            logger.exception("taking up stale jobs")
    connection.close()
