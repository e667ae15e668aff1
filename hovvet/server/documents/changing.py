"""Changing documents: load, call the core, compile, save, all under one version check."""

from collections.abc import Callable
from dataclasses import dataclass

from django.db import transaction
from django.db.models import F

from hovvet.core.compile.repairs import repaired
from hovvet.core.compile.steps import usual_rate
from hovvet.core.sheet.applying import apply
from hovvet.core.sheet.asking import AddWords, Around, Ask, ToBeats, edit_for
from hovvet.core.sheet.edits import Edit, EditError
from hovvet.core.sheet.limits import LONGEST_CLIP, check_ends
from hovvet.core.sheet.model import Sheet
from hovvet.core.sheet.starting import check_desk
from hovvet.core.value import with_changes
from hovvet.core.words.corrections import Correction, Rewrite, correct
from hovvet.core.words.transcript import Transcript
from hovvet.server.documents.history import going_back, next_to, remember, sheet_at
from hovvet.server.documents.kit import kit_of
from hovvet.server.documents.listing import listed
from hovvet.server.documents.making import desk_of
from hovvet.server.documents.models import Document, Revision
from hovvet.server.documents.opening import Opened, compiled, opened, sheet_of
from hovvet.server.documents.sources import Sources, as_uuid, remember_sources, sources_of
from hovvet.server.documents.transcripts import keep, source_of, transcript_at, transcript_of
from hovvet.server.documents.written import Written
from hovvet.server.problems import Problem
from hovvet.server.recordings.describing import describe_words
from hovvet.server.recordings.models import Recording


class Stale(Exception):
    """The document has changed since the version the edit was made on."""


@dataclass(frozen=True)
class _Next:
    """Where a change leads: another revision, saved or not, its sheet, and the transcript if that is another one, which
    the revision ``corrects`` or goes back to."""

    head: Revision
    sheet: Sheet
    transcript: Transcript | None = None
    corrects: bool = False


def _change(
    document: Document, version: int, change: Callable[[Document], _Next | None], edition: str | None = None
) -> Opened:
    """Move a document to another revision if it still has ``version``; compiled for an edition of it.

    All is worked out and compiled first, and what cannot be compiled is never saved; the database is locked for the few
    rows that are then written. Raises Stale, Problem, CoreError.
    """
    fresh = _as_it_stands(document)
    if fresh.version != version:
        raise Stale
    following = change(fresh)
    if following is None:
        return opened(fresh, edition)
    assert fresh.head
    before, head, transcript = fresh.head.corrected_id, following.head, following.transcript
    if transcript is None and fresh.recording is not None and head.corrected_id != before:
        transcript = transcript_at(fresh.recording, head.corrected_id)
    present = {fresh.recording.pk: transcript} if fresh.recording and transcript else None
    now = compiled(fresh, following.sheet, edition, present, LONGEST_CLIP)
    durations = {key: max(each.media.duration, each.transcript.duration) for key, each in now.sources.sources.items()}
    check_ends(sheet_at(fresh.head), following.sheet, durations)
    _write(fresh, following, now, transcript, Written(listed(following.sheet)))
    return now


def _as_it_stands(document: Document) -> Document:
    rows = Document.objects.select_related("head__parent", "workspace", "recording__show")
    return rows.defer("recording__transcript_json").get(pk=document.pk)


def _write(document: Document, following: _Next, now: Opened, transcript: Transcript | None, shown: Written) -> None:
    """Keep a change of a document as it was loaded, and what lists show of it. The database is locked for this alone. Raises
    Stale when that document is no longer the newest."""
    head = following.head
    with transaction.atomic():
        if not Document.objects.filter(pk=document.pk, version=document.version).update(version=F("version") + 1):
            raise Stale
        if head._state.adding:
            head.save()
        if following.corrects:
            head.corrected = head
            head.save(update_fields=["corrected"])
        document.head, document.version, document.listed_json = head, document.version + 1, shown
        document.save(update_fields=["head", "listed_json"])
        remember(head, following.sheet)
        remember_sources(document, now.sheet, now.sources)
        if document.recording is not None and transcript is not None:
            describe_words(document.recording, transcript)
        if document.recording is not None and following.corrects and following.transcript is not None:
            keep(document.recording.pk, head.pk, following.transcript)


def apply_edit(
    document: Document, version: int, edit: Edit, author_id: int | None, edition: str | None = None
) -> Opened:
    """Apply an edit; nothing is saved when it changes nothing."""
    return apply_made(document, version, lambda _: edit, author_id, edition)


def apply_made(
    document: Document, version: int, make: Callable[[Sheet], Edit], author_id: int | None, edition: str | None = None
) -> Opened:
    """Apply an edit that is made for the sheet as it stands at this version."""

    def change(fresh: Document) -> _Next | None:
        assert fresh.head
        before = sheet_of(fresh)
        edit = make(before)
        after = apply(before, edit)
        if after == before:
            return None
        if fresh.kind == Document.Kind.DESK:
            check_desk(before, after)
        if repaired(after, kit_of(fresh.workspace))[1]:
            raise EditError("What this names is not there (any more). Choose another one.")
        return _Next(next_to(fresh.head, after, edit.model_dump(mode="json"), author_id), after)

    return _change(document, version, change, edition)


def apply_to_newest(document: Document, make: Callable[[Sheet], Edit], author_id: int | None) -> Opened:
    """Apply an edit that is made for the sheet as it stands, whatever others do to it meanwhile."""
    while True:
        try:
            return apply_made(document, document.version, make, author_id)
        except Stale:
            document.refresh_from_db(fields=["version"])


def do_asked(document: Document, version: int, ask: Ask, author_id: int | None, edition: str | None = None) -> Opened:
    """Do what a person asks for on a clip. Raises Stale, Problem, CoreError."""
    return apply_made(document, version, lambda sheet: _asked(document, sheet, ask, edition), author_id, edition)


def tried(document: Document, ask: Ask, edition: str | None = None) -> Opened:
    """A clip as it would be with what is asked for, compiled and not kept. Raises Problem, CoreError."""
    sheet = sheet_of(document)
    sources = sources_of(document, sheet)
    after = apply(sheet, _asked(document, sheet, ask, edition, sources))
    same = after.media == sheet.media
    return compiled(document, after, edition, longest=LONGEST_CLIP, sources=sources if same else None)


def _asked(document: Document, sheet: Sheet, ask: Ask, edition: str | None, shown: Sources | None = None) -> Edit:
    """The edit that does what is asked for; ``shown`` are the sources of the sheet where they have been read already."""
    shown = shown or sources_of(document, sheet)
    rate = sheet.edition(edition).rate or usual_rate(sheet, shown.sources)
    transcripts, desks = dict(shown.transcripts), {}
    if isinstance(ask, AddWords):
        added = Recording.objects.select_related("show").filter(
            workspace=document.workspace_id, pk__in=[as_uuid(ask.recording)]
        )
        if (recording := added.first()) is not None:
            transcripts[ask.recording] = source_of(recording).transcript
            desks[ask.recording] = sheet_of(desk_of(recording))
    if not isinstance(ask, ToBeats):
        return edit_for(ask, sheet, Around(transcripts, rate, desks))
    now = compiled(document, sheet, edition, sources=shown)
    seconds = now.plan.rate.seconds
    edges = {each.layer: (seconds(each.first), seconds(each.last)) for each in now.scene.laid}
    return edit_for(ask, sheet, Around(transcripts, rate, desks, now.scene.beats, edges))


# Words that come to be by splitting get ids that no other correction gives, undone ones included: by the version that a
# desk has then. Up to 2026-11 they were given by revisions, from 100,000 on; these are far above.
_FIRST_SPLIT, _IDS_OF_A_VERSION = 10**12, 100_000


def correct_words(desk: Document, version: int, correction: Correction, author_id: int | None) -> Opened:
    """Correct the transcript of a desk's recording; nothing is saved when it changes nothing."""

    def change(fresh: Document) -> _Next | None:
        assert fresh.head
        assert fresh.recording
        before = transcript_of(fresh.recording)
        made = correction
        if isinstance(made, Rewrite):
            made = with_changes(made, fresh=_FIRST_SPLIT + (version + 1) * _IDS_OF_A_VERSION)
        after = correct(before, made)
        if after.words == before.words and after.speakers == before.speakers:
            return None
        sheet = sheet_at(fresh.head)
        return _Next(next_to(fresh.head, sheet, made.model_dump(mode="json"), author_id), sheet, after, corrects=True)

    return _change(desk, version, change)


def correct_now(recording: Recording, correction: Correction, author_id: int | None) -> Opened:
    """Correct the words of a recording on its desk as that stands now: a correction names words, so it holds there."""
    while True:
        desk = desk_of(recording)
        try:
            return correct_words(desk, desk.version, correction, author_id)
        except Stale:
            continue  # somebody changed the desk between the two lines above


def undo(
    document: Document, version: int, user_id: int | None, since: int | None, edition: str | None = None
) -> Opened:
    """Back to the revision before. Raises Problem at the first one, and where this person's own work ends:
    at ``since``, the newest revision there was when they opened the document, and at what somebody else did."""

    def change(fresh: Document) -> _Next:
        head = fresh.head
        if head is None or head.parent is None:
            raise Problem(409, "There is nothing left to undo.")
        if since is not None and head.pk <= since:
            raise Problem(409, "This is how it was when you opened it. The history reaches further back.")
        if head.author_id not in (None, user_id):
            raise Problem(409, f"The last change is by {head.author}. To take it back, use the history.")
        return _Next(head.parent, sheet_at(head.parent))

    return _change(document, version, change, edition)


def correction_to_undo(clip: Document, user_id: int | None) -> Document | None:
    """The desk of a recording of a clip, if the newest change this person made is a correction of the words there."""
    if clip.kind == Document.Kind.DESK:
        return None
    desks = Document.objects.filter(recording__shown_in__document=clip, kind=Document.Kind.DESK).select_related("head")
    desk = desks.order_by("-head__pk").first()
    if desk is None or desk.head is None:
        return None
    own = desk.head.author_id == user_id and desk.head.corrected_id == desk.head.pk
    return desk if own and desk.head.pk > (clip.head_id or 0) else None


def redo(document: Document, version: int, edition: str | None = None) -> Opened:
    """Forward again to the revision last undone. Raises Problem when there is none."""

    def change(fresh: Document) -> _Next:
        following = next_revision(fresh)
        if following is None:
            raise Problem(409, "There is nothing to redo.")
        return _Next(following, sheet_at(following))

    return _change(document, version, change, edition)


def next_revision(document: Document) -> Revision | None:
    """Where redo leads: the newest revision made from the present one."""
    return Revision.objects.filter(parent=document.head).order_by("-pk").first() if document.head else None


def go_back(
    document: Document, version: int, to: Revision, author_id: int | None, edition: str | None = None
) -> Opened:
    """Make all as it was at an earlier revision: a change like any other, which can be undone."""

    def change(fresh: Document) -> _Next | None:
        assert fresh.head
        if to.pk == fresh.head.pk:
            return None
        return _Next(going_back(fresh.head, to, author_id), sheet_at(to))

    return _change(document, version, change, edition)
