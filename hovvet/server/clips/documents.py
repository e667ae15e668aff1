"""Changing documents: load, call the core, save, all under one version check."""

from collections.abc import Callable

from django.db import transaction

from hovvet.core.sheet.edits import Edit, apply
from hovvet.core.sheet.model import Sheet
from hovvet.core.sheet.passage import clip_sheet, desk_sheet
from hovvet.core.words.corrections import Correction, Rewrite, correct
from hovvet.core.words.transcript import Transcript
from hovvet.server.clips.models import Document, Revision
from hovvet.server.problems import Problem
from hovvet.server.recordings.loaded import keep, source_of, transcript_at, transcript_of
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
        corrected = fresh.head.corrected_id if fresh.head else None
        fresh.head, fresh.version = head, fresh.version + 1
        fresh.save(update_fields=["head", "version"])
        if head.corrected_id != corrected:
            describe_words(fresh.recording, transcript_at(fresh.recording, head.corrected_id))
    return fresh


def describe_words(recording: Recording, transcript: Transcript) -> None:
    """Write down what the list of recordings says of the words."""
    speakers = [transcript.speaker_name(key) for key in transcript.speaker_keys]
    Recording.objects.filter(pk=recording.pk).update(word_count=len(transcript.words), speaker_names=speakers)


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
            corrected_id=fresh.head.corrected_id if fresh.head else None,
            author_id=author_id,
        )

    return _change(document, version, change)


# Words that come to be by splitting get ids that no other correction gives, undone ones included.
_IDS_OF_A_REVISION = 100_000


def correct_words(desk: Document, version: int, correction: Correction, author_id: int | None) -> Document:
    """Correct the transcript of a desk's recording; nothing is saved when it changes nothing."""

    def change(fresh: Document) -> Revision | None:
        assert fresh.head
        before = transcript_of(fresh.recording)
        revision = Revision(document=fresh, parent=fresh.head, sheet=fresh.head.sheet, author_id=author_id)
        made = correction
        if isinstance(made, Rewrite):
            revision.save()
            made = made.model_copy(update={"fresh": revision.pk * _IDS_OF_A_REVISION})
        after = correct(before, made)
        if after.words == before.words and after.speakers == before.speakers:
            if revision.pk:
                revision.delete()
            return None
        revision.edit = made.model_dump(mode="json")
        revision.save()
        revision.corrected = revision
        revision.save(update_fields=["corrected"])
        keep(fresh.recording_id, revision.pk, after)
        return revision

    return _change(desk, version, change)


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
