"""Bringing in from a link, and words that a person has already. (Files come by ``tus``.)"""

import uuid
from pathlib import Path, PurePath

from django.db import transaction
from django.db.models import F
from django.http import HttpRequest
from ninja import Field, File, Router, Schema
from ninja.files import UploadedFile

from hovvet.core.formats.words_in import LARGEST, read_words
from hovvet.server.accounts.access import find, workspace_of
from hovvet.server.clips.models import Document
from hovvet.server.jobs.models import Job
from hovvet.server.jobs.running import cancel_job, start_job
from hovvet.server.problems import Problem
from hovvet.server.recordings.links import WebLink, importer_for
from hovvet.server.recordings.models import Recording, Show
from hovvet.server.recordings.preparing import PREPARE, TRANSCRIBE

router = Router(tags=["bring in"])


class LinkWanted(Schema):
    """A link to fetch a recording from, and the show it belongs to, if any."""

    link: str = Field(min_length=1, max_length=2000)
    show: uuid.UUID | None = None


class BroughtIn(Schema):
    """The recording that came to be."""

    id: uuid.UUID


@router.post("/links", response=BroughtIn)
def fetch_link(request: HttpRequest, wanted: LinkWanted) -> BroughtIn:
    """Bring in from a link; fetching is the first thing its preparation does."""
    link = wanted.link.strip()
    show = find(request, Show.objects.all(), pk=wanted.show) if wanted.show else None
    importer = importer_for(link)
    if isinstance(importer, WebLink):
        importer.check(link)  # told at once, not by a failed job
    name = PurePath(importer.name_of(link)).name[:255] or "Recording"
    title = PurePath(name).stem.replace("_", " ").replace("-", " ").strip() or name
    recording = Recording(workspace=workspace_of(request), show=show, title=title[:200], file_name=name, link=link)
    recording.folder.mkdir(parents=True)
    with transaction.atomic():
        recording.save()
        start_job(recording.workspace, PREPARE, recording.pk)
    return BroughtIn(id=recording.pk)


@router.post("/{recording_id}/words-file", response=BroughtIn)
def give_words(request: HttpRequest, recording_id: uuid.UUID, file: File[UploadedFile]) -> BroughtIn:
    """Use the words of an SRT, VTT or TXT file instead of recognising them."""
    recording = find(request, Recording.objects.all(), pk=recording_id)
    desk = Document.objects.filter(recording=recording, kind=Document.Kind.DESK).select_related("head").first()
    if Document.objects.filter(recording=recording, kind=Document.Kind.CLIP).exists() or (desk and desk.version > 1):
        raise Problem(
            409,
            "There are cuts, corrections or clips in this recording that hang on its present words. "
            "Bring the recording in once more, and give it these words there.",
        )
    name = file.name or ""
    data = file.read(LARGEST + 1)
    read_words(data, name)
    for job in Job.objects.filter(target=recording.pk, kind=TRANSCRIBE):
        cancel_job(job)
    for old in recording.folder.glob("given.*"):
        old.unlink()
    recording.folder.joinpath(f"given{Path(name).suffix.lower()}").write_bytes(data)
    with transaction.atomic():
        if desk:
            Document.objects.filter(pk=desk.pk).update(head=None)
            desk.delete()
        recording.stretches.all().delete()
        Recording.objects.filter(pk=recording.pk).update(
            transcript_json=None, words_version=F("words_version") + 1, word_count=0, speaker_names=[]
        )
        if (recording.folder / "speech.wav").exists():
            start_job(recording.workspace, TRANSCRIBE, recording.pk)
    return BroughtIn(id=recording.pk)
