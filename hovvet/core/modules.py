"""Packages whose modules register what they define."""

from collections.abc import Iterable
from importlib import import_module
from pkgutil import iter_modules


def load_modules(package: str, path: Iterable[str]) -> None:
    """Load all modules of a package, in the order of their names."""
    for name in sorted(each.name for each in iter_modules(path)):
        import_module(f"{package}.{name}")
