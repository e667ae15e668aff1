"""``hovvet step``: how two recordings of one talk go together."""

import argparse
from pathlib import Path

from hovvet.cli.commands import Commands
from hovvet.cli.files import taken_in, tell, write
from hovvet.core.errors import CoreError
from hovvet.core.sound.in_step import in_step_of


def add(commands: Commands) -> None:
    """Add the command to those of ``hovvet``."""
    command = commands.add_parser("step", help="put a second recording of a talk in step with a first, by its sound")
    command.add_argument("first", type=Path, metavar="FIRST")
    command.add_argument("second", type=Path, metavar="SECOND")
    command.add_argument("-o", dest="out", type=Path, metavar="step.json")
    command.set_defaults(run=_run)


def _run(options: argparse.Namespace) -> None:
    with taken_in(options.first) as first, taken_in(options.second) as second:
        for path, taken in ((options.first, first), (options.second, second)):
            if not taken.media.has_sound:
                raise CoreError(f"There is no sound in {path}, so it cannot be put in step by its sound.")
        found = in_step_of(first.path, second.path, (first.media.duration, second.media.duration))
    if options.out:
        write(options.out, found.model_dump_json(indent=1))
    when = "after" if found.offset >= 0 else "before"
    drift = f"its clock is {abs(found.drift) * 1e6:.1f} ppm {'slow' if found.drift > 0 else 'fast'}"
    tell(f"the second begins {abs(found.offset):.3f} s {when} the first; {drift}")
