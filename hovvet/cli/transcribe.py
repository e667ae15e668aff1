"""``hovvet transcribe``: the speech in a file."""

import argparse
import tempfile
from collections.abc import Sequence
from pathlib import Path
from typing import get_args

from hovvet.cli.commands import Commands
from hovvet.cli.files import showing, taken_in, write
from hovvet.core.engines.whisper import Quality, WhisperRecogniser
from hovvet.core.formats.transcripts import TranscriptKind, transcript_file
from hovvet.core.media.decode import speech_wav
from hovvet.core.media.intake import Intake
from hovvet.core.media.wav import open_wav
from hovvet.core.words.corrections import SuggestSpeakers, correct
from hovvet.core.words.given import from_cues, from_text
from hovvet.core.words.languages import LANGUAGES
from hovvet.core.words.speakers import suggest_speakers
from hovvet.core.words.timing import refiner
from hovvet.core.words.transcribe import transcribe
from hovvet.core.words.transcript import Transcript
from hovvet.core.words.words_apart import read_apart
from hovvet.core.words.words_in import Said


def add(commands: Commands) -> None:
    """Add the command to those of ``hovvet``."""
    command = commands.add_parser("transcribe", help="recognise the speech in a file")
    command.add_argument("media", type=Path, metavar="FILE")
    command.add_argument("-o", dest="out", type=Path, required=True, metavar="words.json", help="or .txt, .srt, .vtt")
    command.add_argument("--words", type=Path, metavar="FILE", help="an SRT, VTT or TXT file with the words said")
    command.add_argument("--term", action="append", default=[], metavar="NAME", help="a name or term to expect")
    command.add_argument("--careful", action="store_true", help="better, and slower")
    command.add_argument("--language", choices=list(LANGUAGES), default="en", help="others need the careful recogniser")
    command.add_argument(
        "--speakers",
        type=int,
        nargs="?",
        const=0,
        metavar="N",
        help="suggest who speaks, N people or as many as are heard",
    )
    command.set_defaults(run=_run)


def _run(options: argparse.Namespace) -> None:
    kind = options.out.suffix.lower().lstrip(".")
    if kind not in get_args(TranscriptKind):
        kind = "json"
    said = read_apart(options.words) if options.words else None
    with taken_in(options.media) as taken:
        quality: Quality = "careful" if options.careful else "quick"
        recogniser = WhisperRecogniser(language=options.language, quality=quality)
        transcript = recognised(taken, recogniser, said, options.term, options.speakers)
    write(options.out, transcript_file(transcript, kind))


def recognised(
    taken: Intake,
    recogniser: WhisperRecogniser,
    said: Sequence[Said] | None = None,
    terms: Sequence[str] = (),
    speakers: int | None = None,
) -> Transcript:
    """The words of a recording: heard, or those that are said to be in it; with speakers suggested if a number is given (0: as many as are heard)."""
    if not taken.media.has_sound:
        return Transcript(duration=taken.media.duration)
    with tempfile.TemporaryDirectory() as scratch:
        wav = Path(scratch) / "speech.wav"
        speech_wav(taken.path, wav, taken.media.duration)
        refined, progress = refiner(recogniser.language), showing("transcribing")
        if said and said[0].start is None:
            transcript = from_text(wav, said, recogniser, refined, progress)
        elif said:
            transcript = from_cues(wav, said, refined, progress)
        else:
            transcript = transcribe(wav, recogniser, refined, progress, terms)
        if speakers is not None:
            turns = suggest_speakers(open_wav(wav), transcript.words, speakers or None)
            transcript = correct(transcript, SuggestSpeakers(turns=tuple(turns)))
        return transcript
