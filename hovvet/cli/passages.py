"""``hovvet passages``: what would stand alone as a clip."""

import argparse
from pathlib import Path

from hovvet.cli.commands import Commands
from hovvet.cli.files import sound_of, taken_in, tell, transcript_in, write
from hovvet.core.engines.meaning import vectors
from hovvet.core.errors import CoreError
from hovvet.core.media.decode import SPEECH_RATE
from hovvet.core.passages.after_sweep import after_sweep
from hovvet.core.passages.find import LONGEST, find_passages, passages_file
from hovvet.core.passages.scoring import SHORTEST
from hovvet.core.sweep.settings import SweepSettings
from hovvet.core.sweep.sweep import find_silences


def add(commands: Commands) -> None:
    """Add the command to those of ``hovvet``."""
    command = commands.add_parser("passages", help="find what would stand alone as a clip")
    command.add_argument("words", type=Path, metavar="words.json")
    command.add_argument("--media", type=Path, metavar="FILE", help="to know its silences")
    command.add_argument("--longest", type=float, default=LONGEST, metavar="S", help="seconds after the sweep")
    command.add_argument("-o", dest="out", type=Path, required=True, metavar="passages.json")
    command.set_defaults(run=_run)


def _run(options: argparse.Namespace) -> None:
    if not options.longest > SHORTEST:
        raise CoreError(f"A passage has {SHORTEST:g} seconds at least: let --longest be more.")
    transcript = transcript_in(options.words)
    silent = None
    if options.media:
        with taken_in(options.media) as taken:
            silent = find_silences(sound_of(taken), SPEECH_RATE)
    kept = after_sweep(transcript, silent, SweepSettings.usual(transcript.language))
    found = find_passages(transcript, vectors, options.longest, kept)
    write(options.out, passages_file(found))
    tell(f"{len(found)} passage{'' if len(found) == 1 else 's'}")
