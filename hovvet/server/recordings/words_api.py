"""The words of a recording: finding and replacing, names & terms, sweep settings, speakers, files to take away."""

import uuid
from urllib.parse import quote

from django.http import HttpRequest, HttpResponse
from ninja import Field, Router, Schema
from pydantic import ValidationError

from hovvet.core.formats.transcripts import TranscriptKind, transcript_file
from hovvet.core.sweep.settings import SweepSettings
from hovvet.core.words.glossary import Term, rewrites, with_term
from hovvet.core.words.replace import Occurrence, in_context, occurrences
from hovvet.core.words.speakers import MOST_SPEAKERS
from hovvet.server.accounts.access import find
from hovvet.server.jobs.api import JobOut
from hovvet.server.jobs.models import Job
from hovvet.server.jobs.running import start_job
from hovvet.server.problems import Problem
from hovvet.server.recordings.loaded import transcript_of
from hovvet.server.recordings.models import Recording
from hovvet.server.recordings.preparing import SPEAKERS
from hovvet.server.recordings.shows import set_terms

router = Router(tags=["words"])

_TYPES = {
    "txt": "text/plain; charset=utf-8",
    "srt": "application/x-subrip; charset=utf-8",
    "vtt": "text/vtt; charset=utf-8",
    "json": "application/json",
}


class Replacing(Schema):
    """Words to find, and what they are to read."""

    find: str = Field(min_length=1, max_length=200)
    put: str = Field(min_length=1, max_length=200)


class Terms(Schema):
    """Names & terms, and the show they are kept with (None: with the recording alone)."""

    terms: list[Term] = Field(max_length=1000)
    show: str | None = None


class NewTerm(Schema):
    """A name or term, and what was heard in its place."""

    text: str = Field(min_length=1, max_length=120)
    heard: str = Field(default="", max_length=120)


class SpeakerCount(Schema):
    """How many people speak."""

    count: int = Field(ge=1, le=MOST_SPEAKERS)


def _recording(request: HttpRequest, recording_id: uuid.UUID) -> Recording:
    return find(request, Recording.objects.select_related("show"), pk=recording_id)


@router.post("/{recording_id}/occurrences", response=list[Occurrence])
def find_everywhere(request: HttpRequest, recording_id: uuid.UUID, given: Replacing) -> list[Occurrence]:
    """Every place where words stand, and what each would read."""
    return occurrences(transcript_of(_recording(request, recording_id)), given.find, given.put)


def _terms(recording: Recording) -> Terms:
    return Terms(terms=recording.defaults.terms, show=recording.show.name if recording.show else None)


@router.get("/{recording_id}/terms", response=Terms)
def read_terms(request: HttpRequest, recording_id: uuid.UUID) -> Terms:
    """Names & terms that hold for a recording."""
    return _terms(_recording(request, recording_id))


@router.put("/{recording_id}/terms", response=Terms)
def write_terms(request: HttpRequest, recording_id: uuid.UUID, given: Terms) -> Terms:
    """Change the list of names & terms."""
    recording = _recording(request, recording_id)
    set_terms(recording.defaults, given.terms)
    return _terms(recording)


@router.post("/{recording_id}/terms", response=Terms)
def add_term(request: HttpRequest, recording_id: uuid.UUID, given: NewTerm) -> Terms:
    """Add a name or term, or one more way in which it was heard."""
    recording = _recording(request, recording_id)
    try:
        set_terms(recording.defaults, with_term(recording.defaults.terms, given.text, given.heard))
    except ValidationError:
        raise Problem(
            422, "That term cannot be kept. Shorten it, or take away some of the ways it was heard."
        ) from None
    return _terms(recording)


@router.get("/{recording_id}/terms/occurrences", response=list[Occurrence])
def find_terms(request: HttpRequest, recording_id: uuid.UUID) -> list[Occurrence]:
    """Every place that was heard as another form of a name or term."""
    recording = _recording(request, recording_id)
    transcript = transcript_of(recording)
    return [in_context(transcript, change) for change in rewrites(transcript, recording.defaults.terms)]


@router.get("/{recording_id}/sweep-settings", response=SweepSettings)
def read_sweep_settings(request: HttpRequest, recording_id: uuid.UUID) -> HttpResponse:
    """What a sweep looks for in this recording and its show."""
    return _settings(_recording(request, recording_id).defaults.sweep)


def _settings(settings: SweepSettings) -> HttpResponse:
    return HttpResponse(settings.model_dump_json(), content_type="application/json")


@router.put("/{recording_id}/sweep-settings", response=SweepSettings)
def write_sweep_settings(request: HttpRequest, recording_id: uuid.UUID, given: SweepSettings) -> HttpResponse:
    """Change what a sweep looks for, for the whole show if there is one."""
    kept_with = _recording(request, recording_id).defaults
    kept_with.sweep_json = given.model_dump(mode="json")
    kept_with.save(update_fields=["sweep_json"])
    return _settings(given)


@router.post("/{recording_id}/speakers", response=JobOut)
def suggest_speakers(request: HttpRequest, recording_id: uuid.UUID, given: SpeakerCount) -> Job:
    """Suggest who speaks when, from the voices; what was set by hand stays."""
    recording = _recording(request, recording_id)
    if not transcript_of(recording).words:
        raise Problem(409, "There are no words in this recording, so nobody can be told apart.")
    if not (recording.folder / "speech.wav").exists():
        raise Problem(409, "The sound of this recording is not ready yet. Wait until it is prepared.")
    return start_job(recording.workspace, SPEAKERS, recording.pk, count=given.count, by=request.user.pk)


@router.get("/{recording_id}/transcript.{kind}", response={200: None}, include_in_schema=False)
def download_transcript(request: HttpRequest, recording_id: uuid.UUID, kind: TranscriptKind) -> HttpResponse:
    """The whole transcript as a file."""
    recording = _recording(request, recording_id)
    answer = HttpResponse(transcript_file(transcript_of(recording), kind), content_type=_TYPES[kind])
    name = (
        "".join(letter if letter.isalnum() or letter in " -_" else "_" for letter in recording.title).strip() or "words"
    )
    answer.headers["Content-Disposition"] = f"attachment; filename*=UTF-8''{quote(name)}.{kind}"
    return answer
