"""Exports over HTTP, and the clips of a workspace with the state of theirs."""

import uuid
from datetime import datetime
from typing import Literal

from django.db import transaction
from django.db.models import Prefetch
from django.http import HttpRequest, HttpResponse, HttpResponseBase
from ninja import Router, Schema

from hovvet.core.errors import CoreError
from hovvet.core.plan.outlets import outlet_name
from hovvet.server.accounts.access import find, workspace_of
from hovvet.server.clips.documents import documents, opened, plan_of, sheet_of
from hovvet.server.clips.models import Document
from hovvet.server.delivery.exporting import EXPORT
from hovvet.server.delivery.models import Export
from hovvet.server.jobs.api import JobOut
from hovvet.server.jobs.models import Job
from hovvet.server.jobs.running import start_job
from hovvet.server.problems import Problem
from hovvet.server.ranges import ranged_file

router = Router(tags=["exports"])

_KINDS = {"mp4": "video/mp4", "srt": "application/x-subrip", "vtt": "text/vtt"}


class ExportOut(Schema):
    """``ready`` once the files are there; ``current`` while the clip, its words included, has not changed since."""

    id: uuid.UUID
    outlet: str
    outlet_name: str
    created: datetime
    seconds: float
    bytes: int
    ready: bool
    current: bool
    job: JobOut | None


class ClipOut(Schema):
    """A clip as lists show it: its stretches, in seconds of its recording, and how far its newest export is."""

    id: uuid.UUID
    recording: uuid.UUID
    title: str
    stretches: list[tuple[float, float]]
    export: Literal["none", "waiting", "failed", "ready", "changed"]


def export_out(row: Export, now: str) -> ExportOut:
    """An export as the page takes it; ``now`` is the fingerprint of what the clip would be today."""
    job = Job.objects.filter(kind=EXPORT, target=row.pk).first()
    file = row.file("mp4")
    ready = file.exists()
    return ExportOut(
        id=row.pk,
        outlet=row.outlet,
        outlet_name=outlet_name(row.outlet),
        created=row.created,
        seconds=row.plan["samples"] / row.plan["sample_rate"],
        bytes=file.stat().st_size if ready else 0,
        ready=ready,
        current=row.digest == now,
        job=JobOut.from_orm(job) if job else None,
    )


@router.get("/documents/{document_id}/exports", response=list[ExportOut])
def list_exports(request: HttpRequest, document_id: uuid.UUID) -> list[ExportOut]:
    """All exports of a clip, newest first."""
    document = find(request, documents(), pk=document_id)
    return [export_out(row, _digest(document, row.outlet)) for row in document.exports.all()]


@router.post("/documents/{document_id}/exports", response=ExportOut)
def start_export(request: HttpRequest, document_id: uuid.UUID) -> ExportOut:
    """Export a clip as it stands, for the outlet it is set to. Asked for twice, it is made once."""
    document = find(request, documents().filter(kind=Document.Kind.CLIP), pk=document_id)
    now = opened(document)
    if now.plan.frames == 0:
        raise Problem(422, "Nothing is left to export: every word of this clip is cut. Bring some back first.")
    with transaction.atomic():
        row, _ = Export.objects.get_or_create(
            document=document,
            outlet=now.sheet.outlet,
            digest=now.plan.digest,
            defaults={
                "workspace": document.workspace,
                "version": document.version,
                "plan": now.plan.model_dump(mode="json"),
            },
        )
        if not row.file("mp4").exists():
            start_job(row.workspace, EXPORT, row.pk)
    return export_out(row, now.plan.digest)


@router.get("/clips", response=list[ClipOut])
def list_clips(request: HttpRequest) -> list[ClipOut]:
    """All clips of the workspace, in the order they were made."""
    newest = Prefetch("exports", Export.objects.defer("plan"))
    clips = documents().filter(workspace=workspace_of(request), kind=Document.Kind.CLIP)
    return [_clip(clip) for clip in clips.prefetch_related(newest)]


def _digest(clip: Document, key: str) -> str:
    """The fingerprint of a clip as it is now, for an outlet; none while that cannot be told."""
    try:
        sheet = sheet_of(clip).model_copy(update={"outlet": key})
        return plan_of(clip, sheet).digest
    except (CoreError, Problem):
        return ""


def _clip(clip: Document) -> ClipOut:
    return ClipOut(
        id=clip.pk,
        recording=clip.recording_id,
        title=clip.title,
        stretches=[(piece.start, piece.end) for piece in sheet_of(clip).pieces],
        export=_state(clip),
    )


def _state(clip: Document) -> Literal["none", "waiting", "failed", "ready", "changed"]:
    newest = next(iter(clip.exports.all()), None)
    if newest is None:
        return "none"
    if newest.file("mp4").exists():
        return "ready" if newest.digest == _digest(clip, newest.outlet) else "changed"
    job = Job.objects.filter(kind=EXPORT, target=newest.pk).first()
    return "waiting" if job and job.active else "failed"


@router.post("/exports/{export_id}/retry", response=ExportOut)
def retry_export(request: HttpRequest, export_id: uuid.UUID) -> ExportOut:
    """Try an export again that failed or was cancelled."""
    row = find(request, Export.objects.all(), pk=export_id)
    start_job(row.workspace, EXPORT, row.pk)
    return export_out(row, _digest(documents().get(pk=row.document_id), row.outlet))


@router.delete("/exports/{export_id}", response={204: None})
def delete_export(request: HttpRequest, export_id: uuid.UUID) -> HttpResponse:
    """Delete an export and its files; the clip stays."""
    find(request, Export.objects.all(), pk=export_id).delete()
    return HttpResponse(status=204)


@router.get("/exports/{export_id}/files/{kind}", response={200: None}, include_in_schema=False)
def read_export_file(request: HttpRequest, export_id: uuid.UUID, kind: str, save: bool = False) -> HttpResponseBase:
    """The MP4, SRT or VTT; ``save`` sends it as a download."""
    row = find(request, Export.objects.select_related("document"), pk=export_id)
    if kind not in _KINDS:
        raise Problem(404, "There is no such file. Choose mp4, srt or vtt.")
    name = f"{row.document.title} - {outlet_name(row.outlet)}.{kind}" if save else None
    return ranged_file(request, row.file(kind), _KINDS[kind], name)
