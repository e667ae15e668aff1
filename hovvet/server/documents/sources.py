"""The recordings that a sheet shows, as compiling it needs them."""

import uuid
from collections.abc import Mapping
from dataclasses import dataclass, field

from hovvet.core.compile.source import Source
from hovvet.core.sheet.model import Sheet
from hovvet.core.words.transcript import Transcript
from hovvet.server.documents.models import Document, DocumentSource
from hovvet.server.documents.transcripts import source_of
from hovvet.server.problems import Problem
from hovvet.server.recordings.models import Recording


@dataclass(frozen=True)
class Sources:
    """By the id that sheets know them by. ``told`` says what is missing, and why."""

    recordings: dict[str, Recording] = field(default_factory=dict)
    sources: dict[str, Source] = field(default_factory=dict)
    told: str = ""

    @property
    def transcripts(self) -> dict[str, Transcript]:
        """Their words."""
        return {key: source.transcript for key, source in self.sources.items()}


def sources_of(document: Document, sheet: Sheet, present: Mapping[uuid.UUID, Transcript] | None = None) -> Sources:
    """What a sheet of a document shows; with other transcripts than the stored ones, by recording, where ``present``
    says so.

    A clip does without what is gone or not ready; a desk cannot: raises Problem then.
    """
    given = present or {}
    if document.kind == Document.Kind.DESK:
        recording = document.recording
        assert recording is not None
        key = str(recording.pk)
        return Sources({key: recording}, {key: source_of(recording, given.get(recording.pk))})
    rows = Recording.objects.select_related("show").filter(workspace=document.workspace_id, pk__in=_ids(sheet))
    found = {str(row.pk): row for row in rows}
    recordings = {key: found[key] for key in sheet.media if key in found}
    sources: dict[str, Source] = {}
    told = []
    for key, recording in recordings.items():
        try:
            sources[key] = source_of(recording, given.get(recording.pk))
        except Problem:
            told.append(f"“{recording.title}” is still being prepared; what is of it stays out until it is ready.")
    if gone := sum(key not in found for key in sheet.recordings):
        what = "A recording" if gone == 1 else f"{gone} recordings"
        told.append(f"{what} of this clip was deleted. What was of it is marked, and left out.")
    return Sources(recordings, sources, " ".join(told))


def _ids(sheet: Sheet) -> list[uuid.UUID]:
    return [pk for key in sheet.media if (pk := as_uuid(key)) is not None]


def as_uuid(key: str) -> uuid.UUID | None:
    """What a recording is stored under; None for what no recording of ours was ever called."""
    try:
        return uuid.UUID(key)
    except ValueError:
        return None


def remember_sources(document: Document, sheet: Sheet, sources: Sources) -> None:
    """Write down which recordings a clip shows now."""
    if document.kind != Document.Kind.CLIP:
        return
    wanted = [sources.recordings[key].pk for key in sheet.media if key in sources.recordings]
    stored = list(document.sources.values_list("recording_id", flat=True))
    if stored != wanted:
        document.sources.all().delete()
        DocumentSource.objects.bulk_create(DocumentSource(document=document, recording_id=pk) for pk in wanted)


def clips_with(recording: Recording) -> list[Document]:
    """The clips that show a recording."""
    return list(Document.objects.filter(sources__recording=recording, kind=Document.Kind.CLIP))
