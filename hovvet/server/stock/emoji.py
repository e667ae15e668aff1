"""A set of emoji, as stickers: free drawings that ship with Hovvet, found by their names."""

import zipfile
from collections.abc import Callable, Sequence
from functools import cache
from pathlib import Path

from django.conf import settings

from hovvet.core.captions.keywords import PLAIN
from hovvet.core.errors import CoreError
from hovvet.core.shelf.licence import Licence
from hovvet.core.shelf.naming import named_for
from hovvet.server.stock.library import Kind, StockItem

PREFIX = "emoji-"  # of their ids
_GONE = "There is no emoji of this name. Choose another one."
_FREE = Licence(sort="free", source="Noto Emoji, Apache 2.0")


class Emoji:
    """One of each sign."""

    def search(self, text: str, kind: Kind | None) -> Sequence[StockItem]:
        """See StockLibrary: what is in a sentence is shown too, but for words that carry nothing."""
        items = list(_items().values())
        if not text.strip():
            return items
        said = " ".join(word for word in text.lower().split() if word not in PLAIN)
        return [items[n] for n in named_for(said, [item.id.removeprefix(PREFIX) for item in items])]

    def item(self, item_id: str) -> StockItem:
        """See StockLibrary."""
        if item_id not in _items():
            raise CoreError(_GONE)
        return _items()[item_id]

    def preview(self, item_id: str, moving: bool) -> tuple[bytes, str]:
        """See StockLibrary: the drawing itself."""
        item = self.item(item_id)
        with zipfile.ZipFile(settings.EMOJI_FILE) as file:
            return file.read(f"{item.tags[1]}/{item.id.removeprefix(PREFIX)}.svg"), "image/svg+xml"

    def fetch(self, item_id: str, out: Path, progress: Callable[[float], None]) -> None:
        """See StockLibrary."""
        out.write_bytes(self.preview(item_id, False)[0])
        progress(1.0)


@cache
def _items() -> dict[str, StockItem]:
    if not settings.EMOJI_FILE.exists():
        return {}  # the page has not been built
    with zipfile.ZipFile(settings.EMOJI_FILE) as file:
        drawings = [Path(name) for name in file.namelist()]
    return {
        f"{PREFIX}{each.stem}": StockItem(
            id=f"{PREFIX}{each.stem}",
            kind="sticker",
            name=each.stem.replace("-", " ").capitalize(),
            tags=("Emoji", each.parent.name),
            licence=_FREE,
        )
        for each in drawings
    }


EMOJI = Emoji()
