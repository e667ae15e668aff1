"""``hovvet sweep``: what could be taken out."""

import argparse
import json
from pathlib import Path

from hovvet.cli.commands import Commands
from hovvet.cli.files import sound_of, taken_in, transcript_in, write
from hovvet.cli.sweeping import add_pauses, kinds, settings_of
from hovvet.core.media.decode import SPEECH_RATE
from hovvet.core.sweep.sweep import ALL_KINDS, find_silences, sweep


def add(commands: Commands) -> None:
    """Add the command to those of ``hovvet``."""
    command = commands.add_parser("sweep", help="find what could be taken out")
    command.add_argument("words", type=Path, metavar="words.json")
    command.add_argument("--media", type=Path, required=True, metavar="FILE")
    command.add_argument("-o", dest="out", type=Path, required=True, metavar="finds.json")
    command.add_argument("--kinds", type=kinds, default=ALL_KINDS, metavar="KIND,...")
    add_pauses(command)
    command.set_defaults(run=_run)


def _run(options: argparse.Namespace) -> None:
    transcript = transcript_in(options.words)
    with taken_in(options.media) as taken:
        silent = find_silences(sound_of(taken), SPEECH_RATE)
    found = sweep(transcript, silent, settings_of(options, options.kinds, transcript.language))
    write(options.out, json.dumps(found.model_dump(mode="json"), ensure_ascii=False) + "\n")
