"""Recordings: the list, one recording, bringing in from a link, and the files made for the page."""

import uuid
from collections.abc import Sequence
from datetime import datetime
from pathlib import PurePath
from typing import Any

from django.db import transaction
from django.http import HttpRequest, HttpResponse, HttpResponseBase
from ninja import Field, Router

from hovvet.core.media.info import MediaInfo
from hovvet.core.media.naming import saved_name, title_of
from hovvet.core.sheet.contents.background import Background
from hovvet.core.sound.clearer import Strength, strength_of
from hovvet.core.text import SomeText
from hovvet.server.accounts.access import find, visible_to, workspace_of
from hovvet.server.changing import change_row
from hovvet.server.jobs.api import JobOut
from hovvet.server.jobs.models import Job, latest_jobs
from hovvet.server.jobs.running import start_job
from hovvet.server.problems import Problem
from hovvet.server.ranges import ranged_file
from hovvet.server.recordings.clearing import clear_soon
from hovvet.server.recordings.events import counted
from hovvet.server.recordings.links import checked_importer
from hovvet.server.recordings.models import Recording, Show
from hovvet.server.recordings.preparing import PREPARE
from hovvet.server.recordings.shows import move_to_show
from hovvet.server.schema import Schema

router = Router(tags=["recordings"])

_FILES = {
    "working": ("working.mp4", "video/mp4"),
    "peaks": ("peaks.bin", "application/octet-stream"),
    "thumbs": ("thumbs.jpg", "image/jpeg"),
}


class RecordingOut(Schema):
    """One recording as the list shows it. Its clips are listed at /clips."""

    id: uuid.UUID
    version: int
    """Of what a person can change of it; a change names the one it is made on."""
    title: str
    file_name: str
    """As it was brought in."""
    created: datetime
    """When it was brought in."""
    duration: float
    """Seconds."""
    media: MediaInfo | None
    """What its file holds; None until it was looked into."""
    skyline: list[int]
    """How loud it is over its length, 0 to 255."""
    show: uuid.UUID | None
    """The one it belongs to; None for none."""
    size: int
    """Bytes."""
    speakers: list[str]
    """Who is heard, by name."""
    words: int
    """How many were heard."""
    words_ready: bool
    """Whether all were."""
    hears: str
    """How carefully it is listened to."""
    language: str
    """In which it is listened to."""
    sounds_like: str
    """Another language than that, if it sounds like one."""
    passages: int
    """How many wait to be looked at."""
    playable: bool
    """Whether its working copy is ready."""
    clearer: Strength
    """How strongly its speech is made clearer."""
    background: Background | None
    """What its clips show in the place of the screen behind who speaks."""
    notice: str
    """What the person should know of it; "" for nothing."""
    jobs: list[JobOut]
    """What is under way for it, or went wrong."""


class RecordingChange(Schema):
    """A new title, another show (None for none), how strongly its speech is made clearer, or its background (None for what
    was filmed); what is not given stays. ``version`` is what it is made on."""

    version: int
    title: SomeText | None = Field(default=None, min_length=1, max_length=200)
    show: uuid.UUID | None = None
    clearer: Strength | None = None
    background: Background | None = None


class LinkWanted(Schema):
    """A link to fetch a recording from, and the show it belongs to, if any."""

    link: str = Field(min_length=1, max_length=2000)
    show: uuid.UUID | None = None


class BroughtIn(Schema):
    """The recording that came to be."""

    id: uuid.UUID


def recording_out(recording: Recording, jobs: list[Job], passages: int) -> RecordingOut:
    media = recording.media
    return RecordingOut(
        id=recording.pk,
        version=recording.version,
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
        words_ready=recording.words_ready,
        hears=recording.quality,
        language=recording.language,
        sounds_like=recording.sounds_like,
        passages=passages,
        playable=recording.playable,
        clearer=strength_of(recording.clearer),
        background=recording.background,
        notice=recording.notice,
        jobs=[JobOut.from_orm(job) for job in jobs],
    )


def _waiting_passages(recordings: list[Recording]) -> dict[uuid.UUID, int]:
    """How many passages of each recording wait to be looked at, where there are any."""
    answers: Sequence[tuple[object, Any]] = counted.send(Recording, recordings=recordings)
    return {pk: count for _, found in answers for pk, count in found.items()}


@router.get("", response=list[RecordingOut])
def list_recordings(request: HttpRequest) -> list[RecordingOut]:
    """All recordings of the workspace, newest first; without what stands on the Shelf and other cameras."""
    rows = visible_to(request, Recording.objects.filter(for_shelf=False, camera_only=False, voiced=False))
    recordings = list(rows.select_related("show"))
    jobs, passages = latest_jobs(each.pk for each in recordings), _waiting_passages(recordings)
    return [
        recording_out(recording, jobs.get(recording.pk, []), passages.get(recording.pk, 0)) for recording in recordings
    ]


@router.post("/links", response=BroughtIn)
def fetch_link(request: HttpRequest, wanted: LinkWanted) -> BroughtIn:
    """Bring in from a link; fetching is the first thing its preparation does."""
    link = wanted.link.strip()
    show = find(request, Show.objects.all(), pk=wanted.show) if wanted.show else None
    importer = checked_importer(link)
    name = saved_name(PurePath(importer.name_of(link)).name, "Recording")
    recording = Recording(workspace=workspace_of(request), show=show, title=title_of(name), file_name=name, link=link)
    recording.folder.mkdir(parents=True)
    with transaction.atomic():
        recording.save()
        start_job(recording.workspace, PREPARE, recording.pk)
    return BroughtIn(id=recording.pk)


@router.get("/{recording_id}", response=RecordingOut)
def read_recording(request: HttpRequest, recording_id: uuid.UUID) -> RecordingOut:
    """One recording."""
    recording = find(request, Recording.objects.all(), pk=recording_id)
    jobs, passages = latest_jobs([recording.pk]), _waiting_passages([recording])
    return recording_out(recording, jobs.get(recording.pk, []), passages.get(recording.pk, 0))


@router.patch("/{recording_id}", response=RecordingOut)
def change_recording(request: HttpRequest, recording_id: uuid.UUID, given: RecordingChange) -> RecordingOut:
    """Give a recording another title, or put it into another show. Its own names & terms go along into the show."""
    recording = find(request, Recording.objects.all(), pk=recording_id)
    with transaction.atomic():
        if "show" in given.model_fields_set:
            move_to_show(recording, find(request, Show.objects.all(), pk=given.show) if given.show else None)
        title = given.title or recording.title
        show, clearer = recording.show, given.clearer or recording.clearer
        behind = recording.background_json
        if "background" in given.model_fields_set:
            behind = given.background.model_dump(mode="json") if given.background else None
        change_row(
            recording, given.version, title=title, show=show, terms_json=recording.terms_json, clearer=clearer,
            background_json=behind,
        )  # fmt: skip
    clear_soon(recording, [given.clearer or "off"], again=True)
    return read_recording(request, recording_id)


@router.delete("/{recording_id}", response={204: None})
def delete_recording(request: HttpRequest, recording_id: uuid.UUID) -> HttpResponse:
    """Delete a recording with its desk and all files; its jobs are stopped. Clips that show it stay, without it."""
    find(request, Recording.objects.all(), pk=recording_id).delete()
    return HttpResponse(status=204)


@router.post("/{recording_id}/prepare", response=RecordingOut)
def retry(request: HttpRequest, recording_id: uuid.UUID) -> RecordingOut:
    """Go on preparing a recording after it was cancelled or failed; finished stages are kept."""
    recording = find(request, Recording.objects.all(), pk=recording_id)
    if not recording.original.exists() and not recording.link:
        raise Problem(409, "The original file is gone, so this cannot be retried. Bring the recording in again.")
    start_job(recording.workspace, PREPARE, recording.pk)
    return read_recording(request, recording_id)


@router.get("/{recording_id}/files/{name}", response={200: None}, include_in_schema=False)
def read_file(request: HttpRequest, recording_id: uuid.UUID, name: str) -> HttpResponseBase:
    """A derived file: working, peaks or thumbs."""
    recording = find(request, Recording.objects.all(), pk=recording_id)
    if name not in _FILES:
        raise Problem(404, "There is no such file.")
    file, kind = _FILES[name]
    return ranged_file(request, recording.folder / file, kind)
