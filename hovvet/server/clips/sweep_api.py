"""The sweep of a document over HTTP: looking through, hearing, taking out."""

import uuid
from collections.abc import Iterable, Iterator

from django.http import HttpRequest
from ninja import Field, Router, Schema

from hovvet.core.plan.model import Plan
from hovvet.core.sheet.edits import Batch, Edit, apply
from hovvet.core.sheet.model import Piece
from hovvet.core.sweep.finds import Find, FindKind, Finds
from hovvet.core.sweep.review import Reviewed, counted, key_of, review, still_open, with_earlier_kept, worth_taking
from hovvet.core.sweep.settings import DEFAULT_KINDS, SweepSettings
from hovvet.core.sweep.sweep import ALL_KINDS, sweep, sweep_edit
from hovvet.server.clips.api import DocumentOut, Newer, changed, find_document
from hovvet.server.clips.documents import apply_edit, plan_of, sheet_of
from hovvet.server.clips.models import Document
from hovvet.server.clips.transcripts import silences_of, source_of

router = Router(tags=["sweep"])


class Finding(Schema):
    """What to take of the finds: these kinds, without some, or nothing but some (by key).

    ``instead`` names retakes of which the later take goes.
    """

    kinds: list[FindKind] = list(DEFAULT_KINDS)
    leave: list[str] = Field(default=[], max_length=20_000)
    only: list[str] | None = Field(default=None, max_length=20_000)
    instead: list[str] = Field(default=[], max_length=2_000)


class SweepWanted(Finding):
    """What to sweep for, on a version of the document."""

    version: int


class SweepSeen(Schema):
    """How a document would be played if a sweep were made, how long it would be, and how many finds would go."""

    seconds: float
    count: int
    plan: Plan


class SweepDone(Schema):
    """What the sweep took out: how many of each kind, and the seconds saved."""

    counts: dict[FindKind, int]
    saved: float
    document: DocumentOut


def _settings(document: Document, kinds: Iterable[FindKind]) -> SweepSettings:
    return document.recording.defaults.sweep.model_copy(update={"kinds": frozenset(kinds)})


def _open_finds(document: Document, settings: SweepSettings) -> Iterator[tuple[Piece, Finds]]:
    """What a sweep finds in each piece of a document and what would still save something."""
    transcript = source_of(document.recording).transcript
    finds = sweep(transcript, silences_of(document.recording), settings)
    for piece in sheet_of(document).pieces:
        yield piece, worth_taking(still_open(finds, piece), piece, transcript, settings)


def _swept(document: Document, wanted: Finding) -> tuple[Finds, Edit]:
    """The finds that are wanted, and the edit that takes them out."""
    settings = _settings(document, wanted.kinds)
    transcript = source_of(document.recording).transcript
    taken: list[Find] = []
    edits: list[Edit] = []
    for piece, found in _open_finds(document, settings):
        finds = worth_taking(_chosen(found, wanted), piece, transcript, settings)
        taken += finds.finds
        edits.append(sweep_edit(piece, transcript, finds, settings))
    return Finds(finds=tuple(taken)), Batch(edits=tuple(edits))


def _chosen(finds: Finds, wanted: Finding) -> Finds:
    leave, only = frozenset(wanted.leave), None if wanted.only is None else frozenset(wanted.only)
    taken = tuple(each for each in finds.finds if (key := key_of(each)) not in leave and (only is None or key in only))
    return with_earlier_kept(finds.model_copy(update={"finds": taken}), frozenset(wanted.instead))


@router.get("/{document_id}/finds", response=list[Reviewed])
def list_finds(request: HttpRequest, document_id: uuid.UUID) -> list[Reviewed]:
    """All that a sweep finds in a document and that is not cut yet, to go through one by one."""
    document = find_document(request, document_id)
    settings = _settings(document, ALL_KINDS)
    transcript = source_of(document.recording).transcript
    looked = _open_finds(document, settings)
    return [each for piece, finds in looked for each in review(finds, piece, transcript, settings)]


@router.post("/{document_id}/sweep/preview", response=SweepSeen)
def preview_sweep(request: HttpRequest, document_id: uuid.UUID, wanted: Finding) -> SweepSeen:
    """How a document would be played if these finds were taken out. Nothing is changed."""
    document = find_document(request, document_id)
    finds, edit = _swept(document, wanted)
    plan = plan_of(document, apply(sheet_of(document), edit))
    return SweepSeen(seconds=plan.seconds, count=len(finds.finds), plan=plan)


@router.post("/{document_id}/sweep", response={200: SweepDone, 409: Newer})
def sweep_document(request: HttpRequest, document_id: uuid.UUID, wanted: SweepWanted) -> tuple[int, SweepDone | Newer]:
    """Take out what a sweep finds, as one edit."""
    document = find_document(request, document_id)
    before = plan_of(document, sheet_of(document)).seconds
    finds, edit = _swept(document, wanted)
    status, answer = changed(request, document, lambda: apply_edit(document, wanted.version, edit, request.user.pk))
    if isinstance(answer, Newer):
        return status, answer
    return 200, SweepDone(counts=counted(finds, wanted.kinds), saved=round(before - answer.seconds, 2), document=answer)
