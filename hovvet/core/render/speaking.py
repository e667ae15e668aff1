"""Sentences spoken beforehand: the sound of each, its words, and how loud it is."""

import tempfile
from collections.abc import Iterator, Sequence
from functools import cache
from itertools import groupby
from pathlib import Path

from hovvet.core.compile.source import Source
from hovvet.core.engines.narrator import narrate
from hovvet.core.media.checked import check_wav, published
from hovvet.core.media.decode import speech_wav
from hovvet.core.media.ffmpeg import Progress, no_progress
from hovvet.core.media.info import MediaInfo
from hovvet.core.media.sealed import intact, sealed
from hovvet.core.media.wav import read_wav, wav_length
from hovvet.core.plan.model import Spoken
from hovvet.core.sound.energy import energy_of, integrated, open_energy, write_energy
from hovvet.core.words.spoken_text import words_of
from hovvet.core.words.timing import Aligner
from hovvet.core.words.transcript import Transcript

_TOGETHER = 12  # sentences for which a voice is started once


def sound_file(folder: Path, media: str) -> Path:
    """Where the sound of a sentence is."""
    return folder / f"{media}.wav"


def is_spoken(folder: Path, media: str) -> bool:
    """Whether a sentence has been spoken."""
    return sound_file(folder, media).exists()


def speak(wanted: Sequence[Spoken], folder: Path, progress: Progress = no_progress) -> None:
    """Speak sentences into files of a folder, of those that are not there. Raises CoreError, MediaError."""
    missing = [each for each in dict.fromkeys(wanted) if not intact(sound_file(folder, each.media))]
    done = 0
    for batch in _batches(missing):
        with tempfile.TemporaryDirectory(dir=folder, prefix=".prepare-") as holder:
            made = [Path(holder) / f"{each.media}.wav" for each in batch]
            narrate([each.text for each in batch], batch[0].narrator, batch[0].pace, made)
            for each, file in zip(batch, made, strict=True):
                _keep(each, file, folder)
        done += len(batch)
        progress(done / len(missing))


def _batches(wanted: Sequence[Spoken]) -> Iterator[list[Spoken]]:
    for _, same in groupby(sorted(wanted, key=_way), key=_way):
        group = list(same)
        yield from (group[n : n + _TOGETHER] for n in range(0, len(group), _TOGETHER))


def _way(each: Spoken) -> tuple[str, float]:
    return each.narrator, each.pace


def _keep(each: Spoken, file: Path, folder: Path) -> None:
    """The sound last: where it is, the rest is too."""
    samples, rate = wav_length(file)
    duration = samples / rate
    speech = file.with_suffix(".speech.wav")
    speech_wav(file, speech, duration)
    words = tuple(words_of(each.text, read_wav(speech), _aligner()))
    with published(folder / f"{each.media}.json") as part:
        part.write_text(Transcript(duration=duration, words=words).model_dump_json())
    with published(folder / f"{each.media}.f32") as part:
        write_energy(energy_of(file, 2, duration), part)
    with sealed(sound_file(folder, each.media), check_wav) as part:
        part.write_bytes(file.read_bytes())


@cache
def _aligner() -> Aligner:
    return Aligner()


def spoken_source(folder: Path, media: str) -> Source:
    """A sentence that has been spoken, as compiling needs it."""
    transcript = Transcript.model_validate_json((folder / f"{media}.json").read_bytes())
    energy = open_energy(folder / f"{media}.f32")
    media_info = MediaInfo(
        duration=transcript.duration, has_picture=False, has_sound=True, channels=2, lufs=integrated(energy.power)
    )
    return Source(transcript, media_info, energy=energy)
