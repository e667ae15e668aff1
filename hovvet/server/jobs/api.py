"""Watching and stopping long work."""

import uuid

from django.http import HttpRequest
from ninja import Router

from hovvet.server.accounts.access import find
from hovvet.server.jobs.models import Job
from hovvet.server.jobs.running import Part, cancel_job, part_of
from hovvet.server.schema import Schema

router = Router(tags=["jobs"])


class JobOut(Schema):
    """Work in the background."""

    id: uuid.UUID
    kind: str
    """What it does, by name."""
    state: Job.State
    stage: str
    """What it is at, in words."""
    progress: float
    """0 to 1."""
    seconds_left: float | None
    """An estimate, once there is one."""
    waits_for: int
    """How many other jobs run while this one waits."""
    with_another: bool
    """Whether another one does most of it together with its own."""
    error: str
    """What went wrong, and what to do; "" for nothing."""
    part: Part
    """Which part of the work on a recording or clip it is."""

    @staticmethod
    def resolve_part(job: Job) -> Part:
        """As its kind has it."""
        return part_of(job.kind)


@router.post("/{job_id}/cancel", response=JobOut)
def cancel(request: HttpRequest, job_id: uuid.UUID) -> Job:
    """Ask a job to stop."""
    job = find(request, Job.objects.all(), pk=job_id)
    cancel_job(job)
    job.refresh_from_db()
    return job
