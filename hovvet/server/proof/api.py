"""The proof over HTTP: what is wrong with an edition of a clip, and what is left as it is."""

import uuid
from datetime import datetime

from django.http import HttpRequest, HttpResponse
from ninja import Field, Router

from hovvet.core.proof.checks import CHECKS
from hovvet.core.proof.fault import Fault
from hovvet.core.proof.proofing import proof
from hovvet.core.text import SomeText
from hovvet.server.accounts.access import find, user_of
from hovvet.server.documents.models import Document
from hovvet.server.documents.opening import documents, opened
from hovvet.server.posts.shelf_used import credits_of
from hovvet.server.posts.writing import text_of
from hovvet.server.problems import Problem
from hovvet.server.proof.models import LeftAsItIs
from hovvet.server.proof.proving import looked
from hovvet.server.schema import Schema

router = Router(tags=["proof"])


class LeftOut(Schema):
    """Who left a fault as it is, why, and when."""

    who: str
    """"" for somebody who is no longer here."""
    why: str
    when: datetime


class FaultOut(Fault):
    """A fault, and whether somebody left it as it is."""

    left: LeftOut | None = None
    """None while it is open."""


class ProofOut(Schema):
    """All that is wrong with an edition of a clip."""

    edition: str
    """By id."""
    version: int
    """Of the clip."""
    faults: list[FaultOut]
    """The worst first."""
    of_file: bool
    """Whether the finished file of it was looked at and listened to."""


class Leaving(Schema):
    """Which fault is left as it is, and why."""

    key: SomeText = Field(max_length=200)
    """Of the fault."""
    why: str = Field(default="", max_length=200)
    """In a person's own words."""


def _clip(request: HttpRequest, document_id: uuid.UUID) -> Document:
    return find(request, documents().filter(kind=Document.Kind.CLIP), pk=document_id)


@router.get("/{document_id}/proof", response=ProofOut)
def read_proof(request: HttpRequest, document_id: uuid.UUID, edition: str | None = None) -> ProofOut:
    """What is wrong with an edition (the first, unless it is told): what needs no drawing is looked at anew, what does as of
    its finished file, while that is of the clip as it stands."""
    now = opened(_clip(request, document_id), edition)
    post = text_of(now.document, now.edition.id).value
    seen = looked(now, "" if post.is_empty else post.written(credits_of(now.document.workspace, now.plan)))
    left = {each.key: each for each in now.document.left_as_it_is.select_related("who")}
    return ProofOut(
        edition=now.edition.id,
        version=now.document.version,
        faults=[_out(fault, left.get(fault.key)) for fault in proof(seen)],
        of_file=seen.file is not None,
    )


def _out(fault: Fault, left: LeftAsItIs | None) -> FaultOut:
    own = dict(fault)
    if left is None or fault.gravity == "stops":
        return FaultOut(**own)
    return FaultOut(**own, left=LeftOut(who=left.who.get_username() if left.who else "", why=left.why, when=left.when))


@router.post("/{document_id}/proof/left", response={204: None})
def leave(request: HttpRequest, document_id: uuid.UUID, given: Leaving) -> HttpResponse:
    """Leave a fault as it is."""
    document = _clip(request, document_id)
    if CHECKS.get(given.key.partition(":")[0]) is None:
        raise Problem(422, "There is no such fault. Look at the proof again.")
    if CHECKS[given.key.partition(":")[0]].gravity == "stops":
        raise Problem(409, "This cannot be left: what may not be shown keeps the clip from being exported.")
    LeftAsItIs.objects.update_or_create(
        document=document, key=given.key, defaults={"why": given.why.strip(), "who": user_of(request)}
    )
    return HttpResponse(status=204)


@router.delete("/{document_id}/proof/left", response={204: None})
def look_again(request: HttpRequest, document_id: uuid.UUID, key: str) -> HttpResponse:
    """Take up a fault again that was left as it is."""
    _clip(request, document_id).left_as_it_is.filter(key=key).delete()
    return HttpResponse(status=204)
