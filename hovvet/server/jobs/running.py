"""Running jobs: handing out, claiming, reporting, cancelling, taking up again."""

import errno
import logging
import threading
import time
import uuid
from collections.abc import Callable
from functools import partial
from typing import Literal

from django.db import IntegrityError, connection, transaction
from django.db.models import F
from django.db.models.functions import Now
from django.utils import timezone
from django_tasks import DEFAULT_TASK_QUEUE_NAME, task

from hovvet.core.errors import Cancelled, CoreError
from hovvet.server.accounts.models import Workspace
from hovvet.server.jobs.events import ended
from hovvet.server.jobs.leases import new_lease, own_leases
from hovvet.server.jobs.models import ACTIVE, Job

logger = logging.getLogger("hovvet.jobs")

State = Job.State
Handler = Callable[["Report"], None]
# What a job is to a person: part of bringing something in, asked for by itself, or done in the background, not to be waited for.
Part = Literal["bringing in", "asked for", "in the background"]
_handlers: dict[str, Handler] = {}
_priorities: dict[str, int] = {}
_parts: dict[str, "Part"] = {}
_long: set[str] = set()
LONG = "long"  # the queue of what takes long
_BEAT = 4.0  # seconds between two heartbeats
_SHOW = 0.4  # seconds between two progress writes
draining = threading.Event()  # set when this worker is to stop: running jobs are put back at their next report


def handles(kind: str, priority: int = 0, part: Part = "asked for", long: bool = False) -> Callable[[Handler], Handler]:
    """Declare the function that does jobs of a kind; those of higher ``priority`` are done first. One that takes ``long`` is
    never done by all workers at once, where there are several."""

    def declare(handler: Handler) -> Handler:
        _handlers[kind] = handler
        _priorities[kind] = priority
        _parts[kind] = part
        if long:
            _long.add(kind)
        return handler

    return declare


def part_of(kind: str) -> Part:
    """What jobs of a kind are to a person."""
    return _parts.get(kind, "asked for")


def start_job(workspace: Workspace, kind: str, target: uuid.UUID, after: Job | None = None, **wanted: object) -> Job:
    """Queue a job; an unfinished one of the same kind on the same target is returned instead. One that comes ``after``
    another waits until that has ended, however it does."""
    same = Job.objects.filter(kind=kind, target=target, state__in=ACTIVE, cancel_requested=False)
    while True:
        running = same.first()
        if running:
            return running
        try:
            with transaction.atomic():
                job = Job.objects.create(workspace=workspace, kind=kind, target=target, after=after, wanted=wanted)
        except IntegrityError:
            if not same.exists():
                raise
            continue  # somebody else was faster
        if after is None:
            transaction.on_commit(partial(enqueue, job))
        return job


def start_unasked(workspace: Workspace, kind: str, target: uuid.UUID, again: bool = False) -> bool:
    """Queue a job that nobody asked for; where the last of its kind failed or was cancelled, only ``again``. Whether it is being
    done."""
    last = Job.objects.filter(kind=kind, target=target).first()
    if last is not None and last.state in (State.FAILED, State.CANCELLED) and not again:
        return False
    start_job(workspace, kind, target)
    return True


def enqueue(job: Job) -> None:
    """Hand a job out to the workers."""
    queue = LONG if job.kind in _long else DEFAULT_TASK_QUEUE_NAME
    run_job.using(priority=_priorities.get(job.kind, 0), queue_name=queue).enqueue(str(job.pk))


def cancel_job(job: Job) -> None:
    """Stop a job: at once when it waits, within about a second when it runs."""
    if Job.objects.filter(pk=job.pk, state=State.QUEUED).update(state=State.CANCELLED, finished=timezone.now()):
        begin_following(job)
    Job.objects.filter(pk=job.pk, state=State.RUNNING).update(cancel_requested=True)


def begin_following(job: Job) -> None:
    """Hand out the jobs that waited for one that has ended."""
    for following in job.following.filter(state=State.QUEUED):
        following.after = None
        following.save(update_fields=["after"])
        enqueue(following)


def cancel_jobs_of(target: uuid.UUID) -> None:
    """Stop every job on an object, which is about to go."""
    for job in Job.objects.filter(target=target, state__in=ACTIVE):
        cancel_job(job)


class LeaseLost(Exception):
    """Somebody else has taken the job over; this run must stop and write nothing."""


class Drained(Exception):
    """The worker is to stop; what is done so far is kept, and the job goes on elsewhere."""


class Report:
    """How a handler tells of its progress; raises Cancelled when the person asked to stop."""

    def __init__(self, job: Job) -> None:
        self.job = job
        self._shown = 0.0
        self._low, self._high = 0.0, 1.0
        self._began = time.monotonic()

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
        if draining.is_set():
            raise Drained
        now = time.monotonic()
        if now - self._shown < _SHOW:
            return
        self._shown = now
        done = self._low + (self._high - self._low) * part
        spent = now - self._began
        left = spent * (1 - done) / done if done > 0.02 and spent > 2 else None
        mine = Job.objects.filter(pk=self.job.pk, lease=self.job.lease, state=State.RUNNING)
        if not mine.update(stage=self.job.stage, progress=done, seconds_left=left, heartbeat=Now()):
            raise LeaseLost
        if mine.filter(cancel_requested=True).exists():
            raise Cancelled


@task()
def run_job(job_id: str) -> None:
    """Do a queued job. Nothing happens when somebody else has claimed it."""
    lease = new_lease()
    now = timezone.now()
    claimed = Job.objects.filter(pk=job_id, state=State.QUEUED).update(
        state=State.RUNNING,
        lease=lease,
        heartbeat=Now(),
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
    except Drained:
        put_back(job)
    except Cancelled:
        _finish(job, State.CANCELLED)
    except Exception as error:
        _failed(job, error)
    finally:
        stop.set()


def _failed(job: Job, error: Exception) -> None:
    if Job.objects.filter(pk=job.pk, cancel_requested=True).exists():
        # Its object may be gone from under it: that it could not go on is no news.
        _finish(job, State.CANCELLED, error_detail=repr(error)[-4000:])
        return
    message, detail = _told(error)
    _finish(job, State.FAILED, error=message, error_detail=detail[-4000:])
    if isinstance(error, CoreError):
        logger.info("job %s failed: %s (%s)", job, error, error.detail)
    else:
        logger.exception("job %s", job)


def _told(error: Exception) -> tuple[str, str]:
    """What to tell the person of a failed job, and what to keep for a developer."""
    if isinstance(error, CoreError):
        return str(error), error.detail
    if isinstance(error, OSError):
        if error.errno == errno.ENOSPC:
            return "The disk is full. Free some space, then retry.", repr(error)
        return "A file could not be read or written. Retry.", repr(error)
    message = "Something went wrong on our side; what you had is unchanged. Retry, and tell us if it happens again."
    return message, repr(error)


def _finish(job: Job, state: Job.State, **values: object) -> None:
    mine = Job.objects.filter(pk=job.pk, lease=job.lease).update(
        state=state, finished=timezone.now(), seconds_left=None, cancel_requested=False, **values
    )
    if mine:
        begin_following(job)
        tell_ended(job)


def tell_ended(job: Job) -> None:
    """Tell whoever listens that a job is over, unless it was cancelled; what they do about it is no matter of the job's."""
    job.refresh_from_db()
    if job.state in (State.DONE, State.FAILED):
        for _, answer in ended.send_robust(Job, job=job):
            if isinstance(answer, Exception):
                logger.error("after %s", job, exc_info=answer)


def put_back(job: Job) -> None:
    """Give a running job back to the queue, as if this run had not been: a planned stop is no failed attempt."""
    mine = Job.objects.filter(pk=job.pk, lease=job.lease, state=State.RUNNING)
    if mine.update(state=State.QUEUED, lease="", attempts=F("attempts") - 1, seconds_left=None):
        enqueue(job)


def put_back_own() -> None:
    """Give back every job that this process runs."""
    for job in Job.objects.filter(state=State.RUNNING, lease__startswith=own_leases()):
        put_back(job)


def _beat(job_id: uuid.UUID, lease: str, stop: threading.Event) -> None:
    """Show that the worker lives, also while one step takes long."""
    while not stop.wait(_BEAT):
        try:
            Job.objects.filter(pk=job_id, lease=lease, state=State.RUNNING).update(heartbeat=Now())
        except Exception as error:
            logger.warning("no heartbeat: %s", error)  # a locked database is no reason to look dead from now on
    connection.close()
