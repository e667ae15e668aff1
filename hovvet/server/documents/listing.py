"""What lists show of a clip, kept with it whenever it changes: lists are asked for often, and compile nothing."""

from pydantic import BaseModel

from hovvet.core.sheet.model import Sheet
from hovvet.server.documents.history import sheet_at
from hovvet.server.documents.models import Document


class ShownStretch(BaseModel):
    """A stretch of a recording that a clip shows, in seconds."""

    recording: str
    start: float
    end: float


class Listed(BaseModel):
    """The stretches that a clip shows, in its order, and all that it needs of what the workspace brought in."""

    stretches: list[ShownStretch]
    assets: list[str]


def listed(sheet: Sheet) -> dict[str, object]:
    """What is kept of a sheet for lists, as JSON."""
    stretches = [
        ShownStretch(recording=piece.recording, start=piece.start, end=piece.end)
        for piece in sheet.pieces
        if piece.recording is not None
    ]
    return Listed(stretches=stretches, assets=sorted(sheet.assets)).model_dump()


def listing_of(clip: Document) -> Listed:
    """What lists show of a clip; worked out once for one that was kept by an earlier release."""
    if clip.listed_json is None:
        assert clip.head
        clip.listed_json = listed(sheet_at(clip.head))
        Document.objects.filter(pk=clip.pk, version=clip.version).update(listed_json=clip.listed_json)
    return Listed.model_construct(**clip.listed_json)  # as it was written
