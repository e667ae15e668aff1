"""The job that looks whether one looks at the camera in a take. Nobody waits for it."""

from typing import Any

from hovvet.core.picture.facing import Looks, find_looks
from hovvet.server.jobs.events import ended
from hovvet.server.jobs.models import Job
from hovvet.server.jobs.running import Report, handles, start_unasked
from hovvet.server.recordings.looking import FACES
from hovvet.server.recordings.models import Recording
from hovvet.server.scripts.models import Take

LOOKS = "looks"


def look_after_faces(job: Job, **_: Any) -> None:
    """Begin once faces were looked for in a take."""
    if job.kind == FACES and Take.objects.filter(recording=job.target, looks_json__isnull=True).exists():
        start_unasked(job.workspace, LOOKS, job.target)


ended.connect(look_after_faces, dispatch_uid="looks of takes")


@handles(LOOKS, priority=-6, part="in the background")
def look(report: Report) -> None:
    """Look at a take."""
    recording = Recording.objects.get(pk=report.target)
    report.stage("Looking who looks at the camera", 0, 1)
    looks = find_looks(recording.working, recording.media.duration if recording.media else 0.0, report)
    Take.objects.filter(recording=recording).update(looks_json=looks.model_dump(mode="json"))


def looks_of(take: Take) -> Looks | None:
    """What was found; None before that."""
    return Looks.model_validate(take.looks_json) if take.looks_json else None
