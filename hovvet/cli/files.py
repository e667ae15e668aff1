"""What the commands read and write: recordings, transcripts, sheets; and what they tell meanwhile."""

import json
import sys
import tempfile
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

import numpy as np
from pydantic import ValidationError

from hovvet.core.errors import CoreError
from hovvet.core.media.checked import published
from hovvet.core.media.decode import speech_wav
from hovvet.core.media.ffmpeg import Progress
from hovvet.core.media.info import MediaInfo
from hovvet.core.media.intake import Intake, take_in
from hovvet.core.media.wav import read_wav
from hovvet.core.sheet.model import Sheet
from hovvet.core.sheet.upgrade import read_sheet
from hovvet.core.sound.energy import Energy, energy_of, integrated
from hovvet.core.sound.silence import Sound
from hovvet.core.value import with_changes
from hovvet.core.words.transcript import Transcript


@contextmanager
def taken_in(path: Path) -> Iterator[Intake]:
    """The file looked into, within the limits that the server has too; what there is to tell is told."""
    with tempfile.TemporaryDirectory() as scratch:
        taken = take_in(path, Path(scratch) / "bridged.mkv")
        if taken.told:
            tell(f"hovvet: {taken.told}")
        yield taken


def sound_of(taken: Intake) -> Sound:
    """The sound at 16 kHz, mono; empty when there is none."""
    if not taken.media.has_sound:
        return np.zeros(0, np.float32)
    with tempfile.TemporaryDirectory() as scratch:
        wav = Path(scratch) / "speech.wav"
        speech_wav(taken.path, wav, taken.media.duration)
        return read_wav(wav)


def measured(taken: Intake) -> tuple[MediaInfo, Energy | None]:
    """What is in a file, with its loudness, and how loud it is from moment to moment."""
    media = taken.media
    if not media.has_sound:
        return media, None
    energy = energy_of(taken.path, media.channels, media.duration)
    return with_changes(media, lufs=integrated(energy.power)), energy


def transcript_in(path: Path) -> Transcript:
    """The transcript in a file. Raises CoreError when it is none."""
    try:
        return Transcript.model_validate_json(path.read_bytes())
    except ValidationError as error:
        first = error.errors()[0]
        where = ".".join(map(str, first["loc"])) or "document"
        raise CoreError(
            f"{path} is not a transcript as written down in docs/formats.md: {where}: {first['msg']}"
        ) from None


def sheet_in(path: Path) -> Sheet:
    """The sheet in a file. Raises CoreError when it is none."""
    try:
        return read_sheet(json.loads(path.read_bytes()))
    except (ValidationError, ValueError, AttributeError) as error:
        raise CoreError(f"{path} is not a sheet as written down in docs/formats.md: {error}") from None


def write(path: Path, made: str) -> None:
    """Write a file that is there whole or not at all."""
    with published(path) as part:
        part.write_text(made)


def showing(what: str) -> Progress:
    """How far something has come, told to a person at a terminal."""

    def show(part: float) -> None:
        if sys.stderr.isatty():
            tell(f"\r{what} {part:4.0%}", end="\n" if part >= 1 else "")

    return show


def tell(message: str, end: str = "\n") -> None:
    """Say something beside what is written."""
    print(message, end=end, file=sys.stderr, flush=True)
