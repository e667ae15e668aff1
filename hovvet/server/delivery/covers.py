"""The cover of an edition: chosen, drawn, and frames that are offered for it."""

from dataclasses import dataclass

import numpy as np
from django.db import IntegrityError, transaction

from hovvet.core.cover.cover import Cover
from hovvet.core.cover.drawing import Kind, drawn, plan_of
from hovvet.core.cover.frames import Frame, Gray, best_frames
from hovvet.core.media.frames import Picker
from hovvet.core.media.process import Limits
from hovvet.server.delivery.exporting import originals_of
from hovvet.server.delivery.models import CoverChosen
from hovvet.server.documents.models import Document
from hovvet.server.documents.opening import Opened
from hovvet.server.posts.writing import Newer

_LIMITS = Limits(seconds=15, cpu=15, output=256 * 1024**2, memory=2 * 1024**3)  # somebody waits for it
PREVIEW = 360  # lines of the shorter side of one that is looked at


@dataclass(frozen=True)
class Chosen:
    """The cover of an edition; ``own`` says whether that is of it alone. Version 0 is not kept yet."""

    cover: Cover
    own: bool
    version: int


def cover_of(document: Document, edition: str) -> Chosen:
    """What goes with an edition: at first the beginning of the clip."""
    rows = {row.edition: row for row in document.covers.filter(edition__in=("", edition))}
    row = rows.get(edition) or rows.get("")
    return Chosen(row.cover, bool(row.edition), row.version) if row else Chosen(Cover(), own=False, version=0)


def keep_cover(document: Document, edition: str, cover: Cover, version: int) -> Chosen:
    """Keep a cover, for all editions ("") or for one, over what had this ``version``. Raises Newer."""
    written = cover.model_dump(mode="json")
    if version == 0:
        try:
            with transaction.atomic():
                CoverChosen.objects.create(document=document, edition=edition, cover_json=written)
        except IntegrityError:
            raise Newer from None
        return Chosen(cover, bool(edition), 1)
    same = document.covers.filter(edition=edition, version=version)
    if not same.update(cover_json=written, version=version + 1):
        raise Newer
    return Chosen(cover, bool(edition), version + 1)


def picture_of(now: Opened, cover: Cover, kind: Kind, lines: int | None = None) -> bytes:
    """A cover of an opened clip, drawn. Raises CoreError."""
    plan, seconds = plan_of(now.sheet, now.edition, cover, now.kit, now.sources.sources, lines)
    return drawn(plan, seconds, originals_of(now.document.workspace, plan), kind, _LIMITS)


def frames_for(now: Opened) -> list[Frame]:
    """Frames of an opened clip that would make a good cover, by its working copies."""
    pickers: dict[str, Picker] = {}

    def read(media: str, frame: int) -> Gray | None:
        recording = now.sources.recordings.get(media)
        if recording is None or not recording.working.exists():
            return None
        if media not in pickers:
            pickers[media] = Picker(recording.working, now.plan.rate)
        return np.asarray(pickers[media].at(frame).to_ndarray(format="gray"))

    try:
        return best_frames(now.plan, now.scene, read)
    finally:
        for picker in pickers.values():
            picker.close()
