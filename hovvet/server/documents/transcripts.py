"""Transcripts and silences, kept in memory: reading 20,000 words anew for each edit would be slow.

A transcript is what was recognised and, on top of it, the corrections made on the desk, which
are revisions like any edit: undo goes back to the transcript before. Each correction is applied
once, to the transcript of the correction before it.
"""

import uuid
from functools import lru_cache, partial
from pathlib import Path

from django.db import transaction
from pydantic import TypeAdapter

from hovvet.core.compile.angles import Angle
from hovvet.core.compile.source import Source
from hovvet.core.sound.clearer import strength_of
from hovvet.core.sound.level_file import open_levels
from hovvet.core.sound.silence import Levels
from hovvet.core.spans import Span
from hovvet.core.sweep.sweep import silences_by
from hovvet.core.words.corrections import Correction, correct
from hovvet.core.words.transcript import Transcript
from hovvet.server.documents.models import Document, Revision
from hovvet.server.documents.remembered import Remembered
from hovvet.server.problems import Problem
from hovvet.server.recordings.levels import levels_file
from hovvet.server.recordings.looking import faces_of
from hovvet.server.recordings.measuring import beats_known, energy_known
from hovvet.server.recordings.models import Angle as AngleRow
from hovvet.server.recordings.models import Recording

_MOST = 120_000  # words of transcripts in memory: 100 MB or so
_correction: TypeAdapter[Correction] = TypeAdapter(Correction)
_kept: Remembered[tuple[uuid.UUID, int], Transcript] = Remembered(_MOST, lambda transcript: 50 + len(transcript.words))

Corrected = int | None  # the revision that made the newest correction; None before the first


def corrected_of(recording: Recording) -> Corrected:
    """Which correction the transcript of a recording stands at."""
    desk = Document.objects.filter(recording=recording, kind=Document.Kind.DESK)
    return desk.values_list("head__corrected_id", flat=True).first()


def transcript_of(recording: Recording) -> Transcript:
    """The transcript as it stands. Raises Problem while words are still being found."""
    return transcript_at(recording, corrected_of(recording))


def transcript_at(recording: Recording, corrected: Corrected) -> Transcript:
    """The transcript as it stood after a correction. Raises Problem while words are still being found."""
    behind: list[tuple[int, Correction]] = []
    at = corrected
    while at is not None and (found := _kept.get((recording.pk, at))) is None:
        revision = Revision.objects.only("edit", "parent__corrected_id").select_related("parent").get(pk=at)
        behind.append((at, _correction.validate_python(revision.edit)))
        at = revision.parent.corrected_id if revision.parent else None
    transcript = _first(recording) if at is None else found
    assert transcript is not None
    for revision_id, correction in reversed(behind):
        transcript = correct(transcript, correction)
        keep(recording.pk, revision_id, transcript)
    return transcript


def _first(recording: Recording) -> Transcript:
    version = Recording.objects.values_list("words_version", flat=True).get(pk=recording.pk)
    found = _kept.get((recording.pk, -version))
    if found is None:
        found = Recording.objects.get(pk=recording.pk).first_transcript
        if found is None:
            raise Problem(
                409, "This recording is still being prepared. Its words can be read; cutting starts when all are there."
            )
        keep(recording.pk, -version, found)
    return found


def keep(recording_id: uuid.UUID, corrected: int, transcript: Transcript) -> None:
    """Keep a transcript in memory once it is there for good; 0 and below stand for the one before any correction,
    by its version."""
    transaction.on_commit(partial(_kept.keep, (recording_id, corrected), transcript))


def source_of(recording: Recording, transcript: Transcript | None = None) -> Source:
    """The transcript (the present one, unless given) and media of a recording. Raises Problem while not ready."""
    transcript, media = transcript or transcript_of(recording), recording.media
    if media is None:
        raise Problem(409, "This recording is still being prepared. Cutting starts when its file has been looked into.")
    file = levels_file(recording)
    levels = _levels(file) if file else None
    energy, beats = energy_known(recording), beats_known(recording)
    angles = tuple(
        Angle(each.number, each.name, str(each.film_id), (each.offset or 0.0) + each.nudge, each.drift)
        for each in angles_of(recording)
    )
    strength = strength_of(recording.clearer)
    faces, background = faces_of(recording), recording.background
    return Source(transcript, media, levels, faces, energy, beats, strength, angles, background)


def angles_of(recording: Recording) -> list[AngleRow]:
    """The other cameras and microphones of a recording that are in step with it."""
    return list(recording.angles.filter(offset__isnull=False).select_related("film"))


@lru_cache(maxsize=32)
def _levels(file: Path) -> Levels:
    return Levels(open_levels(file))


@lru_cache(maxsize=32)
def _silences(file: Path) -> tuple[Span, ...]:
    return tuple(silences_by(open_levels(file)))


def silences_of(recording: Recording) -> tuple[Span, ...]:
    """The silences in the sound of a recording, in seconds."""
    file = levels_file(recording)
    return _silences(file) if file else ()
