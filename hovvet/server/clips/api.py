"""Documents over HTTP: read, edit, correct, undo, redo, go back, make clips."""

import uuid
from collections.abc import Callable
from datetime import datetime

from django.http import Http404, HttpRequest, HttpResponse
from ninja import Field, Router, Schema

from hovvet.core.plan.model import Plan
from hovvet.core.plan.outlets import Outlet, outlet
from hovvet.core.plan.shown import ShortPause, short_pauses, struck_words, uncut
from hovvet.core.sheet.edits import Edit
from hovvet.core.sheet.model import Sheet
from hovvet.core.sheet.moving import WordRef, move_words
from hovvet.core.sheet.rows import Row, rows
from hovvet.core.words.corrections import Correction, difference
from hovvet.core.words.layout import Paragraph, Pause, paragraphs, pauses
from hovvet.core.words.transcript import Speaker, Word
from hovvet.server.accounts.access import find
from hovvet.server.clips.documents import (
    Opened,
    Stale,
    apply_edit,
    apply_made,
    correct_now,
    correct_words,
    correction_to_undo,
    desk_of,
    documents,
    go_back,
    make_clip,
    next_revision,
    opened,
    redo,
    undo,
)
from hovvet.server.clips.history import story
from hovvet.server.clips.models import Document
from hovvet.server.clips.transcripts import Corrected, corrected_of, source_of, transcript_at
from hovvet.server.recordings.models import Recording

router = Router(tags=["documents"])

_TOLD_AT_ONCE = 100  # changes of a history


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
    """A document as it stands, compiled. A clip has its ``rows``; a desk has its transcript, and of that the words that
    are cut (``struck``) and the pauses that are not whole (``short``, by their place among the pauses).

    ``undoes`` is the revision that undo takes back, ``newest`` the newest there is.
    ``words_at`` tells at which correction the transcript stands, ``words`` what the last change did to it;
    ``told`` is something the person should know.
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
    struck: tuple[int, ...]
    short: list[ShortPause]
    newest: int
    undoes: int | None
    can_redo: bool
    words_at: int
    words: WordsChange | None
    told: str


class Newer(Schema):
    """The answer to an edit on a stale version: what happened, and the newer document."""

    detail: str
    document: DocumentOut


class Change(Schema):
    """An edit made on a version of the document."""

    version: int
    edit: Edit


class Correcting(Schema):
    """A correction of the transcript, made on a version of the document."""

    version: int
    correction: Correction


class Version(Schema):
    """The version that something was asked on."""

    version: int


class Moving(Version):
    """Words to stand elsewhere: ``first`` to ``last`` before another one, or at the end (None); with ``repeat`` in
    both places."""

    first: WordRef
    last: WordRef
    before: WordRef | None
    repeat: bool = False


class Undoing(Version):
    """Undo, no further back than to ``since``: the newest revision there was when this person opened the document."""

    since: int | None = None


class ClipWanted(Schema):
    """The passage to make a clip of: ids of its first and last word."""

    first: int
    last: int


class Title(Version):
    """A new title."""

    title: str = Field(min_length=1, max_length=200)


class ToldOut(Schema):
    """One change in the story of a document: what was done, by whom ("" for Hovvet itself), and when."""

    id: int
    what: str
    who: str
    when: datetime
    current: bool


def _words_change(document: Document, before: Corrected) -> WordsChange | None:
    now = corrected_of(document.recording)
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


def document_out(now: Opened, user_id: int | None, words: WordsChange | None = None) -> DocumentOut:
    """A document as the page of a user takes it."""
    document, sheet, plan = now.document, now.sheet, now.plan
    source = source_of(document.recording)
    transcript = source.transcript
    clip = document.kind == Document.Kind.CLIP
    made = rows(sheet, {str(document.recording_id): source}) if clip else []
    gaps = [] if clip else pauses(transcript.words, transcript.duration)
    return DocumentOut(
        id=document.pk,
        recording=document.recording_id,
        kind=Document.Kind(document.kind),
        title=document.title,
        version=document.version,
        sheet=sheet,
        plan=plan,
        seconds=plan.seconds,
        uncut=uncut(sheet),
        outlet=outlet(sheet.outlet),
        rows=made,
        struck=() if clip else struck_words(sheet),
        short=short_pauses(gaps, plan),
        newest=max(document.head_id or 0, corrected_of(document.recording) or 0),
        undoes=_undoes(document, user_id),
        can_redo=next_revision(document) is not None,
        words_at=corrected_of(document.recording) or 0,
        words=words,
        told=now.told,
    )


def _undoes(document: Document, user_id: int | None) -> int | None:
    if desk := correction_to_undo(document, user_id):
        return desk.head_id
    return document.head_id if document.head and document.head.parent_id else None


Answer = tuple[int, DocumentOut | Newer]


def changed(request: HttpRequest, document: Document, change: Callable[[], Opened]) -> Answer:
    """Make a change and answer with what it led to; 409 with the newer document when it was made on a stale one."""
    before = corrected_of(document.recording)
    try:
        after = change()
        return 200, document_out(after, request.user.pk, _words_change(after.document, before))
    except Stale:
        fresh = document_out(opened(documents().get(pk=document.pk)), request.user.pk)
        return 409, Newer(detail="This was changed elsewhere in the meantime.", document=fresh)


def find_document(request: HttpRequest, document_id: uuid.UUID) -> Document:
    """A document of the asker's workspace."""
    return find(request, documents(), pk=document_id)


@router.get("/desk/{recording_id}", response=DocumentOut)
def read_desk(request: HttpRequest, recording_id: uuid.UUID) -> DocumentOut:
    """The document with the cuts on a whole recording."""
    return document_out(opened(desk_of(find(request, Recording.objects.all(), pk=recording_id))), request.user.pk)


@router.post("/desk/{recording_id}/clips", response=DocumentOut)
def create_clip(request: HttpRequest, recording_id: uuid.UUID, wanted: ClipWanted) -> DocumentOut:
    """Make a clip of a passage."""
    recording = find(request, Recording.objects.all(), pk=recording_id)
    return document_out(opened(make_clip(recording, wanted.first, wanted.last)), request.user.pk)


@router.get("/{document_id}", response=DocumentOut)
def read_document(request: HttpRequest, document_id: uuid.UUID) -> DocumentOut:
    """One document."""
    return document_out(opened(find_document(request, document_id)), request.user.pk)


@router.patch("/{document_id}", response={200: DocumentOut, 409: Newer})
def rename_document(request: HttpRequest, document_id: uuid.UUID, given: Title) -> Answer:
    """Give a clip another title."""
    document = find_document(request, document_id)
    same = Document.objects.filter(pk=document.pk, version=given.version)
    renamed = same.update(title=given.title, version=given.version + 1)
    now = document_out(opened(find_document(request, document_id)), request.user.pk)
    if renamed:
        return 200, now
    return 409, Newer(detail="This was changed elsewhere in the meantime.", document=now)


@router.delete("/{document_id}", response={204: None})
def delete_clip(request: HttpRequest, document_id: uuid.UUID) -> HttpResponse:
    """Delete a clip with its exports; the recording and its cuts stay."""
    find(request, Document.objects.filter(kind=Document.Kind.CLIP), pk=document_id).delete()
    return HttpResponse(status=204)


@router.post("/{document_id}/edits", response={200: DocumentOut, 409: Newer})
def edit_document(request: HttpRequest, document_id: uuid.UUID, change: Change) -> Answer:
    """Apply an edit."""
    document = find_document(request, document_id)
    return changed(request, document, lambda: apply_edit(document, change.version, change.edit, request.user.pk))


@router.post("/{document_id}/moves", response={200: DocumentOut, 409: Newer})
def move(request: HttpRequest, document_id: uuid.UUID, given: Moving) -> Answer:
    """Move words of a clip, or repeat them elsewhere."""
    document = find(request, documents().filter(kind=Document.Kind.CLIP), pk=document_id)
    transcripts = {str(document.recording_id): source_of(document.recording).transcript}

    def make(sheet: Sheet) -> Edit:
        return move_words(sheet, transcripts, given.first, given.last, given.before, given.repeat)

    return changed(request, document, lambda: apply_made(document, given.version, make, request.user.pk))


@router.post("/{document_id}/undo", response={200: DocumentOut, 409: Newer})
def undo_edit(request: HttpRequest, document_id: uuid.UUID, given: Undoing) -> Answer:
    """Take the last edit back."""
    document = find_document(request, document_id)

    def take_back() -> Opened:
        if (desk := correction_to_undo(document, request.user.pk)) is None:
            return undo(document, given.version, request.user.pk, given.since)
        undo(desk, desk.version, request.user.pk, given.since)
        return opened(document)

    return changed(request, document, take_back)


@router.post("/{document_id}/redo", response={200: DocumentOut, 409: Newer})
def redo_edit(request: HttpRequest, document_id: uuid.UUID, given: Version) -> Answer:
    """Do again what was taken back."""
    document = find_document(request, document_id)
    return changed(request, document, lambda: redo(document, given.version))


@router.get("/{document_id}/history", response=list[ToldOut])
def read_history(request: HttpRequest, document_id: uuid.UUID, before: int | None = None) -> list[ToldOut]:
    """What was changed, by whom and when; the newest first, a hundred at a time."""
    told = story(find_document(request, document_id), _TOLD_AT_ONCE, before)
    return [ToldOut.from_orm(each) for each in told]


@router.post("/{document_id}/history/{revision_id}", response={200: DocumentOut, 409: Newer})
def return_to(request: HttpRequest, document_id: uuid.UUID, revision_id: int, given: Version) -> Answer:
    """Make all as it was after a change of the history."""
    document = find_document(request, document_id)
    to = document.revisions.filter(pk=revision_id).first()
    if to is None:
        raise Http404("That change is not in this history.")
    return changed(request, document, lambda: go_back(document, given.version, to, request.user.pk))


@router.post("/{document_id}/corrections", response={200: DocumentOut, 409: Newer})
def correct_document(request: HttpRequest, document_id: uuid.UUID, given: Correcting) -> Answer:
    """Correct the transcript of a recording, on its desk or on a clip. The desk keeps it, for the words are its own."""
    document = find_document(request, document_id)
    if document.kind == Document.Kind.DESK:
        return changed(
            request, document, lambda: correct_words(document, given.version, given.correction, request.user.pk)
        )

    def correct() -> Opened:
        correct_now(document.recording, given.correction, request.user.pk)
        return opened(document)

    return changed(request, document, correct)
