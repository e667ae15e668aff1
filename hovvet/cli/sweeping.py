"""The options by which what could be taken out is found."""

import argparse
from typing import get_args

from pydantic import ValidationError

from hovvet.core.errors import CoreError
from hovvet.core.sweep.finds import FindKind
from hovvet.core.sweep.settings import SweepSettings
from hovvet.core.value import with_changes


def add_pauses(command: argparse.ArgumentParser) -> None:
    """Add the lengths of pauses, in seconds."""
    usual = SweepSettings()
    command.add_argument(
        "--pause-from", type=float, default=usual.pause_from, metavar="S", help="shorten pauses from here on"
    )
    command.add_argument("--pause-left", type=float, default=usual.pause_left, metavar="S", help="what is left of them")


def settings_of(options: argparse.Namespace, kinds: frozenset[FindKind], language: str) -> SweepSettings:
    """The usual settings of a language with what the options change. Raises CoreError for what cannot be."""
    pauses = {"pause_from": options.pause_from, "pause_left": options.pause_left}
    try:
        return with_changes(SweepSettings.usual(language).changed(pauses), kinds=kinds)
    except ValidationError as error:
        first = error.errors()[0]
        raise CoreError(f"--{str(first['loc'][0]).replace('_', '-')}: {first['msg']}.") from None


def kinds(text: str) -> frozenset[FindKind]:
    """Kinds of finds as they are written on the command line, with commas between them."""
    known = get_args(FindKind)
    chosen = [kind.strip() for kind in text.split(",") if kind.strip()]
    unknown = [kind for kind in chosen if kind not in known]
    if unknown or not chosen:
        raise argparse.ArgumentTypeError(f"kinds are {', '.join(known)}; not {', '.join(unknown) or 'nothing'}")
    return frozenset(chosen)  # type: ignore[arg-type]
