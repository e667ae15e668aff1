"""Clips over HTTP: made of a passage, copied, dressed like one another."""

import uuid

from django.http import HttpRequest, HttpResponse
from ninja import Field, Router

from hovvet.core.sheet.copying import dressing_edit
from hovvet.server.accounts.access import find
from hovvet.server.documents.answers import DocumentOut, document_out
from hovvet.server.documents.changing import (
    apply_to_newest,
)
from hovvet.server.documents.making import copy_clip
from hovvet.server.documents.models import Document
from hovvet.server.documents.opening import documents, opened, sheet_of
from hovvet.server.recordings.models import Recording
from hovvet.server.schema import Schema
from hovvet.server.styles.house import make_dressed_clip
from hovvet.server.styles.models import NamedSettings
from hovvet.server.styles.named_settings import find_kept

router = Router(tags=["documents"])


class Dressing(Schema):
    """Parts of a clip's dressing to lay onto other clips."""

    parts: list[str] = Field(min_length=1, max_length=50)
    onto: list[uuid.UUID] = Field(min_length=1, max_length=20)


class ClipWanted(Schema):
    """The passage to make a clip of: ids of its first and last word; and the house style that it is dressed in ("": that of
    its show)."""

    first: int
    last: int
    house: str = ""


@router.post("/desk/{recording_id}/clips", response=DocumentOut)
def create_clip(request: HttpRequest, recording_id: uuid.UUID, wanted: ClipWanted) -> DocumentOut:
    """Make a clip of a passage."""
    recording = find(request, Recording.objects.all(), pk=recording_id)
    house = find_kept(request, NamedSettings.Kind.HOUSE, wanted.house) if wanted.house else None
    clip = make_dressed_clip(recording, wanted.first, wanted.last, request.user.pk, house)
    return document_out(opened(clip), request.user.pk)


@router.post("/{document_id}/copy", response=DocumentOut)
def copy_document(request: HttpRequest, document_id: uuid.UUID) -> DocumentOut:
    """Another clip, the same so far."""
    clip = find(request, documents().filter(kind=Document.Kind.CLIP), pk=document_id)
    return document_out(opened(copy_clip(clip)), request.user.pk)


@router.post("/{document_id}/dressing", response={204: None})
def lay_dressing(request: HttpRequest, document_id: uuid.UUID, given: Dressing) -> HttpResponse:
    """Lay parts of a clip's dressing onto other clips, each as one change that can be undone there."""
    clip = find(request, documents().filter(kind=Document.Kind.CLIP), pk=document_id)
    own = sheet_of(clip)
    for pk in dict.fromkeys(given.onto):
        other = find(request, documents().filter(kind=Document.Kind.CLIP), pk=pk)
        apply_to_newest(other, lambda sheet: dressing_edit(sheet, own, given.parts), request.user.pk)
    return HttpResponse(status=204)
