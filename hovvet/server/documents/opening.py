"""Opening documents: the sheet as it stands, compiled for one of its editions."""

import uuid
from collections.abc import Mapping
from dataclasses import dataclass, replace

from django.db.models import QuerySet

from hovvet.core.compile.kit import Kit
from hovvet.core.compile.repairs import repaired
from hovvet.core.compile.scene import Scene
from hovvet.core.compile.steps import planned, staged
from hovvet.core.compile.target import target_of
from hovvet.core.plan.model import Plan
from hovvet.core.sheet.model import Edition, Sheet
from hovvet.core.words.transcript import Transcript
from hovvet.server.documents.history import sheet_at
from hovvet.server.documents.kit import kit_of
from hovvet.server.documents.models import Document
from hovvet.server.documents.sources import Sources, sources_of


def documents() -> QuerySet[Document]:
    """Documents with what compiling them needs."""
    return Document.objects.select_related("head", "workspace", "recording__show").defer("recording__transcript_json")


@dataclass(frozen=True)
class Opened:
    """A document as it stands, compiled for one of its editions. ``told`` says what had to be replaced to open it, and
    what is missing."""

    document: Document
    sheet: Sheet
    edition: Edition
    kit: Kit
    sources: Sources
    scene: Scene
    plan: Plan
    told: str = ""


def opened(document: Document, edition: str | None = None) -> Opened:
    """The sheet of a document and what it compiles to, for an edition (the first, where it has none of that id)."""
    assert document.head
    return compiled(document, sheet_at(document.head), edition)


def compiled(
    document: Document,
    sheet: Sheet,
    edition: str | None = None,
    present: Mapping[uuid.UUID, Transcript] | None = None,
    longest: float | None = None,
    sources: Sources | None = None,
) -> Opened:
    """A sheet of a document, compiled; with other transcripts than the stored ones where ``present`` says so, and from
    ``sources`` where they have been read already; a clip no longer than ``longest`` seconds.

    Raises CoreError for a sheet that cannot be compiled.
    """
    kit = kit_of(document.workspace)
    shown, told = repaired(sheet, kit)
    sources = sources or sources_of(document, shown, present)
    chosen = shown.edition(edition)
    is_clip = document.kind == Document.Kind.CLIP
    target = replace(target_of(shown, chosen, kit, texts=is_clip), longest=longest if is_clip else None)
    scene = staged(shown, sources.sources, target)
    plan = planned(scene, target)
    told = " ".join(each for each in (told, sources.told) if each)
    return Opened(document, shown, chosen, kit, sources, scene, plan, told)


def sheet_of(document: Document) -> Sheet:
    """The sheet as it stands, what is unknown on it replaced."""
    assert document.head
    return repaired(sheet_at(document.head), kit_of(document.workspace))[0]
