"""Making documents: desks, clips, copies."""

from collections.abc import Sequence
from typing import NamedTuple

from django.db import IntegrityError, transaction

from hovvet.core.sheet.limits import check_growth
from hovvet.core.sheet.model import Sheet
from hovvet.core.sheet.starting import captions_of, clip_title, desk_sheet, framed, passage, sheet_of_pieces
from hovvet.core.sheet.upgrade import read_captions
from hovvet.server.accounts.models import Workspace
from hovvet.server.documents.events import copied
from hovvet.server.documents.listing import listed
from hovvet.server.documents.models import Document, Revision
from hovvet.server.documents.opening import sheet_of
from hovvet.server.documents.outlets import outlets_of
from hovvet.server.documents.sources import remember_sources, sources_of
from hovvet.server.documents.transcripts import source_of
from hovvet.server.problems import Problem
from hovvet.server.recordings.models import Recording, Show


def create_document(
    workspace: Workspace, kind: Document.Kind, title: str, sheet: Sheet, recording: Recording | None = None
) -> Document:
    """A new document with its first revision; ``recording`` is whose desk it is. Raises CoreError for a clip that holds more
    than one may."""
    if kind == Document.Kind.CLIP:
        check_growth(Sheet(), sheet)
    with transaction.atomic():
        document = Document.objects.create(
            workspace=workspace, recording=recording, kind=kind, title=title[:200], listed_json=listed(sheet)
        )
        document.head = Revision.objects.create(document=document, sheet=sheet.model_dump(mode="json"))
        document.save(update_fields=["head"])
        remember_sources(document, sheet, sources_of(document, sheet))
    return document


def desk_of(recording: Recording) -> Document:
    """The document with the cuts on a whole recording; made when first asked for, also by several at once."""
    desks = recording.documents.filter(kind=Document.Kind.DESK).select_related("head")
    desk = desks.first()
    if desk is None:
        sheet = desk_sheet(str(recording.pk), source_of(recording).transcript.duration)
        try:
            desk = create_document(recording.workspace, Document.Kind.DESK, recording.title, sheet, recording)
        except IntegrityError:
            desk = desks.get()
    return desk


class WordsOf(NamedTuple):
    """The words ``first`` to ``last`` (ids) of a recording."""

    recording: Recording
    first: int
    last: int


def make_clip(recording: Recording, first: int, last: int, title: str = "") -> Document:
    """A clip of the words ``first`` to ``last``, called by a ``title`` or, without one, after what is said first."""
    return make_clip_of([WordsOf(recording, first, last)], title)


def make_clip_of(stretches: Sequence[WordsOf], title: str = "") -> Document:
    """A clip of stretches of recordings, one after the other (at least one). It looks as clips of the show of the first do."""
    recording = stretches[0].recording
    sources = {each.recording.pk: source_of(each.recording) for each in stretches}
    captions = read_captions(recording.show.captions_json) if recording.show else None
    pieces = [
        passage(sheet_of(desk_of(each.recording)), sources[each.recording.pk].transcript, each.first, each.last)
        for each in stretches
    ]
    sheet = sheet_of_pieces(pieces, captions)
    source = sources[recording.pk]
    outlet = outlets_of(recording.workspace)[sheet.editions[0].outlet]
    sheet = framed(sheet, (source.media.width, source.media.height), outlet, source.faces)
    title = title or clip_title(sheet, source.transcript)
    return create_document(recording.workspace, Document.Kind.CLIP, title, sheet)


def captions_for_show(clip: Document) -> Show:
    """Let new clips of the show that a clip is from begin with its captions; the show. Raises Problem without one."""
    show = show_of(clip)
    show.captions_json = captions_of(sheet_of(clip))
    show.save(update_fields=["captions_json"])
    return show


def show_of(clip: Document) -> Show:
    """The show that a clip is from. Raises Problem without one."""
    first = sheet_of(clip).recordings[:1]
    recording = Recording.objects.select_related("show").filter(workspace=clip.workspace_id, pk__in=first).first()
    if recording is None or recording.show is None:
        raise Problem(409, "The recording of this clip is in no show. Put it into one on the page of recordings first.")
    return recording.show


def copy_clip(clip: Document) -> Document:
    """Another clip, the same so far."""
    copy = create_document(clip.workspace, Document.Kind.CLIP, f"{clip.title} (copy)", sheet_of(clip))
    copied.send(Document, clip=clip, copy=copy)
    return copy
