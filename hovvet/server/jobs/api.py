"""Watching and stopping long work."""

import uuid

from django.http import HttpRequest
from ninja import Router, Schema

from hovvet.server.accounts.access import find
from hovvet.server.jobs.models import Job
from hovvet.server.jobs.running import Part, cancel_job, part_of

router = Router(tags=["jobs"])


class JobOut(Schema):
    """``progress`` is 0 to 1; ``seconds_left`` is an estimate, once there is one; ``waits_for`` how many other jobs
    run while this one waits; ``with_another``: another one does most of it together with its own."""

    id: uuid.UUID
    kind: str
    state: Job.State
    stage: str
    progress: float
    seconds_left: float | None
    waits_for: int
    with_another: bool
    error: str
    part: Part

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
