"""The stages a recording goes through after it was brought in.

Each stage writes under a name of its own, checks what it made and renames it, and is skipped when
the file is there: a worker that takes over goes on with the stage its forerunner was in.
"""

import hashlib
import json
from collections.abc import Callable
from functools import cache
from pathlib import Path

import numpy as np
from django.conf import settings
from django.db import transaction

from hovvet.core.engines.whisper import Quality, WhisperRecogniser
from hovvet.core.errors import Cancelled, CoreError
from hovvet.core.media.checked import check_media, check_wav, no_check, published
from hovvet.core.media.decode import SPEECH_RATE, speech_wav
from hovvet.core.media.info import MediaInfo
from hovvet.core.media.intake import ENDS_EARLY, ends_early, take_in
from hovvet.core.media.peaks import skyline, write_peaks
from hovvet.core.media.wav import read_wav, wav_length
from hovvet.core.media.working import thumbnails, working_copy
from hovvet.core.sound.silence import Sound, levels
from hovvet.core.time import clock
from hovvet.core.value import with_changes
from hovvet.core.words.given import from_cues, from_text
from hovvet.core.words.glossary import apply_terms, hints, nearly
from hovvet.core.words.laid_over import laid_over
from hovvet.core.words.languages import another_language, limits_of, tastes
from hovvet.core.words.replace import in_context
from hovvet.core.words.timing import Refiner, refiner
from hovvet.core.words.transcribe import in_order, stretches, to_words
from hovvet.core.words.transcript import Transcript, Word
from hovvet.core.words.trouble import given_trouble, near_names, sound_trouble, words_trouble
from hovvet.core.words.words_apart import read_apart
from hovvet.server.jobs.running import Report, handles, start_job
from hovvet.server.recordings.describing import describe_words
from hovvet.server.recordings.events import words_found
from hovvet.server.recordings.levels import levels_file
from hovvet.server.recordings.links import importer_for
from hovvet.server.recordings.looking import look_for_faces
from hovvet.server.recordings.measuring import measured
from hovvet.server.recordings.models import Recording, Stretch
from hovvet.server.recordings.parts import PartLink

_PARTS = PartLink()
PREPARE, TRANSCRIBE = "prepare", "transcribe"
SKYLINE_COLUMNS = 240
_TOLD = 8  # corrections that are named
_AUDIBLE = -45.0  # dB: sound above this is heard as more than the hiss of a room


@handles(PREPARE, priority=10, part="bringing in")
def prepare(report: Report) -> None:
    """Make everything the page needs from the original."""
    recording = Recording.objects.get(pk=report.target)
    folder = recording.folder
    if recording.link and not recording.original.exists():
        _fetched(recording, report)
    report.stage("Looking into the file", 0, 0.02)
    media, file = _looked_into(recording)
    _tell_twice(recording)
    if media.has_sound:
        report.stage("Reading the sound", 0.02, 0.15)
        make(folder / "speech.wav", lambda part: speech_wav(file, part, media.duration, report), check_wav)
        media = _true_length(recording, media)
        tell(recording, sound_trouble(_samples_of(folder / "speech.wav"), SPEECH_RATE))
        if recording.unheard:
            _without_words(recording, media)
        else:
            start_job(recording.workspace, TRANSCRIBE, recording.pk)
        levels_file(recording)
        report.stage("Drawing the waveform", 0.15, 0.2)
        make(folder / "peaks.bin", lambda part: write_peaks(folder / "speech.wav", part))
        report.stage("Measuring the loudness", 0.2, 0.25)
        media = with_changes(media, lufs=measured(recording, media, file))
        columns = skyline((folder / "peaks.bin").read_bytes(), SKYLINE_COLUMNS)
    else:
        columns = []
        _without_words(recording, media)
        if not recording.unheard:
            tell(recording, "There is no sound in this file, so there are no words to work with.")
    _save(recording, media_json=media.model_dump(mode="json"), skyline=columns)
    if media.has_picture:
        report.stage("Picking thumbnails", 0.25, 0.3)
        make(folder / "thumbs.jpg", lambda part: thumbnails(file, media, part))
    report.stage("Preparing the preview", 0.3, 1)
    make(
        folder / "working.mp4",
        lambda part: working_copy(file, media, part, report),
        lambda part: check_media(part, min(media.duration, _heard(folder)), media.has_picture, media.has_sound),
    )
    look_for_faces(Recording.objects.get(pk=recording.pk), again=True)  # as it is known by now


def _without_words(recording: Recording, media: MediaInfo) -> None:
    _save(recording, transcript_json=Transcript(duration=media.duration).model_dump(mode="json"))


def make(out: Path, write: Callable[[Path], None], check: Callable[[Path], None] = no_check) -> None:
    """Have a file written and published as ``out`` once it is found good, unless it is there already."""
    if not out.exists():
        with published(out, check) as part:
            write(part)


def _heard(folder: Path) -> float:
    """Seconds of sound that could be decoded; without any, no limit."""
    wav = folder / "speech.wav"
    return wav_length(wav)[0] / SPEECH_RATE if wav.exists() else float("inf")


def _save(recording: Recording, **values: object) -> None:
    Recording.objects.filter(pk=recording.pk).update(**values)


def tell(recording: Recording, message: str) -> None:
    """Tell the person something about a recording that is no error; two jobs may do so at once."""
    if not message:
        return
    with transaction.atomic():
        told = Recording.objects.filter(pk=recording.pk).values_list("notice", flat=True).first()
        if told is not None and message not in told:
            _save(recording, notice=f"{told} {message}".strip())


def _fetched(recording: Recording, report: Report) -> None:
    report.stage("Fetching the file", 0, 0.02)
    with published(recording.original) as part:
        importer = _PARTS if _PARTS.takes(recording.link) else importer_for(recording.link)
        importer.fetch(recording.link, part, report)
    _save(recording, size=recording.original.stat().st_size)


def _tell_twice(recording: Recording) -> None:
    """Notice a file that was brought in before."""
    if not recording.digest:
        with recording.original.open("rb") as file:
            recording.digest = hashlib.file_digest(file, "sha256").hexdigest()
        _save(recording, digest=recording.digest, size=recording.original.stat().st_size)
    twins = Recording.objects.filter(workspace=recording.workspace_id, digest=recording.digest).exclude(pk=recording.pk)
    if twin := twins.first():
        tell(recording, f"This is the same file as “{twin.title}”. Delete one of the two if you need it only once.")


def _samples_of(wav: Path) -> Sound:
    """Up to five minutes of a recording, in 20 pieces from all over it: enough to judge its sound."""
    total = wav_length(wav)[0]
    piece = 15 * SPEECH_RATE
    if total <= 20 * piece:
        return read_wav(wav)
    return np.concatenate([read_wav(wav, n * (total - piece) // 19, piece) for n in range(20)])


def _looked_into(recording: Recording) -> tuple[MediaInfo, Path]:
    """What is in the file, and the file to read from now on."""
    if recording.media:
        return recording.media, recording.source_file
    taken = take_in(recording.original, recording.bridged, settings.RECORDING_SECONDS)
    tell(recording, taken.told)
    _save(recording, media_json=taken.media.model_dump(mode="json"))
    return taken.media, taken.path


def _true_length(recording: Recording, media: MediaInfo) -> MediaInfo:
    """The length by what could be decoded; a container may claim more, or nothing."""
    heard = _heard(recording.folder)
    if heard < 0.05:
        raise CoreError("The sound in this file could not be read. Copy it again from where it was recorded.")
    if media.duration - heard > ENDS_EARLY and not media.has_picture:
        tell(recording, ends_early(media.duration, heard))
        return with_changes(media, duration=heard)
    if media.duration - heard > max(ENDS_EARLY, media.duration * 0.1):
        tell(recording, ends_early(media.duration, heard))
    return with_changes(media, duration=heard) if media.duration == 0 else media


def _sounds_like(recording: Recording, wav: Path, recogniser: WhisperRecogniser) -> str:
    """Another language than the one it was listened to in, where parts of it sound like one."""
    parts = tastes(wav_length(wav)[0] / SPEECH_RATE)
    sounds = (read_wav(wav, round(start * SPEECH_RATE), round((end - start) * SPEECH_RATE)) for start, end in parts)
    return another_language(map(recogniser.sounds_like, sounds), recording.language)


@cache
def _refiner(language: str) -> Refiner:
    return refiner(language)


@cache
def _recogniser(language: str, quality: Quality) -> WhisperRecogniser:
    model = Path(settings.SPEECH_MODEL) if settings.SPEECH_MODEL else None
    return WhisperRecogniser(model, language=language, quality=quality)


@handles(TRANSCRIBE, priority=13, part="bringing in")
def transcribe(report: Report) -> None:
    """Find the words: in a file the person gave, or by listening."""
    recording = Recording.objects.select_related("show").get(pk=report.target)
    if recording.transcript_json:
        return
    wav = recording.folder / "speech.wav"
    given = recording.given_words is not None
    transcript = _placed(recording, wav, report) if given else _recognised(recording, wav, report)
    tell(recording, limits_of(recording.language))
    transcript = _as_corrected(recording, transcript)
    with transaction.atomic():
        _save(recording, transcript_json=transcript.model_dump(mode="json"))
        recording.stretches.all().delete()
        describe_words(recording, transcript)
        words_found.send(Recording, recording=recording)
    loud = float(np.percentile(levels(_samples_of(wav), SPEECH_RATE), 90)) > _AUDIBLE
    tell(recording, words_trouble(transcript.words, transcript.duration, loud))
    if given:
        tell(recording, given_trouble(transcript.words, transcript.duration))
    near = (in_context(transcript, change) for change in nearly(transcript, recording.defaults.terms))
    tell(recording, near_names([(each.now, each.change.text) for each in near][:_TOLD]))


def _placed(recording: Recording, wav: Path, report: Report) -> Transcript:
    """The words of the file that was given, at the times they are said."""
    given = recording.given_words
    assert given
    report.stage("Placing your words", 0, 1)
    try:
        said, refined = read_apart(given), _refiner(recording.language)
        if given.suffix == ".txt":
            return from_text(wav, said, _recogniser(recording.language, recording.quality), refined, report)
        return from_cues(wav, said, refined, report)
    except Cancelled:
        raise
    except CoreError as error:
        given.unlink(missing_ok=True)
        raise CoreError(f"{error} Import another transcript, or press Retry to have the words recognised.") from None


def _as_corrected(recording: Recording, fresh: Transcript) -> Transcript:
    """New words with what was corrected in those before them, where there were such; what does not fit is told."""
    if not recording.before.exists():
        return fresh
    kept = json.loads(recording.before.read_bytes())
    first, now = (Transcript.model_validate(kept[name]) for name in ("first", "now"))
    made, left = laid_over(fresh, first, now)
    if left:
        named = ", ".join(f"“{each.text or each.heard}” at {clock(each.span[0])}" for each in left[:_TOLD])
        more = f" and {len(left) - _TOLD} more" if len(left) > _TOLD else ""
        tell(recording, f"These corrections no longer fit what was heard: {named}{more}.")
    recording.before.unlink()
    return made


def _recognised(recording: Recording, wav: Path, report: Report) -> Transcript:
    """Recognise the words, stretch by stretch; each stretch can be read as soon as it is done."""
    total = wav_length(wav)[0] / SPEECH_RATE
    report.stage("Transcribing", 0, 1)
    known = list(recording.stretches.all())
    count = sum(len(stretch.words) for stretch in known)
    done = known[-1].done if known else 0.0
    terms = recording.defaults.terms
    recogniser = _recogniser(recording.language, recording.quality)
    refined = _refiner(recording.language)
    for done, heard in stretches(wav, recogniser, refined, start=done, hints=hints(terms)):  # noqa: B020 - goes on
        words = to_words(heard, count + 1, language=recording.language)
        count += len(words)
        Stretch.objects.create(recording=recording, done=done, words=[word.model_dump() for word in words])
        report(done / total)
    _save(recording, sounds_like=_sounds_like(recording, wav, recogniser))
    found = [Word.model_validate(word) for stretch in recording.stretches.all() for word in stretch.words]
    duration = round(max(total, found[-1].end if found else 0), 3)
    return apply_terms(Transcript(duration=duration, language=recording.language, words=in_order(found)), terms)
