"""Parsed transcripts and silences, kept in memory: reading 20,000 words anew for each edit would be slow."""

import uuid
from functools import lru_cache

from hovvet.core.media.decode import SPEECH_RATE
from hovvet.core.media.wav import read_wav
from hovvet.core.plan.compile import Source
from hovvet.core.spans import Span
from hovvet.core.sweep.sweep import find_silences
from hovvet.server.problems import Problem
from hovvet.server.recordings.models import Recording


@lru_cache(maxsize=32)
def _source(recording_id: uuid.UUID, _revision: str) -> Source:
    recording = Recording.objects.get(pk=recording_id)
    media, transcript = recording.media, recording.transcript
    if media is None or transcript is None:
        raise Problem(
            409, "This recording is still being prepared. Its words can be read; cutting starts when all are there."
        )
    return Source(transcript, media)


def source_of(recording: Recording) -> Source:
    """The transcript and media of a recording. Raises Problem while they are not ready."""
    # A transcript, once complete, is replaced as a whole, and the loudness comes later: both count as a revision.
    revision = f"{bool(recording.transcript_json)}{recording.media_json}"
    return _source(recording.pk, revision)


@lru_cache(maxsize=32)
def _silences(recording_id: uuid.UUID) -> tuple[Span, ...]:
    wav = Recording.objects.get(pk=recording_id).folder / "speech.wav"
    return tuple(find_silences(read_wav(wav), SPEECH_RATE)) if wav.exists() else ()


def silences_of(recording: Recording) -> tuple[Span, ...]:
    """The silences in the sound of a recording, in seconds."""
    return _silences(recording.pk)
