"""Documents over HTTP: read, edit, undo, redo, sweep, make clips."""

import uuid
from collections.abc import Callable, Iterable

from django.db.models import QuerySet
from django.http import HttpRequest, HttpResponse
from ninja import Field, Router, Schema

from hovvet.core.captions.style import FALLBACK_FILE, STYLES, caption_style
from hovvet.core.plan.compile import Edition, compile
from hovvet.core.plan.model import Plan
from hovvet.core.plan.outlets import OUTLETS, Outlet, outlet
from hovvet.core.sheet.edits import Edit, apply
from hovvet.core.sheet.model import Sheet
from hovvet.core.sheet.rows import Row, rows
from hovvet.core.sweep.finds import FindKind, Finds
from hovvet.core.sweep.review import Reviewed, instead, key_of, review, within
from hovvet.core.sweep.settings import SweepSettings
from hovvet.core.sweep.sweep import ALL_KINDS, sweep, sweep_edit
from hovvet.core.words.corrections import Correction, difference
from hovvet.core.words.layout import Paragraph, Pause, paragraphs, pauses
from hovvet.core.words.transcript import Speaker, Word
from hovvet.server.accounts.access import find
from hovvet.server.clips.documents import (
    Stale,
    apply_edit,
    correct_words,
    desk_of,
    make_clip,
    next_revision,
    redo,
    sheet_of,
    undo,
)
from hovvet.server.clips.models import Document
from hovvet.server.recordings.loaded import Corrected, corrected_of, silences_of, source_of, transcript_at
from hovvet.server.recordings.models import Recording

router = Router(tags=["documents"])


class WordsChange(Schema):
    """What an edit did to the transcript: from the state ``before`` to ``now``. Words in ``come`` replace those of their id."""

    before: int
    now: int
    gone: list[int]
    come: list[Word]
    paragraphs: list[Paragraph]
    pauses: list[Pause] | None  # None when they are as before
    speakers: list[Speaker]


class DocumentOut(Schema):
    """A document as it stands, compiled. ``rows`` and ``pauses`` are those of a clip; a desk has its transcript.

    ``words_at`` tells at which correction the transcript stands, ``words`` what the last change did to it.
    """

    id: uuid.UUID
    recording: uuid.UUID
    kind: Document.Kind
    title: str
    version: int
    sheet: Sheet
    plan: Plan
    seconds: float
    uncut: float
    outlet: Outlet
    rows: list[Row]
    pauses: list[Pause]
    can_undo: bool
    can_redo: bool
    words_at: int
    words: WordsChange | None


class Newer(Schema):
    """The answer to an edit on a stale version: what happened, and the newer document."""

    detail: str
    document: DocumentOut


class Change(Schema):
    """An edit made on a version of the document."""

    version: int
    edit: Edit


class Correcting(Schema):
    """A correction of the transcript, made on a version of the desk."""

    version: int
    correction: Correction


class Version(Schema):
    """The version that undo or redo was asked on."""

    version: int


class Finding(Schema):
    """What to take of the finds: these kinds, without some, or nothing but some (by key).

    ``instead`` names retakes of which the later take goes.
    """

    kinds: list[FindKind] = ["filler", "pause"]
    leave: list[str] = Field(default=[], max_length=20_000)
    only: list[str] | None = Field(default=None, max_length=20_000)
    instead: list[str] = Field(default=[], max_length=2_000)


class SweepWanted(Finding):
    """What to sweep for, on a version of the document."""

    version: int


class SweepSeen(Schema):
    """How a document would be played if a sweep were made, and how long it would be."""

    seconds: float
    plan: Plan


class SweepDone(Schema):
    """What the sweep took out: how many of each kind, and the seconds saved."""

    counts: dict[FindKind, int]
    saved: float
    document: DocumentOut


class ClipWanted(Schema):
    """The passage to make a clip of: ids of its first and last word."""

    first: int
    last: int


class Title(Schema):
    """A new title."""

    title: str = Field(min_length=1, max_length=200)


class Choices(Schema):
    """What a clip can be made for and look like; ``fonts`` are the files that its captions need."""

    outlets: list[Outlet]
    captions: dict[str, str]
    fonts: list[str]


def plan_of(document: Document, sheet: Sheet) -> Plan:
    """Compile the document for the outlet it is set to."""
    style = caption_style(sheet.captions) if sheet.captions else None
    edition = Edition(outlet(sheet.outlet), style, texts=document.kind == Document.Kind.CLIP)
    return compile(sheet, {str(document.recording_id): source_of(document.recording)}, edition)


def _words_change(document: Document, before: Corrected) -> WordsChange | None:
    now = document.head.corrected_id if document.head else None
    if now == before:
        return None
    transcript = transcript_at(document.recording, now)
    earlier = transcript_at(document.recording, before)
    gone, come = difference(earlier, transcript)
    same = not gone and len(earlier.words) == len(transcript.words)
    return WordsChange(
        before=before or 0,
        now=now or 0,
        gone=list(gone),
        come=list(come),
        paragraphs=paragraphs(transcript.words),
        pauses=None if same else pauses(transcript.words, transcript.duration),
        speakers=transcript.cast(),
    )


def _out(document: Document, words: WordsChange | None = None) -> DocumentOut:
    sheet = sheet_of(document)
    plan = plan_of(document, sheet)
    made: list[Row] = []
    gaps: list[Pause] = []
    if document.kind == Document.Kind.CLIP:
        transcript = source_of(document.recording).transcript
        made = rows(sheet, {str(document.recording_id): transcript}, plan)
        gaps = [
            gap
            for gap in pauses(transcript.words, transcript.duration)
            if any(piece.start <= gap.start and gap.end <= piece.end for piece in sheet.pieces)
        ]
    return DocumentOut(
        id=document.pk,
        recording=document.recording_id,
        kind=document.kind,
        title=document.title,
        version=document.version,
        sheet=sheet,
        plan=plan,
        seconds=plan.seconds,
        uncut=sum(piece.end - piece.start for piece in sheet.pieces),
        outlet=outlet(sheet.outlet),
        rows=made,
        pauses=gaps,
        can_undo=document.head is not None and document.head.parent_id is not None,
        can_redo=next_revision(document) is not None,
        words_at=corrected_of(document.recording) or 0,
        words=words,
    )


_Answer = tuple[int, DocumentOut | Newer]


def _changed(document: Document, change: Callable[[], Document]) -> _Answer:
    before = document.head.corrected_id if document.head else None
    try:
        after = change()
        return 200, _out(after, _words_change(after, before))
    except Stale:
        fresh = Document.objects.select_related("head").get(pk=document.pk)
        return 409, Newer(detail="This was changed elsewhere in the meantime.", document=_out(fresh))


def _find(request: HttpRequest, document_id: uuid.UUID) -> Document:
    return find(request, _documents(), pk=document_id)


def _documents() -> QuerySet[Document]:
    return Document.objects.select_related("head", "recording__show").defer("recording__transcript_json")


@router.get("/choices", response=Choices)
def choices(request: HttpRequest) -> Choices:
    """Outlets and caption styles."""
    return Choices(
        outlets=list(OUTLETS.values()),
        captions={style.key: style.name for style in STYLES.values()},
        fonts=[*(style.file for style in STYLES.values()), FALLBACK_FILE],
    )


@router.get("/desk/{recording_id}", response=DocumentOut)
def read_desk(request: HttpRequest, recording_id: uuid.UUID) -> DocumentOut:
    """The document with the cuts on a whole recording."""
    return _out(desk_of(find(request, Recording.objects.all(), pk=recording_id)))


@router.post("/desk/{recording_id}/clips", response=DocumentOut)
def create_clip(request: HttpRequest, recording_id: uuid.UUID, wanted: ClipWanted) -> DocumentOut:
    """Make a clip of a passage."""
    return _out(make_clip(find(request, Recording.objects.all(), pk=recording_id), wanted.first, wanted.last))


@router.get("/{document_id}", response=DocumentOut)
def read_document(request: HttpRequest, document_id: uuid.UUID) -> DocumentOut:
    """One document."""
    return _out(_find(request, document_id))


@router.patch("/{document_id}", response=DocumentOut)
def rename_document(request: HttpRequest, document_id: uuid.UUID, given: Title) -> DocumentOut:
    """Give a clip another title."""
    document = _find(request, document_id)
    document.title = given.title
    document.save(update_fields=["title"])
    return _out(document)


@router.delete("/{document_id}", response={204: None})
def delete_clip(request: HttpRequest, document_id: uuid.UUID) -> HttpResponse:
    """Delete a clip; the recording and its cuts stay."""
    document = find(request, Document.objects.filter(kind=Document.Kind.CLIP), pk=document_id)
    Document.objects.filter(pk=document.pk).update(head=None)
    document.delete()
    return HttpResponse(status=204)


@router.post("/{document_id}/edits", response={200: DocumentOut, 409: Newer})
def edit_document(request: HttpRequest, document_id: uuid.UUID, change: Change) -> _Answer:
    """Apply an edit."""
    document = _find(request, document_id)
    return _changed(document, lambda: apply_edit(document, change.version, change.edit, request.user.pk))


@router.post("/{document_id}/undo", response={200: DocumentOut, 409: Newer})
def undo_edit(request: HttpRequest, document_id: uuid.UUID, given: Version) -> _Answer:
    """Take the last edit back."""
    document = _find(request, document_id)
    return _changed(document, lambda: undo(document, given.version))


@router.post("/{document_id}/redo", response={200: DocumentOut, 409: Newer})
def redo_edit(request: HttpRequest, document_id: uuid.UUID, given: Version) -> _Answer:
    """Do again what was taken back."""
    document = _find(request, document_id)
    return _changed(document, lambda: redo(document, given.version))


@router.post("/{document_id}/corrections", response={200: DocumentOut, 409: Newer})
def correct_document(request: HttpRequest, document_id: uuid.UUID, given: Correcting) -> _Answer:
    """Correct the transcript of a recording on its desk."""
    desk = find(request, _documents().filter(kind=Document.Kind.DESK), pk=document_id)
    return _changed(desk, lambda: correct_words(desk, given.version, given.correction, request.user.pk))


def _settings(document: Document, kinds: Iterable[FindKind]) -> SweepSettings:
    return document.recording.defaults.sweep.model_copy(update={"kinds": frozenset(kinds)})


def _swept(document: Document, wanted: Finding) -> tuple[Finds, Edit]:
    """The finds that are wanted, and the edit that takes them out."""
    settings = _settings(document, wanted.kinds)
    transcript = source_of(document.recording).transcript
    piece = sheet_of(document).pieces[0]
    finds = within(sweep(transcript, silences_of(document.recording), settings), piece, frozenset(wanted.leave))
    if wanted.only is not None:
        only = frozenset(wanted.only)
        finds = finds.model_copy(update={"finds": tuple(each for each in finds.finds if key_of(each) in only)})
    finds = instead(finds, frozenset(wanted.instead))
    return finds, sweep_edit(piece, transcript, finds, settings)


@router.get("/{document_id}/finds", response=list[Reviewed])
def list_finds(request: HttpRequest, document_id: uuid.UUID) -> list[Reviewed]:
    """All that a sweep finds in a document and that is not cut yet, to go through one by one."""
    document = _find(request, document_id)
    transcript = source_of(document.recording).transcript
    settings = _settings(document, ALL_KINDS)
    finds = sweep(transcript, silences_of(document.recording), settings)
    return review(within(finds, sheet_of(document).pieces[0]), transcript, settings)


@router.post("/{document_id}/sweep/preview", response=SweepSeen)
def preview_sweep(request: HttpRequest, document_id: uuid.UUID, wanted: Finding) -> SweepSeen:
    """How a document would be played if these finds were taken out. Nothing is changed."""
    document = _find(request, document_id)
    _, edit = _swept(document, wanted)
    plan = plan_of(document, apply(sheet_of(document), edit))
    return SweepSeen(seconds=plan.seconds, plan=plan)


@router.post("/{document_id}/sweep", response={200: SweepDone, 409: Newer})
def sweep_document(request: HttpRequest, document_id: uuid.UUID, wanted: SweepWanted) -> tuple[int, SweepDone | Newer]:
    """Take out what a sweep finds, as one edit."""
    document = _find(request, document_id)
    before = plan_of(document, sheet_of(document)).seconds
    finds, edit = _swept(document, wanted)
    status, answer = _changed(document, lambda: apply_edit(document, wanted.version, edit, request.user.pk))
    if isinstance(answer, Newer):
        return status, answer
    counts: dict[FindKind, int] = {kind: sum(found.kind == kind for found in finds.finds) for kind in wanted.kinds}
    return 200, SweepDone(counts=counts, saved=round(before - answer.seconds, 2), document=answer)
