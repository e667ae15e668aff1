"""Telling what happened. What the end of a job means to people is known by whoever declares it: ``tells``."""

from collections.abc import Callable
from typing import NamedTuple

from django.dispatch import receiver

from hovvet.server.accounts.models import Workspace
from hovvet.server.documents.models import Document
from hovvet.server.jobs.events import ended
from hovvet.server.jobs.models import Job
from hovvet.server.notices.models import Notice, NoticeKind
from hovvet.server.recordings.models import Recording
from hovvet.server.recordings.preparing import PREPARE, TRANSCRIBE

Kind = NoticeKind


class Subject(NamedTuple):
    """What a job was about: as it is called in a sentence, and where that is."""

    name: str
    clip: Document | None = None
    recording: Recording | None = None
    place: str = ""


Tells = Callable[[Job], Subject | None]
_tellers: dict[str, Tells] = {}


def tells(kind: str) -> Callable[[Tells], Tells]:
    """Declare what jobs of a kind are about; None for one of which nobody need be told."""

    def declare(teller: Tells) -> Tells:
        _tellers[kind] = teller
        return teller

    return declare


def tell(
    workspace: Workspace,
    kind: NoticeKind,
    text: str,
    clip: Document | None = None,
    recording: Recording | None = None,
    place: str = "",
    by: int | None = None,
) -> Notice:
    """Tell a workspace that something happened; ``by``: somebody who knows already, having done it."""
    text = text if len(text) <= _LONGEST else f"{text[: _LONGEST - 1]}…"
    return Notice.objects.create(
        workspace=workspace, kind=kind, text=text, clip=clip, recording=recording, place=place, by_id=by
    )


_LONGEST = 400  # letters


@receiver(ended)
def tell_of_job(job: Job, **_: object) -> None:
    """Tell of a job that is over, where that matters to people."""
    subject = _tellers[job.kind](job) if job.kind in _tellers else None
    if subject is None:
        return
    failed = job.state == Job.State.FAILED
    text = f"{subject.name} failed: {job.error}" if failed else f"{subject.name} is ready."
    kind = Kind.FAILED if failed else Kind.READY
    tell(job.workspace, kind, text, subject.clip, subject.recording, subject.place)


@tells(PREPARE)
@tells(TRANSCRIBE)
def _recording(job: Job) -> Subject | None:
    row = Recording.objects.filter(pk=job.target).first()
    if row is None or row.unheard or (job.state == Job.State.DONE and not row.words_ready):
        return None
    return Subject(f"“{row.title}”", recording=row)
