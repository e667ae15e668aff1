"""A word of any kind, as what groups words looks at it."""

from typing import Protocol


class Timed(Protocol):
    """A word with its times in seconds."""

    @property
    def text(self) -> str: ...
    @property
    def start(self) -> float: ...
    @property
    def end(self) -> float: ...
