"""The ``hovvet`` command: the core from a shell, without a server."""

import argparse
from collections.abc import Sequence

from hovvet.cli import clip, passages, render, step, sweep, transcribe
from hovvet.cli.files import tell
from hovvet.core.errors import CoreError


def main(arguments: Sequence[str] | None = None) -> int:
    """Run one command; 0 when it worked, 1 with a message when it could not be done."""
    options = _parser().parse_args(arguments)
    try:
        options.run(options)
    except CoreError as error:
        tell(f"hovvet: {error}")
        return 1
    except OSError as error:
        tell(f"hovvet: {error.filename or ''}: {error.strerror or error}")
        return 1
    except KeyboardInterrupt:
        tell("hovvet: stopped.")
        return 130
    return 0


def _parser() -> argparse.ArgumentParser:
    parser = argparse.ArgumentParser(prog="hovvet", description=__doc__)
    commands = parser.add_subparsers(required=True, metavar="COMMAND")
    for command in (transcribe, sweep, passages, clip, render, step):
        command.add(commands)
    return parser
