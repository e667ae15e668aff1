"""Weights that packages carry: what set-up says of having got them."""

import sys
from collections.abc import Callable
from pathlib import Path

from hovvet.core.errors import CoreError


def got(make: Callable[[], Path], without: str) -> int:
    """Make weights ready and print where they are; 1, with what there is without them, where that cannot be."""
    try:
        print(make())
    except CoreError as error:
        print(f"{error} {without}", file=sys.stderr)
        return 1
    return 0
