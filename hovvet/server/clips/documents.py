"""Changing documents: load, call the core, save, all under one version check."""

from collections.abc import Callable

from django.db import transaction

from hovvet.core.sheet.edits import Edit, apply
from hovvet.core.sheet.model import Sheet
from hovvet.core.sheet.passage import clip_sheet, desk_sheet
from hovvet.server.clips.models import Document, Revision
from hovvet.server.problems import Problem
from hovvet.server.recordings.loaded import source_of
from hovvet.server.recordings.models import Recording


class Stale(Exception):
    """The document has changed since the version the edit was made on."""


def create_document(recording: Recording, kind: Document.Kind, title: str, sheet: Sheet) -> Document:
    """A new document with its first revision."""
    with transaction.atomic():
        document = Document.objects.create(
            workspace=recording.workspace, recording=recording, kind=kind, title=title[:200]
        )
        document.head = Revision.objects.create(document=document, sheet=sheet.model_dump(mode="json"))
        document.save(update_fields=["head"])
    return document


def desk_of(recording: Recording) -> Document:
    """The document with the cuts on a whole recording; made when first asked for."""
    desk = recording.documents.filter(kind=Document.Kind.DESK).select_related("head").first()
    if desk is None:
        sheet = desk_sheet(str(recording.pk), source_of(recording).transcript.duration)
        desk = create_document(recording, Document.Kind.DESK, recording.title, sheet)
    return desk


def make_clip(recording: Recording, first: int, last: int) -> Document:
    """A clip of the words ``first`` to ``last``, named after what is said first."""
    transcript = source_of(recording).transcript
    sheet = clip_sheet(sheet_of(desk_of(recording)), transcript, first, last)
    struck = {word for cut in sheet.pieces[0].word_cuts for word in cut.words}
    words = [word for word in transcript.between(sheet.pieces[0].start, sheet.pieces[0].end) if word.id not in struck]
    title = " ".join(word.text for word in words[:7]).strip(" ,.;:")
    return create_document(recording, Document.Kind.CLIP, title + ("…" if len(words) > 7 else ""), sheet)


def sheet_of(document: Document) -> Sheet:
    """The sheet as it stands."""
    assert document.head
    return Sheet.model_validate(document.head.sheet)


def _change(document: Document, version: int, change: Callable[[Document], Revision | None]) -> Document:
    """Move a document to another revision if it still has ``version``. Raises Stale, Problem."""
    with transaction.atomic():
        fresh = Document.objects.select_for_update().select_related("head__parent").get(pk=document.pk)
        if fresh.version != version:
            raise Stale
        head = change(fresh)
        if head is None:
            return fresh
        fresh.head, fresh.version = head, fresh.version + 1
        fresh.save(update_fields=["head", "version"])
    return fresh


def apply_edit(document: Document, version: int, edit: Edit, author_id: int | None) -> Document:
    """Apply an edit; nothing is saved when it changes nothing."""

    def change(fresh: Document) -> Revision | None:
        before = sheet_of(fresh)
        after = apply(before, edit)
        if after == before:
            return None
        return Revision.objects.create(
            document=fresh,
            parent=fresh.head,
            sheet=after.model_dump(mode="json"),
            edit=edit.model_dump(mode="json"),
            author_id=author_id,
        )

    return _change(document, version, change)


def undo(document: Document, version: int) -> Document:
    """Back to the revision before. Raises Problem at the first one."""

    def change(fresh: Document) -> Revision:
        if fresh.head is None or fresh.head.parent is None:
            raise Problem(409, "There is nothing left to undo.")
        return fresh.head.parent

    return _change(document, version, change)


def redo(document: Document, version: int) -> Document:
    """Forward again to the revision last undone. Raises Problem when there is none."""

    def change(fresh: Document) -> Revision:
        following = next_revision(fresh)
        if following is None:
            raise Problem(409, "There is nothing to redo.")
        return following

    return _change(document, version, change)


def next_revision(document: Document) -> Revision | None:
    """Where redo leads: the newest revision made from the present one."""
    return Revision.objects.filter(parent=document.head).order_by("-pk").first() if document.head else None
