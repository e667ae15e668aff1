"""What a stock library can do, and the one that is asked."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from pathlib import Path
from typing import Literal, Protocol

from hovvet.core.shelf.licence import Licence

Kind = Literal["picture", "video", "sound", "sticker"]


@dataclass(frozen=True)
class StockItem:
    """Something that a library offers. ``seconds`` is None for what does not move."""

    id: str
    kind: Kind
    name: str
    tags: tuple[str, ...]
    licence: Licence
    seconds: float | None = None
    people: bool = False


class StockLibrary(Protocol):
    """Where items are searched, looked at, and fetched from."""

    def search(self, text: str, kind: Kind | None) -> Sequence[StockItem]:
        """What answers a text, best first; without one, all."""

    def item(self, item_id: str) -> StockItem:
        """One item. Raises CoreError when there is none of that id."""

    def preview(self, item_id: str, moving: bool) -> tuple[bytes, str]:
        """A small picture of an item, or (``moving``) how it moves or is heard, and what kind of file that is. Raises
        CoreError."""

    def fetch(self, item_id: str, out: Path, progress: Callable[[float], None]) -> None:
        """Write the item itself to ``out``; ``progress`` gets 0 to 1. Raises CoreError with a way on."""
