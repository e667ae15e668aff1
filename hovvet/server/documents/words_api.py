"""The words of a recording: reading, giving, finding and replacing, names & terms, sweep settings, speakers, files."""

import json
import uuid
from collections.abc import Callable, Sequence
from pathlib import Path
from typing import Annotated

from django.db import transaction
from django.db.models import F
from django.http import HttpRequest, HttpResponse
from ninja import Field, File, Router
from ninja.files import UploadedFile
from pydantic import ValidationError

from hovvet.core.engines.whisper import Quality
from hovvet.core.errors import CoreError
from hovvet.core.formats.transcripts import TranscriptKind, transcript_file
from hovvet.core.media.checked import published
from hovvet.core.sweep.settings import Phrase, SweepSettings
from hovvet.core.text import SomeText
from hovvet.core.words.glossary import Term, nearly, rewrites, with_term, without_term
from hovvet.core.words.languages import LANGUAGES
from hovvet.core.words.layout import Paragraph, Pause, paragraphs, pauses
from hovvet.core.words.replace import Occurrence, in_context, occurrences, places
from hovvet.core.words.speakers import MOST_SPEAKERS
from hovvet.core.words.transcript import Speaker, Word
from hovvet.core.words.words_apart import check_apart
from hovvet.core.words.words_in import LARGEST
from hovvet.server.accounts.access import find
from hovvet.server.documents.models import Document
from hovvet.server.documents.opening import sheet_of
from hovvet.server.documents.speaking import SPEAKERS
from hovvet.server.documents.transcripts import corrected_of, transcript_at, transcript_of
from hovvet.server.jobs.api import JobOut
from hovvet.server.jobs.models import Job
from hovvet.server.jobs.running import cancel_job, start_job
from hovvet.server.problems import Problem
from hovvet.server.ranges import attachment
from hovvet.server.recordings.events import words_given_up
from hovvet.server.recordings.models import Recording
from hovvet.server.recordings.preparing import TRANSCRIBE
from hovvet.server.schema import Schema

router = Router(tags=["words"])

_TYPES = {
    "txt": "text/plain; charset=utf-8",
    "srt": "application/x-subrip; charset=utf-8",
    "vtt": "text/vtt; charset=utf-8",
    "json": "application/json",
}


class Replacing(Schema):
    """Words to find, and what they are to read; ``parts`` also finds them inside longer words."""

    find: str = Field(min_length=1, max_length=200)
    put: str = Field(min_length=1, max_length=200)
    parts: bool = False


class Terms(Schema):
    """Names & terms, and the show they are kept with (None: with the recording alone)."""

    terms: list[Term]
    show: str | None = None


class OneTerm(Schema):
    """A name or term, and one way in which it was heard, if any."""

    text: SomeText = Field(min_length=1, max_length=120)
    heard: str = Field(default="", max_length=120)


class ListChange(Schema):
    """What comes into a list and what goes from it."""

    add: list[Phrase] = Field(default=[], max_length=200)
    remove: list[Phrase] = Field(default=[], max_length=200)


class SettingsChange(Schema):
    """What is to be otherwise in the settings of a sweep; all else stays."""

    pause_from: float | None = None
    pause_left: float | None = None
    fillers: ListChange = ListChange()
    phrases: ListChange = ListChange()


class TranscriptOut(Schema):
    """The page to read. ``complete`` is False while words are still being found; ``heard`` is how far, in seconds.

    ``words_at`` tells at which correction it stands.
    """

    words_at: int
    complete: bool
    heard: float
    duration: float
    words: list[Word]
    paragraphs: list[Paragraph]
    pauses: list[Pause]
    speakers: list[Speaker]


class SpeakerCount(Schema):
    """How many people speak; None when the voices are to suggest that too."""

    count: int | None = Field(None, ge=1, le=MOST_SPEAKERS)


def _recording(request: HttpRequest, recording_id: uuid.UUID) -> Recording:
    return find(request, Recording.objects.select_related("show"), pk=recording_id)


@router.post("/{recording_id}/occurrences", response=list[Occurrence])
def find_everywhere(request: HttpRequest, recording_id: uuid.UUID, given: Replacing) -> list[Occurrence]:
    """Every place where words stand, and what each would read."""
    return occurrences(transcript_of(_recording(request, recording_id)), given.find, given.put, given.parts)


@router.get("/{recording_id}/places", response=list[tuple[int, int]])
def find_places(
    request: HttpRequest, recording_id: uuid.UUID, text: Annotated[str, Field(max_length=200)], parts: bool = False
) -> list[tuple[int, int]]:
    """Where a text stands on the page, as (first, last) places of words."""
    words = transcript_of(_recording(request, recording_id)).words
    return [(first, end - 1) for first, end in places(words, text, parts)]


def _terms(recording: Recording) -> Terms:
    return Terms(terms=recording.defaults.terms, show=recording.show.name if recording.show else None)


@router.get("/{recording_id}/terms", response=Terms)
def read_terms(request: HttpRequest, recording_id: uuid.UUID) -> Terms:
    """Names & terms that hold for a recording."""
    return _terms(_recording(request, recording_id))


def _change_terms(recording: Recording, change: Callable[[Sequence[Term]], Sequence[Term]]) -> Terms:
    """One small change to the list as it is now, so that two people who add at once both do."""
    try:
        recording.defaults.change_terms(change)
    except ValidationError:
        raise Problem(
            422, "That term cannot be kept. Shorten it, or take away some of the ways it was heard."
        ) from None
    return _terms(recording)


@router.post("/{recording_id}/terms", response=Terms)
def add_term(request: HttpRequest, recording_id: uuid.UUID, given: OneTerm) -> Terms:
    """Add a name or term, or one more way in which it was heard."""
    recording = _recording(request, recording_id)
    return _change_terms(recording, lambda terms: with_term(terms, given.text, given.heard))


@router.post("/{recording_id}/terms/remove", response=Terms)
def remove_term(request: HttpRequest, recording_id: uuid.UUID, given: OneTerm) -> Terms:
    """Take a name or term away, or one way in which it was heard."""
    recording = _recording(request, recording_id)
    return _change_terms(recording, lambda terms: without_term(terms, given.text, given.heard))


@router.get("/{recording_id}/terms/occurrences", response=list[Occurrence])
def find_terms(request: HttpRequest, recording_id: uuid.UUID) -> list[Occurrence]:
    """Every place that was heard as another form of a name or term, and those that read nearly like one."""
    recording = _recording(request, recording_id)
    transcript, terms = transcript_of(recording), recording.defaults.terms
    return [in_context(transcript, change) for change in (*rewrites(transcript, terms), *nearly(transcript, terms))]


@router.get("/{recording_id}/sweep-settings", response=SweepSettings)
def read_sweep_settings(request: HttpRequest, recording_id: uuid.UUID) -> HttpResponse:
    """What a sweep looks for in this recording and its show."""
    return _settings(_recording(request, recording_id).defaults.sweep)


def _settings(settings: SweepSettings) -> HttpResponse:
    return HttpResponse(settings.model_dump_json(), content_type="application/json")


@router.patch("/{recording_id}/sweep-settings", response=SweepSettings)
def change_sweep_settings(request: HttpRequest, recording_id: uuid.UUID, given: SettingsChange) -> HttpResponse:
    """Change what a sweep looks for, for the whole show if there is one."""
    kept_with = _recording(request, recording_id).defaults
    pauses = {name: value for name in ("pause_from", "pause_left") if (value := getattr(given, name)) is not None}

    def change(now: SweepSettings) -> SweepSettings:
        return now.changed(pauses, given.fillers.add, given.fillers.remove, given.phrases.add, given.phrases.remove)

    try:
        return _settings(kept_with.change_sweep(change))
    except ValidationError as error:
        raise Problem(422, f"These settings cannot be kept: {error.errors()[0]['msg']}.") from None


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
    answer = HttpResponse(
        transcript_file(transcript_of(recording), kind, recording.chapters), content_type=_TYPES[kind]
    )
    answer.headers["Content-Disposition"] = attachment(f"{recording.title}.{kind}")
    return answer


@router.get("/{recording_id}/transcript", response=TranscriptOut)
def read_transcript(request: HttpRequest, recording_id: uuid.UUID) -> HttpResponse:
    """The words of a recording, or as many as have been found so far."""
    recording = _recording(request, recording_id)
    at = None
    speakers: list[Speaker] = []
    complete = recording.words_ready
    if complete:
        at = corrected_of(recording)
        transcript = transcript_at(recording, at)
        words, heard, duration = list(transcript.words), transcript.duration, transcript.duration
        speakers = transcript.cast()
    else:
        found = list(recording.stretches.all())
        words = [Word.model_validate(word) for stretch in found for word in stretch.words]
        heard = found[-1].done if found else 0.0
        duration = recording.media.duration if recording.media else 0.0
    page = TranscriptOut(
        words_at=at or 0,
        complete=complete,
        heard=heard,
        duration=duration,
        words=words,
        paragraphs=paragraphs(words),
        pauses=pauses(words, heard),
        speakers=speakers,
    )
    # Written by pydantic itself: the general way takes a second for 20,000 words.
    return HttpResponse(page.model_dump_json(), content_type="application/json")


class WordsGiven(Schema):
    """The recording whose words were given."""

    id: uuid.UUID


class HearAgain(Schema):
    """How carefully a recording is to be listened to, and in which language; what is not given stays."""

    hears: Quality | None = None
    language: str | None = None


@router.post("/{recording_id}/transcribe", response=WordsGiven)
def transcribe_again(request: HttpRequest, recording_id: uuid.UUID, given: HearAgain) -> WordsGiven:
    """Listen to a recording again. Corrections and speakers are laid over the new words; what does not fit is told."""
    recording = _recording(request, recording_id)
    if given.language is not None and given.language not in LANGUAGES:
        raise Problem(422, "Hovvet does not know that language.")
    if not (recording.folder / "speech.wav").exists():
        raise Problem(409, "The sound of this recording is not ready yet. Wait until it is prepared.")
    if not recording.words_ready:
        raise Problem(409, "It is being listened to already. Wait until all words are there.")
    first, now = recording.first_transcript, transcript_of(recording)
    assert first
    desk = _free_of_cuts(recording)
    with published(recording.before) as part:
        part.write_text(json.dumps({"first": first.model_dump(mode="json"), "now": now.model_dump(mode="json")}))
    for words in recording.folder.glob("given.*"):
        words.unlink()
    with transaction.atomic():
        Recording.objects.filter(pk=recording.pk).update(
            hears=given.hears or recording.hears, spoken=given.language or recording.spoken, sounds_like=""
        )
        _begin_again(recording, desk)
    return WordsGiven(id=recording.pk)


def _free_of_cuts(recording: Recording) -> Document | None:
    """The desk of a recording, if it has one. Raises Problem where cuts or clips hang on its words."""
    desk = (
        Document.objects.filter(recording=recording, kind=Document.Kind.DESK)
        .select_related("head", "workspace")
        .first()
    )
    cut = desk is not None and any(piece.word_cuts or piece.pause_cuts for piece in sheet_of(desk).pieces)
    if recording.shown_in.exists() or cut:
        raise Problem(
            409,
            "There are cuts or clips in this recording that hang on its present words. Bring the recording in once more "
            "to have it heard otherwise.",
        )
    return desk


def _begin_again(recording: Recording, desk: Document | None) -> None:
    """Forget the words of a recording, and have them found anew."""
    if desk:
        desk.delete()
    recording.stretches.all().delete()
    words_given_up.send(Recording, recording=recording)
    Recording.objects.filter(pk=recording.pk).update(
        transcript_json=None, words_version=F("words_version") + 1, word_count=0, speaker_names=[]
    )
    if (recording.folder / "speech.wav").exists():
        start_job(recording.workspace, TRANSCRIBE, recording.pk)


@router.post("/{recording_id}/words-file", response=WordsGiven)
def give_words(request: HttpRequest, recording_id: uuid.UUID, file: File[UploadedFile]) -> WordsGiven:
    """Use the words of an SRT, VTT or TXT file instead of recognising them."""
    recording = _recording(request, recording_id)
    desk = Document.objects.filter(recording=recording, kind=Document.Kind.DESK).first()
    if recording.shown_in.exists() or (desk and desk.version > 1):
        raise Problem(
            409,
            "There are cuts, corrections or clips in this recording that hang on its present words. "
            "Bring the recording in once more, and give it these words there.",
        )
    name, data = file.name or "", file.read(LARGEST + 1)
    try:
        check_apart(data, name)
    except CoreError as error:
        instead = "The words it has stay." if recording.words_ready else "Its words are recognised instead."
        raise Problem(422, f"“{name}” was not used: {error} {instead}") from None
    for job in Job.objects.filter(target=recording.pk, kind=TRANSCRIBE):
        cancel_job(job)
    given = recording.folder / f"given{Path(name).suffix.lower()}"
    with published(given) as part:
        part.write_bytes(data)
    for old in set(recording.folder.glob("given.*")) - {given}:
        old.unlink()
    with transaction.atomic():
        _begin_again(recording, desk)
    return WordsGiven(id=recording.pk)
