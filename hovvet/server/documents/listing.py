"""What lists show of a clip, kept with it whenever it changes: lists are asked for often, and compile nothing."""

from collections.abc import Iterable
from typing import Any

from pydantic import BaseModel

from hovvet.core.sheet.model import Sheet
from hovvet.server.documents.history import sheet_at
from hovvet.server.documents.models import Document


class ShownStretch(BaseModel):
    """A stretch of a recording that a clip shows, in seconds."""

    recording: str
    start: float
    end: float


class ShownEdition(BaseModel):
    """An edition of a clip, and the outlet (by key) that it is for."""

    id: str
    outlet: str


class Listed(BaseModel):
    """The stretches that a clip shows, in its order, all that it needs of what the workspace brought in, and its editions."""

    stretches: list[ShownStretch]
    assets: list[str]
    editions: list[ShownEdition]


def listed(sheet: Sheet) -> dict[str, object]:
    """What is kept of a sheet for lists, as JSON."""
    stretches = [
        ShownStretch(recording=piece.recording, start=piece.start, end=piece.end)
        for piece in sheet.pieces
        if piece.recording is not None
    ]
    editions = [ShownEdition(id=each.id, outlet=each.outlet) for each in sheet.editions]
    return Listed(stretches=stretches, assets=sorted(sheet.assets), editions=editions).model_dump()


def listing_of(clip: Document) -> Listed:
    """What lists show of a clip; worked out once for one that was kept by an earlier release."""
    if clip.listed_json is None:
        assert clip.head
        clip.listed_json = listed(sheet_at(clip.head))
        Document.objects.filter(pk=clip.pk, version=clip.version).update(listed_json=clip.listed_json)
    return Listed.model_construct(**clip.listed_json)  # as it was written


def shown_editions(clip: Document) -> list[ShownEdition]:
    """The editions of a clip, in its order."""
    kept: Iterable[Any] = listing_of(clip).editions
    return [ShownEdition.model_construct(**each) for each in kept]
