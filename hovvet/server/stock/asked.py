"""Which library is asked for what."""

from hovvet.server.stock.emoji import EMOJI, PREFIX
from hovvet.server.stock.library import Kind, StockLibrary
from hovvet.server.stock.stand_in import LIBRARY


def library_of(kind: Kind | None) -> StockLibrary:
    """The library that has things of a kind."""
    return EMOJI if kind == "sticker" else LIBRARY


def library_with(item_id: str) -> StockLibrary:
    """The library that has an item."""
    return EMOJI if item_id.startswith(PREFIX) else LIBRARY
