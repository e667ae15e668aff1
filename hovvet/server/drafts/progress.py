"""How far it is with the clip of a draft: the jobs that follow one another."""

from hovvet.server.documents.models import Document
from hovvet.server.drafts.models import Draft
from hovvet.server.jobs.models import Job, latest_jobs
from hovvet.server.recordings.preparing import PREPARE
from hovvet.server.scripts.comparing import read_aloud

READ_ALOUD, MAKE, OTHERWISE = "read aloud", "draft", "otherwise"


def jobs_of(draft: Draft, clip: Document | None = None) -> list[Job]:
    """The newest job of each kind that makes a draft's clip, or (``clip``) says something in it otherwise: of reading, preparing
    what was read, and what follows."""
    newest = read_aloud(draft.script)[-1:] if draft.script else []
    targets = [clip.pk if clip else draft.pk, *(each.recording_id for each in newest)]
    kinds = (READ_ALOUD, PREPARE, OTHERWISE if clip else MAKE)
    return [job for jobs in latest_jobs(targets).values() for job in jobs if job.kind in kinds]
