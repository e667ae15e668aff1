"""The sweep of a document over HTTP: looking through, hearing, taking out."""

import uuid
from collections.abc import Iterable, Iterator
from dataclasses import dataclass

from django.http import HttpRequest
from ninja import Field, Router

from hovvet.core.plan.model import Plan
from hovvet.core.sheet.applying import apply
from hovvet.core.sheet.edits import Batch, Edit
from hovvet.core.sheet.model import Piece
from hovvet.core.sweep.finds import Find, FindKind, Finds
from hovvet.core.sweep.review import Reviewed, counted, key_of, review, still_open, with_earlier_kept, worth_taking
from hovvet.core.sweep.settings import DEFAULT_KINDS, SweepSettings
from hovvet.core.sweep.sweep import ALL_KINDS, sweep, sweep_edit
from hovvet.core.value import with_changes
from hovvet.core.words.transcript import Transcript
from hovvet.server.documents.answers import DocumentOut, Newer, changed
from hovvet.server.documents.api import find_document
from hovvet.server.documents.changing import apply_edit
from hovvet.server.documents.opening import Opened, compiled, opened
from hovvet.server.documents.transcripts import silences_of
from hovvet.server.schema import Schema

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
    edition: str | None = None


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


@dataclass(frozen=True)
class _Looked:
    """What a sweep finds in a piece, by the settings of its recording, and would still save something."""

    piece: Piece
    transcript: Transcript
    settings: SweepSettings
    finds: Finds


def _looked(now: Opened, kinds: Iterable[FindKind]) -> Iterator[_Looked]:
    """A look through each piece of a document."""
    found: dict[str, tuple[Finds, SweepSettings]] = {}
    for piece in now.sheet.pieces:
        key = piece.recording
        if key is None or key not in now.sources.sources:
            continue
        transcript = now.sources.sources[key].transcript
        if key not in found:
            recording = now.sources.recordings[key]
            settings = with_changes(recording.defaults.sweep, kinds=frozenset(kinds))
            found[key] = sweep(transcript, silences_of(recording), settings), settings
        finds, settings = found[key]
        taken = worth_taking(still_open(finds, piece), piece, transcript, settings)
        yield _Looked(piece, transcript, settings, taken)


def _swept(now: Opened, wanted: Finding) -> tuple[Finds, Edit]:
    """The finds that are wanted, and the edit that takes them out."""
    taken: list[Find] = []
    edits: list[Edit] = []
    for each in _looked(now, wanted.kinds):
        finds = worth_taking(_chosen(each.finds, wanted), each.piece, each.transcript, each.settings)
        taken += finds.finds
        edits.append(sweep_edit(each.piece, each.transcript, finds, each.settings))
    return Finds(finds=tuple(taken)), Batch(edits=tuple(edits))


def _chosen(finds: Finds, wanted: Finding) -> Finds:
    leave, only = frozenset(wanted.leave), None if wanted.only is None else frozenset(wanted.only)
    taken = tuple(each for each in finds.finds if (key := key_of(each)) not in leave and (only is None or key in only))
    return with_earlier_kept(with_changes(finds, finds=taken), frozenset(wanted.instead))


@router.get("/{document_id}/finds", response=list[Reviewed])
def list_finds(request: HttpRequest, document_id: uuid.UUID) -> list[Reviewed]:
    """All that a sweep finds in a document and that is not cut yet, to go through one by one."""
    now = opened(find_document(request, document_id))
    return [
        find
        for each in _looked(now, ALL_KINDS)
        for find in review(each.finds, each.piece, each.transcript, each.settings)
    ]


@router.post("/{document_id}/sweep/preview", response=SweepSeen)
def preview_sweep(request: HttpRequest, document_id: uuid.UUID, wanted: Finding) -> SweepSeen:
    """How a document would be played if these finds were taken out. Nothing is changed."""
    now = opened(find_document(request, document_id))
    finds, edit = _swept(now, wanted)
    plan = compiled(now.document, apply(now.sheet, edit), now.edition.id).plan
    return SweepSeen(seconds=plan.seconds, count=len(finds.finds), plan=plan)


@router.post("/{document_id}/sweep", response={200: SweepDone, 409: Newer})
def sweep_document(request: HttpRequest, document_id: uuid.UUID, wanted: SweepWanted) -> tuple[int, SweepDone | Newer]:
    """Take out what a sweep finds, as one edit."""
    document = find_document(request, document_id)
    now = opened(document, wanted.edition)
    finds, edit = _swept(now, wanted)
    by, shown = request.user.pk, wanted.edition
    status, answer = changed(request, document, lambda: apply_edit(document, wanted.version, edit, by, shown), shown)
    if isinstance(answer, Newer):
        return status, answer
    saved = round(now.plan.seconds - answer.seconds, 2)
    return 200, SweepDone(counts=counted(finds, wanted.kinds), saved=saved, document=answer)
