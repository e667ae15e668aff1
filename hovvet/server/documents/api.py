"""Documents over HTTP: read, edit, correct, undo, redo, go back."""

import uuid
from datetime import datetime

from django.http import Http404, HttpRequest, HttpResponse, HttpResponseBase
from ninja import Field, Router

from hovvet.core.formats.subtitles import SUBTITLE_TYPES, SubtitleKind, subtitles
from hovvet.core.plan.model import Plan
from hovvet.core.sheet.asking import Ask
from hovvet.core.sheet.edits import Edit
from hovvet.core.sheet.trimming import beyond
from hovvet.core.sound.clearer import told_by
from hovvet.core.text import SomeText
from hovvet.core.words.corrections import Correction
from hovvet.core.words.transcript import Word
from hovvet.server.accounts.access import find
from hovvet.server.documents.answers import Answer, DocumentOut, Newer, changed, document_out
from hovvet.server.documents.changing import (
    apply_edit,
    correct_now,
    correct_words,
    correction_to_undo,
    do_asked,
    go_back,
    redo,
    tried,
    undo,
)
from hovvet.server.documents.history import story
from hovvet.server.documents.making import desk_of
from hovvet.server.documents.models import Document
from hovvet.server.documents.opening import Opened, documents, opened
from hovvet.server.documents.prepared_sounds import prepared_file
from hovvet.server.documents.stamps import stamp_of
from hovvet.server.jobs.running import cancel_jobs_of
from hovvet.server.problems import Problem
from hovvet.server.ranges import attachment, ranged_file
from hovvet.server.recordings.models import Recording
from hovvet.server.schema import Schema

router = Router(tags=["documents"])

_TOLD_AT_ONCE = 100  # changes of a history


class Version(Schema):
    """The version that something was asked on, and the edition that the page shows."""

    version: int
    edition: str | None = None


class Change(Version):
    """An edit made on a version of the document."""

    edit: Edit


class Asking(Version):
    """What is asked for, on a version of the document."""

    ask: Ask


class Trying(Schema):
    """What is asked for, and the edition that the page shows."""

    ask: Ask
    edition: str | None = None


class Correcting(Version):
    """A correction of the transcript of a recording, made on a version of the document; of a desk it is its own."""

    correction: Correction
    recording: uuid.UUID | None = None


class Beyond(Schema):
    """The words of a recording just before a piece, and just after it: what could be taken in."""

    before: list[Word]
    after: list[Word]


class Undoing(Version):
    """Undo, no further back than to ``since``: the newest revision there was when this person opened the document."""

    since: int | None = None


class NewTitle(Version):
    """A new title."""

    title: SomeText = Field(min_length=1, max_length=200)


class Stamp(Schema):
    """What changes whenever a document does, or what is made for it."""

    stamp: str


class ToldOut(Schema):
    """One change in the story of a document: what was done, by whom ("" for Hovvet itself), and when."""

    id: int
    what: str
    who: str
    when: datetime
    current: bool


def find_document(request: HttpRequest, document_id: uuid.UUID) -> Document:
    """A document of the asker's workspace."""
    return find(request, documents(), pk=document_id)


@router.get("/desk/{recording_id}", response=DocumentOut)
def read_desk(request: HttpRequest, recording_id: uuid.UUID) -> DocumentOut:
    """The document with the cuts on a whole recording."""
    return document_out(opened(desk_of(find(request, Recording.objects.all(), pk=recording_id))), request.user.pk)


@router.get("/{document_id}", response=DocumentOut)
def read_document(request: HttpRequest, document_id: uuid.UUID, edition: str | None = None) -> DocumentOut:
    """One document, compiled for one of its editions (the first, unless it is told)."""
    return document_out(opened(find_document(request, document_id), edition), request.user.pk)


@router.get("/{document_id}/stamp", response=Stamp)
def read_stamp(request: HttpRequest, document_id: uuid.UUID) -> Stamp:
    """Whether there may be something new to see of a document, without compiling it: then this is another one than the page
    has."""
    return Stamp(stamp=stamp_of(find(request, Document.objects.all(), pk=document_id)))


@router.get("/{document_id}/editions/{edition}/captions.{kind}", response={200: None}, include_in_schema=False)
def download_captions(request: HttpRequest, document_id: uuid.UUID, edition: str, kind: SubtitleKind) -> HttpResponse:
    """The captions of an edition as a file, as they stand: no film has to be made for them."""
    document = find(request, documents().filter(kind=Document.Kind.CLIP), pk=document_id)
    now = opened(document, edition)
    if now.edition.id != edition:
        raise Http404("That edition is no longer there.")
    answer = HttpResponse(subtitles(now.plan, kind) or "", content_type=f"{SUBTITLE_TYPES[kind]}; charset=utf-8")
    answer["Content-Disposition"] = attachment(f"{document.title}.{kind}")
    return answer


@router.get("/{document_id}/editions/{edition}/plan", response={200: Plan, 304: None})
def read_plan(request: HttpRequest, document_id: uuid.UUID, edition: str) -> HttpResponse:
    """The plan of an edition; 304 when it is the one that the asker has (ETag)."""
    now = opened(find_document(request, document_id), edition)
    if now.edition.id != edition:
        raise Problem(404, "There is no such edition.")
    tag = f'"{now.plan.digest}"'
    if request.headers.get("If-None-Match") == tag:
        return HttpResponse(status=304)
    return HttpResponse(now.plan.model_dump_json(), content_type="application/json", headers={"ETag": tag})


@router.get("/{document_id}/sounds/{media}", response={200: None}, include_in_schema=False)
def read_sound(request: HttpRequest, document_id: uuid.UUID, media: str) -> HttpResponseBase:
    """A sound that was prepared for a clip, or the clearer speech of a recording."""
    if of := told_by(media):
        recording = find(request, Recording.objects.all(), pk=of[0])
        if media not in recording.clearer_made:
            raise Problem(404, "This is not made yet.")
        return ranged_file(request, recording.clearer_file(media, "m4a"), "audio/mp4")
    return ranged_file(request, prepared_file(find_document(request, document_id).workspace, media), "audio/wav")


@router.get("/{document_id}/pieces/{piece}/beyond", response=Beyond)
def read_beyond(request: HttpRequest, document_id: uuid.UUID, piece: str) -> Beyond:
    """What stands in the recording on both sides of a piece."""
    now = opened(find_document(request, document_id))
    own = next((each for each in now.sheet.pieces if each.id == piece), None)
    if own is None or own.recording not in now.sources.sources:
        raise Problem(404, "That piece is no longer on the sheet.")
    before, after = beyond(own, now.sources.transcripts[own.recording])
    return Beyond(before=list(before), after=list(after))


@router.patch("/{document_id}", response={200: DocumentOut, 409: Newer})
def rename_document(request: HttpRequest, document_id: uuid.UUID, given: NewTitle) -> Answer:
    """Give a clip another title."""
    document = find_document(request, document_id)
    same = Document.objects.filter(pk=document.pk, version=given.version)
    renamed = same.update(title=given.title, version=given.version + 1)
    now = document_out(opened(find_document(request, document_id), given.edition), request.user.pk)
    if renamed:
        return 200, now
    return 409, Newer(detail="This was changed elsewhere in the meantime.", document=now)


@router.delete("/{document_id}", response={204: None})
def delete_clip(request: HttpRequest, document_id: uuid.UUID) -> HttpResponse:
    """Delete a clip with its exports and jobs; the recordings and their cuts stay."""
    clip = find(request, Document.objects.filter(kind=Document.Kind.CLIP), pk=document_id)
    cancel_jobs_of(clip.pk)
    clip.delete()
    return HttpResponse(status=204)


@router.post("/{document_id}/edits", response={200: DocumentOut, 409: Newer})
def edit_document(request: HttpRequest, document_id: uuid.UUID, change: Change) -> Answer:
    """Apply an edit."""
    document = find_document(request, document_id)
    by, shown = request.user.pk, change.edition
    return changed(request, document, lambda: apply_edit(document, change.version, change.edit, by, shown), shown)


@router.post("/{document_id}/asks", response={200: DocumentOut, 409: Newer})
def ask(request: HttpRequest, document_id: uuid.UUID, given: Asking) -> Answer:
    """Do what is asked for on a clip: move, add, split, trim, lay."""
    document = find(request, documents().filter(kind=Document.Kind.CLIP), pk=document_id)
    by, shown = request.user.pk, given.edition
    return changed(request, document, lambda: do_asked(document, given.version, given.ask, by, shown), shown)


@router.post("/{document_id}/tries", response=Plan)
def try_out(request: HttpRequest, document_id: uuid.UUID, given: Trying) -> Plan:
    """What would be seen and heard with what is asked for. Nothing is kept: it is for what is being typed or dragged."""
    document = find(request, documents().filter(kind=Document.Kind.CLIP), pk=document_id)
    return tried(document, given.ask, given.edition).plan


@router.post("/{document_id}/undo", response={200: DocumentOut, 409: Newer})
def undo_edit(request: HttpRequest, document_id: uuid.UUID, given: Undoing) -> Answer:
    """Take the last edit back."""
    document = find_document(request, document_id)

    def take_back() -> Opened:
        if (desk := correction_to_undo(document, request.user.pk)) is None:
            return undo(document, given.version, request.user.pk, given.since, given.edition)
        undo(desk, desk.version, request.user.pk, given.since)
        return opened(document, given.edition)

    return changed(request, document, take_back, given.edition)


@router.post("/{document_id}/redo", response={200: DocumentOut, 409: Newer})
def redo_edit(request: HttpRequest, document_id: uuid.UUID, given: Version) -> Answer:
    """Do again what was taken back."""
    document = find_document(request, document_id)
    return changed(request, document, lambda: redo(document, given.version, given.edition), given.edition)


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
    by, shown = request.user.pk, given.edition
    return changed(request, document, lambda: go_back(document, given.version, to, by, shown), shown)


@router.post("/{document_id}/corrections", response={200: DocumentOut, 409: Newer})
def correct_document(request: HttpRequest, document_id: uuid.UUID, given: Correcting) -> Answer:
    """Correct the transcript of a recording, on its desk or on a clip that shows it. The desk keeps it, for the words are
    its own."""
    document = find_document(request, document_id)
    if document.kind == Document.Kind.DESK:
        return changed(
            request, document, lambda: correct_words(document, given.version, given.correction, request.user.pk)
        )

    shown = find(request, Recording.objects.filter(shown_in__document=document), pk=given.recording)

    def correct() -> Opened:
        correct_now(shown, given.correction, request.user.pk)
        return opened(document, given.edition)

    return changed(request, document, correct, given.edition)
