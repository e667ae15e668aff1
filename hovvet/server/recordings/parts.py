"""Parts of recordings, to be fetched as files are."""

import uuid
from pathlib import Path

from hovvet.core.errors import CoreError
from hovvet.core.media.part import cut_part
from hovvet.server.recordings.links import Progress
from hovvet.server.recordings.models import Recording

PART = "part:"  # how links to parts begin; only the server makes them


def link_to(recording: Recording, start: float, end: float) -> str:
    """The link to some seconds of a recording."""
    return f"{PART}{recording.pk}:{start:.3f}:{end:.3f}"


class PartLink:
    """Parts of recordings: links that begin with ``part:``."""

    def takes(self, link: str) -> bool:
        """See Importer."""
        return link.startswith(PART)

    def name_of(self, link: str) -> str:
        """See Importer."""
        return self._of(link)[0].title

    def fetch(self, link: str, out: Path, progress: Progress, most: int | None = None) -> None:
        """See Importer."""
        recording, start, end = self._of(link)
        assert recording.media  # or no part of it could have been asked for
        cut_part(recording.original, recording.media, start, end, out, progress)

    def _of(self, link: str) -> tuple[Recording, float, float]:
        pk, start, end = link.removeprefix(PART).split(":")
        recording = Recording.objects.filter(pk=uuid.UUID(pk)).first()
        if recording is None:
            raise CoreError("The recording that this is a part of was deleted before the part was there.")
        return recording, float(start), float(end)
