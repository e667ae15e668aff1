"""Recordings: the list, one recording, its words and its files."""

import shutil
import uuid
from datetime import datetime

from django.db.models import BooleanField, ExpressionWrapper, Prefetch, Q, QuerySet
from django.http import HttpRequest, HttpResponse, HttpResponseBase
from ninja import Field, Router, Schema

from hovvet.core.media.info import MediaInfo
from hovvet.core.words.layout import Paragraph, Pause, paragraphs, pauses
from hovvet.core.words.transcript import Speaker, Word
from hovvet.server.accounts.access import find, workspace_of
from hovvet.server.clips.models import Document
from hovvet.server.jobs.api import JobOut
from hovvet.server.jobs.models import Job
from hovvet.server.jobs.running import cancel_job, start_job
from hovvet.server.problems import Problem
from hovvet.server.ranges import ranged_file
from hovvet.server.recordings.loaded import corrected_of, transcript_at
from hovvet.server.recordings.models import Recording, Show
from hovvet.server.recordings.preparing import PREPARE, SPEAKERS, TRANSCRIBE
from hovvet.server.recordings.shows import move_to_show

router = Router(tags=["recordings"])

_FILES = {
    "working": ("working.mp4", "video/mp4"),
    "peaks": ("peaks.bin", "application/octet-stream"),
    "thumbs": ("thumbs.jpg", "image/jpeg"),
}


class ClipStretch(Schema):
    """A clip as it shows on the skyline: seconds of the recording."""

    id: uuid.UUID
    title: str
    start: float
    end: float


class RecordingOut(Schema):
    """One recording as the list shows it."""

    id: uuid.UUID
    title: str
    file_name: str
    created: datetime
    duration: float
    media: MediaInfo | None
    skyline: list[int]
    show: uuid.UUID | None
    size: int
    speakers: list[str]
    words: int
    words_ready: bool
    playable: bool
    notice: str
    jobs: list[JobOut]
    clips: list[ClipStretch]


class RecordingChange(Schema):
    """A new title, or another show (None for none); what is not given stays."""

    title: str | None = Field(default=None, min_length=1, max_length=200)
    show: uuid.UUID | None = None


class TranscriptOut(Schema):
    """The page to read. ``complete`` is False while words are still being found; ``heard`` is how far, in seconds.

    ``words_at`` tells at which correction it stands.
    """

    words_at: int
    complete: bool
    heard: float
    duration: float
    words: list[Word]
    paragraphs: list[Paragraph]
    pauses: list[Pause]
    speakers: list[Speaker]


def _out(recording: Recording, jobs: list[Job]) -> RecordingOut:
    media = recording.media
    clips = []
    for document in recording.clips:  # type: ignore[attr-defined] - prefetched
        piece = document.head.sheet["pieces"][0]
        clips.append(ClipStretch(id=document.pk, title=document.title, start=piece["start"], end=piece["end"]))
    return RecordingOut(
        id=recording.pk,
        title=recording.title,
        file_name=recording.file_name,
        created=recording.created,
        duration=media.duration if media else 0.0,
        media=media,
        skyline=recording.skyline,
        show=recording.show_id,
        size=recording.size,
        speakers=recording.speaker_names,
        words=recording.word_count,
        words_ready=recording.words_ready,  # type: ignore[attr-defined] - annotated
        playable=(recording.folder / "working.mp4").exists(),
        notice=recording.notice,
        jobs=[JobOut.from_orm(job) for job in jobs],
        clips=clips,
    )


def _with_clips(request: HttpRequest) -> list[Recording]:
    clips = Document.objects.filter(kind=Document.Kind.CLIP).select_related("head")
    return list(
        _rows()
        .filter(workspace=workspace_of(request))
        .prefetch_related(Prefetch("documents", queryset=clips, to_attr="clips"))
    )


def _rows() -> QuerySet[Recording]:
    """Recordings without their words, which may be many."""
    ready = ExpressionWrapper(Q(transcript_json__isnull=False), output_field=BooleanField())
    return Recording.objects.annotate(words_ready=ready)


def _latest_jobs(recordings: list[Recording]) -> dict[uuid.UUID, list[Job]]:
    """The newest job of each kind for each recording."""
    latest: dict[tuple[uuid.UUID, str], Job] = {}
    for job in Job.objects.filter(
        target__in=[each.pk for each in recordings], kind__in=(PREPARE, TRANSCRIBE, SPEAKERS)
    ):
        latest.setdefault((job.target, job.kind), job)
    found: dict[uuid.UUID, list[Job]] = {}
    for (target, _kind), job in latest.items():
        found.setdefault(target, []).append(job)
    return found


@router.get("", response=list[RecordingOut])
def list_recordings(request: HttpRequest) -> list[RecordingOut]:
    """All recordings of the workspace, newest first."""
    recordings = _with_clips(request)
    jobs = _latest_jobs(recordings)
    return [_out(recording, jobs.get(recording.pk, [])) for recording in recordings]


@router.get("/{recording_id}", response=RecordingOut)
def read_recording(request: HttpRequest, recording_id: uuid.UUID) -> RecordingOut:
    """One recording."""
    recording = find(request, _rows(), pk=recording_id)
    recording.clips = recording.documents.filter(kind=Document.Kind.CLIP).select_related("head")
    return _out(recording, _latest_jobs([recording]).get(recording.pk, []))


@router.patch("/{recording_id}", response=RecordingOut)
def change_recording(request: HttpRequest, recording_id: uuid.UUID, given: RecordingChange) -> RecordingOut:
    """Give a recording another title, or put it into another show. Its own names & terms go along into the show."""
    recording = find(request, Recording.objects.all(), pk=recording_id)
    if given.title is not None:
        recording.title = given.title
    if "show" in given.model_fields_set:
        move_to_show(recording, find(request, Show.objects.all(), pk=given.show) if given.show else None)
    recording.save(update_fields=["title", "show", "terms_json"])
    return read_recording(request, recording_id)


@router.delete("/{recording_id}", response={204: None})
def delete_recording(request: HttpRequest, recording_id: uuid.UUID) -> HttpResponse:
    """Delete a recording with its clips and files; its jobs are stopped."""
    recording = find(request, Recording.objects.all(), pk=recording_id)
    for job in Job.objects.filter(target=recording.pk):
        cancel_job(job)
    folder = recording.folder
    recording.delete()
    shutil.rmtree(folder, ignore_errors=True)
    return HttpResponse(status=204)


@router.post("/{recording_id}/prepare", response=RecordingOut)
def retry(request: HttpRequest, recording_id: uuid.UUID) -> RecordingOut:
    """Go on preparing a recording after it was cancelled or failed; finished stages are kept."""
    recording = find(request, Recording.objects.all(), pk=recording_id)
    if not recording.original.exists() and not recording.link:
        raise Problem(409, "The original file is gone, so this cannot be retried. Bring the recording in again.")
    start_job(recording.workspace, PREPARE, recording.pk)
    return read_recording(request, recording_id)


@router.get("/{recording_id}/transcript", response=TranscriptOut)
def read_transcript(request: HttpRequest, recording_id: uuid.UUID) -> HttpResponse:
    """The words of a recording, or as many as have been found so far."""
    recording = find(request, _rows(), pk=recording_id)
    at = None
    speakers: list[Speaker] = []
    complete = recording.words_ready  # type: ignore[attr-defined] - annotated
    if complete:
        at = corrected_of(recording)
        transcript = transcript_at(recording, at)
        words, heard, duration = list(transcript.words), transcript.duration, transcript.duration
        speakers = transcript.cast()
    else:
        found = list(recording.stretches.all())
        words = [Word.model_validate(word) for stretch in found for word in stretch.words]
        heard = found[-1].done if found else 0.0
        duration = recording.media.duration if recording.media else 0.0
    page = TranscriptOut(
        words_at=at or 0,
        complete=complete,
        heard=heard,
        duration=duration,
        words=words,
        paragraphs=paragraphs(words),
        pauses=pauses(words, heard),
        speakers=speakers,
    )
    # Written by pydantic itself: the general way takes a second for 20,000 words.
    return HttpResponse(page.model_dump_json(), content_type="application/json")


@router.get("/{recording_id}/files/{name}", response={200: None}, include_in_schema=False)
def read_file(request: HttpRequest, recording_id: uuid.UUID, name: str) -> HttpResponseBase:
    """A derived file: working, peaks or thumbs."""
    recording = find(request, Recording.objects.all(), pk=recording_id)
    if name not in _FILES:
        raise Problem(404, "There is no such file.")
    file, kind = _FILES[name]
    return ranged_file(request, recording.folder / file, kind)
