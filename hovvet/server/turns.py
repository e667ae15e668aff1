"""Waiting in line for what costs much: a few at once, a few that wait, and the others told to come again.

The web server answers with twenty-four threads: whatever draws, decodes or takes files apart has to leave some of them to
everybody else.
"""

from collections.abc import Callable, Iterator
from contextlib import contextmanager
from functools import wraps
from threading import BoundedSemaphore
from typing import Any, TypeVar

from hovvet.server.problems import Problem

F = TypeVar("F", bound=Callable[..., Any])


class Line:
    """``at_once`` may go on together, ``waiting`` more wait up to ``patience`` seconds; whoever is beyond that is told so."""

    def __init__(self, at_once: int, waiting: int, patience: float, told: str) -> None:
        self._places = BoundedSemaphore(at_once + waiting)
        self._turns = BoundedSemaphore(at_once)
        self._patience, self._told = patience, told

    @contextmanager
    def turn(self) -> Iterator[None]:
        """One's turn. Raises Problem where there is no place left, or it does not come."""
        with self._taken(self._places, 0), self._taken(self._turns, self._patience):
            yield

    @contextmanager
    def _taken(self, of: BoundedSemaphore, patience: float) -> Iterator[None]:
        if not of.acquire(timeout=patience):
            raise Problem(503, self._told, wait=5)
        try:
            yield
        finally:
            of.release()


_BUSY = "Several pictures and files are being worked on right now. Try again in a moment."
DRAWING = Line(2, 6, 60.0, _BUSY)  # what takes a second or more; a page asks for six pictures at once
PREVIEWS = Line(2, 6, 60.0, _BUSY)  # small pictures of the stock library


def takes_turns(line: Line = DRAWING) -> Callable[[F], F]:
    """For a view that draws, decodes or takes apart what people bring in: it waits in a line."""

    def in_line(view: F) -> F:
        @wraps(view)
        def answered(*args: Any, **kwargs: Any) -> Any:
            with line.turn():
                return view(*args, **kwargs)

        return answered  # type: ignore[return-value]

    return in_line
