"""The cover of an edition: chosen, drawn, and frames that are offered for it."""

import numpy as np
from django.dispatch import receiver

from hovvet.core.cover.cover import Cover
from hovvet.core.cover.drawing import Kind, drawn, plan_of
from hovvet.core.cover.frames import Frame, Gray, best_frames
from hovvet.core.media.frames import Picker
from hovvet.core.media.process import Limits
from hovvet.server.delivery.exporting import originals_of
from hovvet.server.delivery.models import CoverChosen
from hovvet.server.documents.events import copied
from hovvet.server.documents.models import Document
from hovvet.server.documents.opening import Opened
from hovvet.server.posts.per_edition import Chosen

_LIMITS = Limits(seconds=40, cpu=15, output=256 * 1024**2, memory=2 * 1024**3)  # somebody waits for it
PREVIEW = 360  # lines of the shorter side of one that is looked at


def cover_of(document: Document, edition: str) -> Chosen[Cover]:
    """What goes with an edition: at first the beginning of the clip."""
    return CoverChosen.chosen(document, edition, Cover)


@receiver(copied)
def copy_covers(clip: Document, copy: Document, **_: object) -> None:
    """A copy of a clip has the same covers."""
    CoverChosen.copy(clip, copy)


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
