"""Packages over HTTP: asked for, watched, fetched."""

import uuid
from datetime import datetime

from django.http import HttpRequest, HttpResponse, HttpResponseBase
from ninja import Router

from hovvet.core.formats.package import PARTS
from hovvet.server.accounts.access import find, workspace_of
from hovvet.server.delivery.models import Package
from hovvet.server.delivery.packing import PACK, Packing
from hovvet.server.documents.models import Document
from hovvet.server.jobs.api import JobOut
from hovvet.server.jobs.models import Job
from hovvet.server.jobs.running import start_job
from hovvet.server.problems import Problem
from hovvet.server.ranges import ranged_file
from hovvet.server.schema import Schema

router = Router(tags=["packages"])


class PackageOut(Schema):
    """A package, made or on its way."""

    id: uuid.UUID
    created: datetime
    ready: bool
    """Whether it can be fetched."""
    bytes: int
    """Its size; 0 until it is there."""
    left_out: list[str]
    """What is missing in it, and why."""
    job: JobOut | None
    """What makes it."""


def _out(row: Package) -> PackageOut:
    job = Job.objects.filter(kind=PACK, target=row.pk).first()
    ready = row.file.exists()
    return PackageOut(
        id=row.pk,
        created=row.created,
        ready=ready,
        bytes=row.file.stat().st_size if ready else 0,
        left_out=row.left_out_json,
        job=JobOut.from_orm(job) if job else None,
    )


@router.post("", response=PackageOut)
def begin_package(request: HttpRequest, wanted: Packing) -> PackageOut:
    """Pack what goes with clips."""
    workspace = workspace_of(request)
    if unknown := [each for each in wanted.parts if each not in PARTS]:
        raise Problem(422, f"A package has no part “{unknown[0]}”. Choose among: {', '.join(PARTS)}.")
    own = Document.objects.filter(workspace=workspace, kind=Document.Kind.CLIP, pk__in=wanted.clips).count()
    if own < len(set(wanted.clips)):
        raise Problem(404, "One of these clips does not exist, or it has been deleted.")
    row = Package.objects.create(workspace=workspace, wanted_json=wanted.model_dump(mode="json"))
    start_job(workspace, PACK, row.pk)
    return _out(row)


@router.get("/{package_id}", response=PackageOut)
def read_package(request: HttpRequest, package_id: uuid.UUID) -> PackageOut:
    """How far it is."""
    return _out(find(request, Package.objects.all(), pk=package_id))


@router.post("/{package_id}/retry", response=PackageOut)
def retry_package(request: HttpRequest, package_id: uuid.UUID) -> PackageOut:
    """Try one again that failed or was cancelled."""
    row = find(request, Package.objects.all(), pk=package_id)
    start_job(row.workspace, PACK, row.pk)
    return _out(row)


@router.delete("/{package_id}", response={204: None})
def delete_package(request: HttpRequest, package_id: uuid.UUID) -> HttpResponse:
    """Delete one and its file."""
    find(request, Package.objects.all(), pk=package_id).delete()
    return HttpResponse(status=204)


@router.get("/{package_id}/package.zip", response={200: None}, include_in_schema=False)
def fetch_package(request: HttpRequest, package_id: uuid.UUID) -> HttpResponseBase:
    """The file, or the part of it that is asked for: a download that was broken off goes on where it was."""
    row = find(request, Package.objects.all(), pk=package_id)
    titles = Document.objects.filter(pk__in=row.wanted_json["clips"]).values_list("title", flat=True)
    name = titles[0] if len(titles) == 1 else f"{len(titles)} clips"
    return ranged_file(request, row.file, "application/zip", f"{name}.zip")
