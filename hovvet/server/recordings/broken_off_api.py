"""What was broken off while it was being recorded: kept up to then, or thrown away."""

import uuid
from datetime import datetime

from django.http import HttpRequest, HttpResponse
from ninja import Router

from hovvet.server.accounts.access import find, user_of, visible_to
from hovvet.server.problems import Problem
from hovvet.server.recordings.api import BroughtIn
from hovvet.server.recordings.models import Upload
from hovvet.server.recordings.tus import LEAST_KEPT, finish
from hovvet.server.schema import Schema

router = Router(tags=["recordings"])

QUIET = 8.0  # seconds without anything new after which recording is taken for broken off


class BrokenOff(Schema):
    """Something that was being recorded."""

    id: uuid.UUID
    name: str
    """What it was to be called."""
    until: datetime
    """When it becomes a recording by itself."""
    seconds: float
    """About how much of it arrived."""
    script: uuid.UUID | None
    """What was read in it."""
    arrived: int
    """Bytes that are here."""


@router.get("", response=list[BrokenOff])
def list_broken_off(request: HttpRequest) -> list[BrokenOff]:
    """What the asker was recording when it was broken off."""
    rows = visible_to(request, Upload.objects.filter(length=None, user=user_of(request)))
    found = [each for each in rows if each.quiet > QUIET and each.offset > LEAST_KEPT]
    return [
        BrokenOff(
            id=each.pk,
            name=each.file_name,
            until=each.expires,
            seconds=each.sent,
            script=each.script,
            arrived=each.offset,
        )
        for each in found
    ]


@router.post("/{upload_id}", response=BroughtIn)
def keep_broken_off(request: HttpRequest, upload_id: uuid.UUID) -> BroughtIn:
    """Make a recording of what has arrived."""
    upload = find(request, Upload.objects.filter(length=None, user=user_of(request)), pk=upload_id)
    if upload.quiet <= QUIET:
        raise Problem(409, "This is still being recorded. Stop it where it is, then it is there.")
    if upload.offset <= LEAST_KEPT:
        raise Problem(409, "Too little of this has arrived to be kept.")
    return BroughtIn(id=finish(upload).pk)


@router.delete("/{upload_id}", response={204: None})
def throw_away(request: HttpRequest, upload_id: uuid.UUID) -> HttpResponse:
    """Forget it."""
    find(request, Upload.objects.filter(length=None, user=user_of(request)), pk=upload_id).delete()
    return HttpResponse(status=204)
