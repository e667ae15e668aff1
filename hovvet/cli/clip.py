"""``hovvet clip``: a captioned clip of a recording, in one go."""

import argparse
from pathlib import Path

from hovvet.cli.commands import Commands
from hovvet.cli.files import measured, showing, sound_of, taken_in, transcript_in
from hovvet.cli.sweeping import add_pauses, kinds, settings_of
from hovvet.cli.transcribe import recognised
from hovvet.core.captions.style import CaptionStyle, caption_style
from hovvet.core.compile.source import Source
from hovvet.core.compile.steps import compile
from hovvet.core.compile.target import Target
from hovvet.core.engines.whisper import WhisperRecogniser
from hovvet.core.errors import CoreError
from hovvet.core.formats.subtitles import subtitles
from hovvet.core.media.decode import SPEECH_RATE
from hovvet.core.media.intake import Intake
from hovvet.core.plan.outlets import Outlet, outlet
from hovvet.core.render.export import export
from hovvet.core.render.sources import Original
from hovvet.core.sheet.applying import apply
from hovvet.core.sheet.model import Piece, Sheet
from hovvet.core.sound.silence import Levels, levels
from hovvet.core.sweep.sweep import find_silences, sweep, sweep_edit

_RECORDING = "recording"  # what the one recording is called in the sheet


def add(commands: Commands) -> None:
    """Add the command to those of ``hovvet``."""
    command = commands.add_parser("clip", help="export a captioned clip")
    command.add_argument("media", type=Path, metavar="FILE")
    command.add_argument("-o", dest="out", type=Path, required=True, metavar="out.mp4")
    command.add_argument("--start", type=float, default=0.0, metavar="S", help="seconds")
    command.add_argument("--end", type=float, default=None, metavar="S", help="seconds")
    command.add_argument("--sweep", type=kinds, default=frozenset(), metavar="KIND,...", help="take these out")
    add_pauses(command)
    command.add_argument("--outlet", default="tall")
    command.add_argument("--captions", default="bold", metavar="STYLE|none")
    command.add_argument("--srt", type=Path, metavar="out.srt")
    command.add_argument("--transcript", type=Path, metavar="words.json", help="use this instead of recognising")
    command.set_defaults(run=_run)


def _run(options: argparse.Namespace) -> None:
    where = outlet(options.outlet)
    style = None if options.captions == "none" else caption_style(options.captions)
    with taken_in(options.media) as taken:
        _export(options, taken, where, style)


def _export(options: argparse.Namespace, taken: Intake, where: Outlet, style: CaptionStyle | None) -> None:
    media = taken.media
    transcript = transcript_in(options.transcript) if options.transcript else recognised(taken, WhisperRecogniser())
    end = transcript.duration if options.end is None else min(options.end, transcript.duration)
    if not 0 <= options.start < end:
        raise CoreError(f"The clip would be empty: it would run from {options.start:g} s to {end:g} s.")
    sheet = Sheet(pieces=(Piece(id="p1", recording=_RECORDING, start=options.start, end=end),))
    sound = sound_of(taken)
    if options.sweep:
        settings = settings_of(options, options.sweep, transcript.language)
        finds = sweep(transcript, find_silences(sound, SPEECH_RATE), settings)
        sheet = apply(sheet, sweep_edit(sheet.pieces[0], transcript, finds, settings))
    media, energy = measured(taken)
    source = Source(transcript, media, Levels(levels(sound, SPEECH_RATE)), energy=energy)
    plan = compile(sheet, {_RECORDING: source}, Target(where, style))
    export(plan, {_RECORDING: Original(taken.path, media)}, options.out, showing("exporting"))
    if options.srt:
        options.srt.write_text(subtitles(plan, "srt") or "")
