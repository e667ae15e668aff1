"""Weights that packages carry: what set-up says of having got them."""

import sys
from collections.abc import Callable
from hashlib import sha256
from importlib.util import find_spec
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


def carried(package: str, file: str, digest: str) -> bytes:
    """A file that a package carries, of the SHA-256 that is known. Raises CoreError where it is missing or something else."""
    spec = find_spec(package)
    if spec is None or not spec.submodule_search_locations:
        raise CoreError("The package that carries its weights is not installed.")
    data = (Path(spec.submodule_search_locations[0]) / file).read_bytes()
    if sha256(data).hexdigest() != digest:
        raise CoreError("The weights are not those that Hovvet knows, so they are not used.")
    return data
