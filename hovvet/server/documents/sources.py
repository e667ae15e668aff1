"""The recordings that a sheet shows, as compiling it needs them."""

import uuid
from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field, replace

from hovvet.core.compile.angles import said_in
from hovvet.core.compile.source import Source
from hovvet.core.sheet.model import Sheet
from hovvet.core.words.transcript import Transcript
from hovvet.server.documents.models import Document, DocumentSource
from hovvet.server.documents.narrating import narrated
from hovvet.server.documents.transcripts import angles_of, source_of
from hovvet.server.jobs.making import Making
from hovvet.server.problems import Problem
from hovvet.server.recordings.clearing import clear_soon, clearer_of
from hovvet.server.recordings.looking import faces_of
from hovvet.server.recordings.measuring import energy_known
from hovvet.server.recordings.models import Recording


@dataclass(frozen=True)
class Sources:
    """By the id that sheets know them by; among the sources also what was made clearer of them, by its name in plans. ``told``
    says what is missing, and why; ``making`` whether some of that will soon be there."""

    recordings: dict[str, Recording] = field(default_factory=dict)
    sources: dict[str, Source] = field(default_factory=dict)
    told: str = ""
    making: bool = False

    @property
    def transcripts(self) -> dict[str, Transcript]:
        """Their words."""
        return {key: self.sources[key].transcript for key in self.recordings if key in self.sources}


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
        source = source_of(recording, given.get(recording.pk))
        waits = clear_soon(recording, [source.clearer])
        return Sources({key: recording}, {key: source} | _clearer(recording, source), *waits)
    found = _recordings(document, sheet.media)
    recordings = {key: found[key] for key in sheet.media if key in found}
    behind = [media for row in found.values() if row.background for media in row.background.media_shown]
    recordings |= _recordings(document, [media for media in behind if media not in recordings])
    sources: dict[str, Source] = {}
    clearer: dict[str, Source] = {}
    cameras: dict[str, tuple[Recording, Source]] = {}
    made: list[Making] = []
    for key, recording in recordings.items():
        try:
            source = sources[key] = source_of(recording, given.get(recording.pk))
        except Problem:
            text = f"“{recording.title}” is still being prepared; what is of it stays out until it is ready."
            made.append(Making(text, comes=True))
        else:
            if key in sheet.recordings:
                made.append(clear_soon(recording, {*sheet.clearings} or {source.clearer}))
                clearer |= _clearer(recording, source)
                cameras |= _cameras(recording, source)
    films = {key: film for key, (film, _) in cameras.items() if key not in recordings}
    sources |= {key: source for key, (_, source) in cameras.items() if key not in sources}
    spoken, speaking = narrated(document, sheet.spoken)
    made.append(speaking)
    if gone := sum(key not in found for key in sheet.recordings):
        what = "A recording" if gone == 1 else f"{gone} recordings"
        made.append(Making(f"{what} of this clip was deleted. What was of it is marked, and left out."))
    return Sources(
        recordings | films,
        sources | clearer | spoken,
        " ".join(each.told for each in made if each.told),
        any(each.comes for each in made),
    )


def _clearer(recording: Recording, source: Source) -> dict[str, Source]:
    """What was made clearer of it, as sources of their own."""
    return {
        name: replace(source, media=media, energy=energy, clearer="off")
        for name, media, energy in clearer_of(recording)
    }


def _cameras(recording: Recording, source: Source) -> dict[str, tuple[Recording, Source]]:
    """The other cameras and microphones of a recording, as sources of their own: what is said in them is what is said in it."""
    found: dict[str, tuple[Recording, Source]] = {}
    films = {str(each.film_id): each.film for each in angles_of(recording)}
    for angle in source.angles:
        film = films[angle.media]
        if film.media is not None and film.playable:
            words = said_in(source.transcript, angle, film.media.duration)
            faces, energy, behind = faces_of(film), energy_known(film), film.background
            found[angle.media] = film, Source(words, film.media, faces=faces, energy=energy, background=behind)
    return found


def _recordings(document: Document, media: Iterable[str]) -> dict[str, Recording]:
    """The recordings among some media, by what sheets call them."""
    ids = [pk for key in media if (pk := as_uuid(key)) is not None]
    if not ids:
        return {}
    rows = Recording.objects.select_related("show").filter(workspace=document.workspace_id, pk__in=ids)
    return {str(row.pk): row for row in rows}


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
