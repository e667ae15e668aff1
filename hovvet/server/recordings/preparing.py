"""The stages a recording goes through after it was brought in.

Each stage writes its file beside and renames it, and is skipped when the file
is there: a worker that takes over goes on with the stage its forerunner was in.
"""

from collections.abc import Callable
from functools import cache
from pathlib import Path

from django.conf import settings
from django.db import transaction

from hovvet.core.engines.whisper import WhisperRecogniser
from hovvet.core.errors import CoreError
from hovvet.core.media.decode import SPEECH_RATE, speech_wav
from hovvet.core.media.info import MediaInfo
from hovvet.core.media.peaks import skyline, write_peaks
from hovvet.core.media.probe import probe
from hovvet.core.media.wav import wav_length
from hovvet.core.media.working import loudness, thumbnails, working_copy
from hovvet.core.words.timing import Aligner
from hovvet.core.words.transcribe import in_order, stretches, to_words
from hovvet.core.words.transcript import Transcript, Word
from hovvet.server.jobs.running import Report, handles, start_job
from hovvet.server.recordings.models import Recording, Stretch

PREPARE, TRANSCRIBE = "prepare", "transcribe"
SKYLINE_COLUMNS = 240
_ENDS_EARLY = 2.0  # seconds that may be missing before the person is told


@handles(PREPARE)
def prepare(report: Report) -> None:
    """Make everything the page needs from the original."""
    recording = Recording.objects.get(pk=report.target)
    folder = recording.folder
    report.stage("Looking into the file", 0, 0.02)
    media = _looked_into(recording)
    if media.has_sound:
        report.stage("Reading the sound", 0.02, 0.15)
        make(folder / "speech.wav", lambda part: speech_wav(recording.original, part, media.duration, report))
        media = _true_length(recording, media)
        start_job(recording.workspace, TRANSCRIBE, recording.pk)
        report.stage("Drawing the waveform", 0.15, 0.2)
        make(folder / "peaks.bin", lambda part: write_peaks(folder / "speech.wav", part))
        report.stage("Measuring the loudness", 0.2, 0.25)
        if media.lufs is None:
            media = media.model_copy(update={"lufs": loudness(recording.original, media.duration)})
        columns = skyline((folder / "peaks.bin").read_bytes(), SKYLINE_COLUMNS)
    else:
        columns = []
        _save(recording, transcript_json=Transcript(duration=media.duration).model_dump(mode="json"))
        _save(recording, notice="There is no sound in this file, so there are no words to work with.")
    _save(recording, media_json=media.model_dump(mode="json"), skyline=columns)
    if media.has_picture:
        report.stage("Picking thumbnails", 0.25, 0.3)
        make(folder / "thumbs.jpg", lambda part: thumbnails(recording.original, media, part))
    report.stage("Making the working copy", 0.3, 1)
    make(folder / "working.mp4", lambda part: working_copy(recording.original, media, part, report))


def make(out: Path, write: Callable[[Path], None]) -> None:
    """Have a file written beside ``out`` and renamed to it, unless it is there already."""
    if out.exists():
        return
    part = out.with_name(f"{out.name}.part")
    try:
        write(part)
        part.replace(out)
    finally:
        part.unlink(missing_ok=True)


def _save(recording: Recording, **values: object) -> None:
    Recording.objects.filter(pk=recording.pk).update(**values)


def _looked_into(recording: Recording) -> MediaInfo:
    media = recording.media or probe(recording.original)
    if media.duration > settings.RECORDING_SECONDS:
        hours = settings.RECORDING_SECONDS / 3600
        raise CoreError(
            f"This recording is {media.duration / 3600:.1f} hours long. The longest Hovvet takes is {hours:g}."
        )
    _save(recording, media_json=media.model_dump(mode="json"))
    return media


def _true_length(recording: Recording, media: MediaInfo) -> MediaInfo:
    """The length by what could be decoded; a container may claim more, or nothing."""
    samples, rate = wav_length(recording.folder / "speech.wav")
    heard = samples / rate
    if heard < 0.05:
        raise CoreError("The sound in this file could not be read. Copy it again from where it was recorded.")
    if media.duration - heard > _ENDS_EARLY and not media.has_picture:
        _save(recording, notice=_early(media.duration, heard))
        return media.model_copy(update={"duration": heard})
    if media.duration - heard > max(_ENDS_EARLY, media.duration * 0.1):
        _save(recording, notice=_early(media.duration, heard))
    return media.model_copy(update={"duration": heard}) if media.duration == 0 else media


def _early(claimed: float, heard: float) -> str:
    return (
        f"The file says it is {claimed:.0f} s long, but its sound ends after {heard:.0f} s. "
        "You can work with what there is, or bring in a complete copy."
    )


@cache
def _engines() -> tuple[WhisperRecogniser, Aligner]:
    model = Path(settings.SPEECH_MODEL) if settings.SPEECH_MODEL else None
    return WhisperRecogniser(model), Aligner()


@handles(TRANSCRIBE)
def transcribe(report: Report) -> None:
    """Recognise the words, stretch by stretch; each stretch can be read as soon as it is done."""
    recording = Recording.objects.get(pk=report.target)
    if recording.transcript_json:
        return
    wav = recording.folder / "speech.wav"
    total = wav_length(wav)[0] / SPEECH_RATE
    report.stage("Listening for words", 0, 1)
    known = list(recording.stretches.all())
    count = sum(len(stretch.words) for stretch in known)
    done = known[-1].done if known else 0.0
    recogniser, aligner = _engines()
    for done, heard in stretches(wav, recogniser, aligner, start=done):  # noqa: B020 - goes on from where it was
        words = to_words(heard, count + 1)
        count += len(words)
        Stretch.objects.create(recording=recording, done=done, words=[word.model_dump() for word in words])
        report(done / total)
    with transaction.atomic():
        found = [Word.model_validate(word) for stretch in recording.stretches.all() for word in stretch.words]
        document = Transcript(duration=round(max(total, found[-1].end if found else 0), 3), words=in_order(found))
        _save(recording, transcript_json=document.model_dump(mode="json"))
        recording.stretches.all().delete()
        if not found:
            _save(
                recording, notice="No speech was found in this recording. If there is some, check that it can be heard."
            )
