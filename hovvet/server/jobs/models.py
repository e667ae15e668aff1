"""Long work, as a row that a person can watch."""

import uuid
from collections.abc import Iterable
from datetime import timedelta

from django.db import models
from django.db.models import ExpressionWrapper
from django.db.models.functions import Now
from django.utils import timezone

from hovvet.server.accounts.models import Workspace


class Job(models.Model):
    """One piece of long work on the object ``target``."""

    class State(models.TextChoices):
        QUEUED = "queued"
        RUNNING = "running"
        DONE = "done"
        FAILED = "failed"
        CANCELLED = "cancelled"

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    workspace = models.ForeignKey(Workspace, models.CASCADE, related_name="jobs")
    kind = models.CharField(max_length=40)
    target = models.UUIDField(db_index=True)
    wanted = models.JSONField(default=dict)  # what more the person said
    after = models.ForeignKey(
        "self", models.SET_NULL, null=True, related_name="following"
    )  # begun only when that one has ended, which does most of it
    state = models.CharField(max_length=12, choices=State, default=State.QUEUED, db_index=True)
    stage = models.CharField(max_length=80, default="")
    progress = models.FloatField(default=0.0)
    seconds_left = models.FloatField(null=True)
    cancel_requested = models.BooleanField(default=False)
    attempts = models.PositiveSmallIntegerField(default=0)  # of workers that died at it, the present one included
    lease = models.CharField(max_length=200, default="")  # whoever runs it now (leases.py); nobody else may write
    heartbeat = models.DateTimeField(null=True)
    error = models.TextField(default="")
    error_detail = models.TextField(default="")
    created = models.DateTimeField(auto_now_add=True)
    started = models.DateTimeField(null=True)
    finished = models.DateTimeField(null=True)

    _running: int | None = None  # how many jobs run, where that has been looked up

    class Meta:
        ordering = ["-created"]
        constraints = [  # asked for by many at once, made once
            models.UniqueConstraint(
                fields=["kind", "target"],
                condition=models.Q(state__in=("queued", "running"), cancel_requested=False),
                name="one_active_job",
            )
        ]

    def __str__(self) -> str:
        return f"{self.kind} of {self.target} ({self.state})"

    @property
    def active(self) -> bool:
        """Whether it waits or runs."""
        return self.state in ACTIVE

    @property
    def waits_for(self) -> int:
        """How many other jobs run while this one waits; 0 for one that does not wait."""
        if self.state != self.State.QUEUED:
            return 0
        if self._running is None:
            say_what_runs([self])
        return self._running or 0

    @property
    def with_another(self) -> bool:
        """Whether it waits for another one that does most of it together with its own."""
        return self.state == self.State.QUEUED and self.after_id is not None


ACTIVE = (Job.State.QUEUED, Job.State.RUNNING)


class Turn(models.Model):
    """Work that one process at a time does for all machines: whose turn it is, and until when."""

    name = models.CharField(max_length=40, unique=True)
    until = models.DateTimeField()

    def __str__(self) -> str:
        return f"{self.name} until {self.until}"

    @classmethod
    def take(cls, name: str, seconds: float) -> bool:
        """Take a turn for so many seconds, by the clock of the database; False while somebody else has it."""
        until = ExpressionWrapper(Now() + timedelta(seconds=seconds), output_field=models.DateTimeField())
        if cls.objects.filter(name=name, until__lte=Now()).update(until=until):
            return True
        _, fresh = cls.objects.get_or_create(name=name, defaults={"until": timezone.now() + timedelta(seconds=seconds)})
        return fresh


def say_what_runs(jobs: Iterable[Job]) -> None:
    """Look up for several jobs at once how many run while they wait."""
    waiting = [job for job in jobs if job.state == Job.State.QUEUED]
    running = Job.objects.filter(state=Job.State.RUNNING).count() if waiting else 0
    for job in waiting:
        job._running = running


def latest_jobs(targets: Iterable[uuid.UUID]) -> dict[uuid.UUID, list[Job]]:
    """The newest job of each kind on each of these."""
    latest: dict[tuple[uuid.UUID, str], Job] = {}
    for job in Job.objects.filter(target__in=list(targets)):
        latest.setdefault((job.target, job.kind), job)
    say_what_runs(latest.values())
    found: dict[uuid.UUID, list[Job]] = {}
    for (target, _kind), job in latest.items():
        found.setdefault(target, []).append(job)
    return found
