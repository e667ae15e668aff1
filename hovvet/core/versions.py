"""Reading what earlier releases kept: one function for each version, which makes the next one of it."""

from collections.abc import Callable
from typing import Any

Stored = dict[str, Any]


class Upgrades:
    """The steps from each version of a document to the next, up to the one that is written ``now``."""

    def __init__(self, now: int) -> None:
        self._now = now
        self._steps: dict[int, Callable[[Stored], Stored]] = {}

    def step(self, version: int) -> Callable[[Callable[[Stored], Stored]], Callable[[Stored], Stored]]:
        """Register the function that makes the next version of this one."""

        def register(function: Callable[[Stored], Stored]) -> Callable[[Stored], Stored]:
            self._steps[version] = function
            return function

        return register

    def __call__(self, stored: Stored) -> Stored:
        """What was kept in any version, as it would be written now; one of a version that is not known is as it is."""
        for version in range(stored.get("version", 1), self._now):
            stored = self._steps[version](stored) | {"version": version + 1}
        return stored
