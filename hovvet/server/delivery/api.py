"""Exports over HTTP, and the clips of a workspace with the state of theirs."""

import json
import uuid
from collections.abc import Sequence
from datetime import date, datetime

from django.http import HttpRequest, HttpResponse, HttpResponseBase
from ninja import Field, Router

from hovvet.core.formats.said import SaidParagraph, said
from hovvet.core.formats.subtitles import SUBTITLES
from hovvet.core.plan.upgrade import read_plan
from hovvet.core.proof.thresholds import WATCHED
from hovvet.core.render.output import TYPES, Output, bits_for_pixels, bits_like, expected_bytes
from hovvet.core.value import Naming
from hovvet.server.accounts.access import find, user_of, workspace_of
from hovvet.server.delivery.beginning import begin_exports, checked
from hovvet.server.delivery.comparing import State, compare_soon, is_current, job_states, newest_in, state_of
from hovvet.server.delivery.exporting import EXPORT
from hovvet.server.delivery.made import ClipNow, Made
from hovvet.server.delivery.models import Export
from hovvet.server.delivery.naming import file_name
from hovvet.server.documents.listing import ShownStretch, listing_of
from hovvet.server.documents.models import Document
from hovvet.server.documents.opening import documents, sheet_of
from hovvet.server.documents.sources import as_uuid
from hovvet.server.documents.stamps import stamps_of
from hovvet.server.files import room
from hovvet.server.jobs.api import JobOut
from hovvet.server.jobs.models import Job
from hovvet.server.jobs.running import start_job
from hovvet.server.problems import Problem
from hovvet.server.proof.proving import stops_of
from hovvet.server.ranges import ranged_file
from hovvet.server.recordings.models import Recording
from hovvet.server.schema import Schema

router = Router(tags=["exports"])
_MADE_OF = 3  # times its size that a file takes while it is made: its chunks, its sound before it is encoded, itself


class WatchedOut(Schema):
    """Somebody who has watched an export to its end."""

    who: str
    when: datetime


class Watching(Schema):
    """How much of an export was played."""

    seconds: float = Field(ge=0)
    """Of it, each counted once."""


class ExportOut(Schema):
    """An export, made or on its way."""

    id: uuid.UUID
    edition: str
    """By id."""
    outlet: str
    """By key."""
    outlet_name: str
    """What it was called then."""
    output: Output
    """What kind of file."""
    created: datetime
    seconds: float
    """Its length."""
    width: int
    """Pixels."""
    height: int
    """Pixels."""
    bytes: int
    """Of the main file; 0 until it is there."""
    ready: bool
    """Whether its files are there."""
    lufs: float | None
    """Its loudness, measured of the file."""
    peak: float | None
    """Its true peak in dBTP, measured of the file."""
    captions: list[str]
    """The kinds of caption files beside the main one."""
    current: bool
    """Whether the edition, its words included, is still as it was."""
    watched: list[WatchedOut]
    """Who has watched it to the end."""
    job: JobOut | None
    """What makes it."""


class ExportsWanted(Schema):
    """Which editions to export, and as what kind of file. Each becomes a job of its own."""

    editions: list[str] = Field(min_length=1, max_length=24)
    output: Output = Output()


class Expected(Schema):
    """What an export of an edition would be."""

    edition: str
    """By id."""
    width: int
    """Pixels."""
    height: int
    """Pixels."""
    bytes: int
    """About how many."""
    stops: list[str]
    """What keeps it from being exported."""


class ClipOut(Schema):
    """A clip as lists show it: its stretches, and how far its newest export is."""

    id: uuid.UUID
    title: str
    stretches: list[ShownStretch]
    export: State


def exports_out(rows: Sequence[Export], clip: ClipNow) -> list[ExportOut]:
    """Exports of a clip as the page takes them."""
    if not rows:
        return []
    stamp = stamps_of([clip.document])[clip.document.pk]
    jobs: dict[uuid.UUID, Job] = {}
    for job in Job.objects.filter(kind=EXPORT, target__in=[row.pk for row in rows]):
        jobs.setdefault(job.target, job)
    return [_export_out(row, jobs.get(row.pk), is_current(row, stamp, clip)) for row in rows]


def _export_out(row: Export, job: Job | None, current: bool) -> ExportOut:
    file = row.main
    ready = file.exists()
    return ExportOut(
        id=row.pk,
        edition=row.edition,
        outlet=row.outlet,
        outlet_name=row.name,
        output=row.output,
        created=row.created,
        seconds=row.seconds,
        width=row.plan["width"],
        height=row.plan["height"],
        bytes=file.stat().st_size if ready else 0,
        ready=ready,
        lufs=row.lufs,
        peak=row.peak,
        captions=[kind for kind in SUBTITLES if row.file(kind).exists()],
        current=current,
        watched=[WatchedOut(who=each.who.get_username(), when=each.when) for each in row.watched.all()],
        job=JobOut.from_orm(job) if job else None,
    )


@router.get("/documents/{document_id}/exports", response=list[ExportOut])
def list_exports(request: HttpRequest, document_id: uuid.UUID) -> list[ExportOut]:
    """All exports of a clip, newest first."""
    document = find(request, documents(), pk=document_id)
    return exports_out(list(document.exports.prefetch_related("watched__who")), ClipNow(document))


@router.post("/documents/{document_id}/exports", response=list[ExportOut])
def start_exports(request: HttpRequest, document_id: uuid.UUID, wanted: ExportsWanted) -> list[ExportOut]:
    """Export editions of a clip as they stand. What is asked for twice is made once."""
    document = find(request, documents().filter(kind=Document.Kind.CLIP), pk=document_id)
    clip = ClipNow(document)
    editions = list(dict.fromkeys(wanted.editions))
    found = {edition: checked(document, clip.made(edition, wanted.output)) for edition in editions}
    _check_space(sum(_expected(document, made, wanted.output) for made in found.values()))
    return exports_out(begin_exports(document, found, wanted.output), clip)


def _check_space(needed: int) -> None:
    """Raises Problem where the disk has no room for files of so many bytes, and for the chunks they are made of."""
    if room() < _MADE_OF * needed:
        raise Problem(
            507, "There is not enough free space on the server's disk for this. Free some, then export again."
        )


@router.post("/documents/{document_id}/exports/expected", response=list[Expected])
def expect_exports(request: HttpRequest, document_id: uuid.UUID, wanted: ExportsWanted) -> list[Expected]:
    """How large the files would be, about: by what this clip took before, where that is known."""
    document = find(request, documents().filter(kind=Document.Kind.CLIP), pk=document_id)
    clip = ClipNow(document)
    expected = []
    for edition in dict.fromkeys(wanted.editions):
        made = clip.made(edition, wanted.output)
        if made is not None:
            size = _expected(document, made, wanted.output)
            outlet, stops = made.outlet, stops_of(document, made.looked)
            expected.append(
                Expected(edition=edition, width=outlet.width, height=outlet.height, bytes=size, stops=stops)
            )
    return expected


def _expected(document: Document, made: Made, output: Output) -> int:
    """The bytes of a file, about."""
    plan = made.plan
    return expected_bytes(output, made.outlet, plan.rate.fps, plan.seconds, _bits_before(document, output))


def _bits_before(document: Document, output: Output) -> float | None:
    """Bits for a million pixels that the newest export of this kind took, or else is likely to."""
    for row in document.exports.all():
        if row.output.kind == output.kind and row.output.quality == output.quality and row.main.exists():
            pixels = row.plan["width"] * row.plan["height"] * row.plan["frames"]
            return bits_for_pixels(
                output, row.main.stat().st_size, pixels, row.plan["samples"] / row.plan["sample_rate"]
            )
    ids = [pk for key in sheet_of(document).recordings if (pk := as_uuid(key)) is not None]
    for recording in Recording.objects.filter(workspace=document.workspace_id, pk__in=ids):
        if recording.media and recording.media.has_picture and recording.working.exists():
            return bits_like(output, recording.working.stat().st_size, recording.media)
    return None


@router.get("/clips", response=list[ClipOut])
def list_clips(request: HttpRequest) -> HttpResponse:
    """All clips of the workspace, in the order they were made. Written as it is kept: every page asks for it, often."""
    workspace = workspace_of(request)
    clips = Document.objects.filter(workspace=workspace, kind=Document.Kind.CLIP)
    rows = list(clips.values_list("pk", "title", "version", "head_id", "listed_json"))
    newest = newest_in(workspace)
    exported = [
        Document(pk=pk, version=version, head_id=head, workspace=workspace)
        for pk, _, version, head, _ in rows
        if pk in newest
    ]
    stamps = stamps_of(exported)
    jobs = job_states(workspace)
    if any(newest[pk].stamp != stamp for pk, stamp in stamps.items()):
        compare_soon(workspace)
    listed = [
        {
            "id": str(pk),
            "title": title,
            "stretches": (shown or listing_of(clips.get(pk=pk)).model_dump())["stretches"],
            "export": state_of(newest[pk], stamps[pk], jobs.get(newest[pk].pk)) if pk in newest else "none",
        }
        for pk, title, _, _, shown in rows
    ]
    return HttpResponse(json.dumps(listed), content_type="application/json")


@router.post("/exports/{export_id}/retry", response=ExportOut)
def retry_export(request: HttpRequest, export_id: uuid.UUID) -> ExportOut:
    """Try an export again that failed or was cancelled."""
    row = find(request, Export.objects.all(), pk=export_id)
    start_job(row.workspace, EXPORT, row.pk)
    return exports_out([row], ClipNow(documents().get(pk=row.document_id)))[0]


@router.get("/exports/{export_id}/words", response=list[SaidParagraph])
def read_words(request: HttpRequest, export_id: uuid.UUID) -> list[SaidParagraph]:
    """What is heard in an export, to run along with it."""
    return said(read_plan(find(request, Export.objects.all(), pk=export_id).plan))


@router.post("/exports/{export_id}/watched", response=ExportOut)
def watched(request: HttpRequest, export_id: uuid.UUID, given: Watching) -> ExportOut:
    """Note that somebody has watched an export; it counts once they have seen it to the end."""
    row = find(request, Export.objects.all(), pk=export_id)
    if given.seconds >= WATCHED * row.seconds:
        row.watched.update_or_create(who=user_of(request))
    return exports_out([row], ClipNow(documents().get(pk=row.document_id)))[0]


@router.delete("/exports/{export_id}", response={204: None})
def delete_export(request: HttpRequest, export_id: uuid.UUID) -> HttpResponse:
    """Delete an export and its files; the clip stays."""
    find(request, Export.objects.all(), pk=export_id).delete()
    return HttpResponse(status=204)


def _file_name(row: Export, kind: str, pattern: str) -> str:
    """What a file is called: by a pattern ("": that of the clip's house style, or the usual one)."""
    worn = sheet_of(row.document).house if not pattern else None
    return file_name(
        pattern or (worn.naming if worn else ""), kind, row.document.title, row.name, row.seconds, date.today()
    )


@router.get("/exports/{export_id}/files/{kind}", response={200: None}, include_in_schema=False)
def read_export_file(
    request: HttpRequest,
    export_id: uuid.UUID,
    kind: str,
    save: bool = False,
    pattern: Naming = "",
) -> HttpResponseBase:
    """The file that was made, or its captions; ``save`` sends it as a download, named by a pattern ("": that of the clip's
    house style, or the usual one)."""
    row = find(request, Export.objects.select_related("document__head", "document__workspace"), pk=export_id)
    if kind not in TYPES or kind not in (row.output.kind, *SUBTITLES) or not row.file(kind).exists():
        raise Problem(404, f"There is no such file. Choose {row.output.kind}, {', '.join(SUBTITLES)}.")
    return ranged_file(request, row.file(kind), TYPES[kind], _file_name(row, kind, pattern) if save else None)
