"""Revisions: the sheet at each of them, kept small, and their story in words."""

from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass
from datetime import datetime
from functools import partial
from typing import Any

from django.db import transaction
from pydantic import TypeAdapter

from hovvet.core.plan.outlets import Outlet
from hovvet.core.sheet.applying import replayed
from hovvet.core.sheet.edits import Edit
from hovvet.core.sheet.model import Sheet
from hovvet.core.sheet.upgrade import read_edit, read_sheet
from hovvet.core.sheet.wording import Before, correction_in_words, edit_in_words
from hovvet.core.words.corrections import Correction
from hovvet.core.words.transcript import Transcript
from hovvet.server.documents.models import Document, Revision
from hovvet.server.documents.outlets import outlets_of
from hovvet.server.documents.remembered import Remembered
from hovvet.server.documents.sources import sources_of
from hovvet.server.documents.written import Written

SNAPSHOT_EVERY = 20  # revisions
_MOST = 60_000  # values of sheets in memory: 60 MB or so
_edit: TypeAdapter[Edit] = TypeAdapter(Edit)
_correction: TypeAdapter[Correction] = TypeAdapter(Correction)


def next_to(head: Revision, sheet: Sheet, edit: dict[str, Any] | None, author_id: int | None) -> Revision:
    """A revision after ``head``, not saved yet; its sheet is written down every 20th time."""
    depth = head.depth + 1
    return Revision(
        document_id=head.document_id,
        parent=head,
        depth=depth,
        sheet=Written(sheet.model_dump(mode="json")) if depth % SNAPSHOT_EVERY == 0 else None,
        edit=Written(edit) if edit is not None else None,
        corrected_id=head.corrected_id,
        author_id=author_id,
    )


def sheet_at(revision: Revision) -> Sheet:
    """The sheet as it was at a revision."""
    behind: list[Revision] = []
    at = revision
    while (sheet := _look_up(at)) is None:
        behind.append(at)
        assert at.parent is not None, "the first revision holds its sheet"
        at = at.parent
    for each in reversed(behind):
        if each.edit is not None and each.corrected_id != each.pk:
            sheet = replayed(sheet, _edit.validate_python(read_edit(each.edit)))
    remember(revision, sheet)
    return sheet


def _look_up(revision: Revision) -> Sheet | None:
    found = _sheets.get(revision.pk)
    return found or (None if revision.sheet is None else read_sheet(revision.sheet))


def remember(revision: Revision, sheet: Sheet) -> None:
    """Keep a sheet in memory once its revision is there for good: a key that was rolled back is given again."""
    transaction.on_commit(partial(_sheets.keep, revision.pk, sheet))


def _weight(sheet: Sheet) -> int:
    """How many small values a sheet is made of, about."""
    cuts = sum(2 + len(piece.word_cuts) + len(piece.pause_cuts) for piece in sheet.pieces)
    return 20 + cuts + sum(4 + len(layer.span.runs) for layer in sheet.layers) + len(sheet.breaks) + len(sheet.keywords)


_sheets: Remembered[int, Sheet] = Remembered(_MOST, _weight)


@dataclass(frozen=True)
class Told:
    """One change in the story of a document: what was done, by whom ("" for Hovvet itself), and when."""

    id: int
    what: str
    who: str
    when: datetime
    current: bool


def story(document: Document, most: int, before: int | None = None) -> list[Told]:
    """The newest changes first, ``most`` of them, those undone included; ``before`` a revision to go on further back."""
    revisions = document.revisions.select_related("author", "parent").defer("sheet", "parent__sheet").order_by("-pk")
    if before is not None:
        revisions = revisions.filter(pk__lt=before)
    return list(_told(document, revisions[:most]))


def _told(document: Document, revisions: Iterable[Revision]) -> Iterator[Told]:
    outlets, said = outlets_of(document.workspace), _said_in(document)
    for revision in revisions:
        yield Told(
            id=revision.pk,
            what=_in_words(revision, outlets, said),
            who=revision.author.get_username() if revision.author else "",
            when=revision.created,
            current=revision.pk == document.head_id,
        )


def _said_in(document: Document) -> Mapping[str, Transcript]:
    """What is said in the recordings of a document, as its words are now."""
    assert document.head
    return sources_of(document, sheet_at(document.head)).transcripts


def _in_words(revision: Revision, outlets: Mapping[str, Outlet], said: Mapping[str, Transcript]) -> str:
    edit = revision.edit
    if edit is None:
        return "Began"
    if edit.get("type") == "go_back":
        return f"Went back to “{edit['what']}”"
    if revision.corrected_id == revision.pk:
        return correction_in_words(_correction.validate_python(edit))
    assert revision.parent
    before = Before(sheet_at(revision.parent), said)
    return edit_in_words(_edit.validate_python(read_edit(edit)), outlets, before)


def going_back(head: Revision, to: Revision, author_id: int | None) -> Revision:
    """A revision after ``head`` in which all is as it was at ``to``; not saved yet."""
    revision = next_to(
        head,
        sheet_at(to),
        {
            "type": "go_back",
            "to": to.pk,
            "what": _in_words(to, outlets_of(to.document.workspace), _said_in(to.document)),
        },
        author_id,
    )
    revision.sheet = Written(sheet_at(to).model_dump(mode="json"))
    revision.corrected_id = to.corrected_id
    return revision
