"""The stock library that ships: a catalogue in the demo, whose scenes are drawn when they are asked for."""

import importlib.util
import io
import json
from collections.abc import Callable, Sequence
from functools import cache, lru_cache
from pathlib import Path
from typing import Any

import numpy as np
from django.conf import settings

from hovvet.core.engines.meaning import Vectors, vectors
from hovvet.core.errors import CoreError
from hovvet.core.shelf.licence import Licence
from hovvet.core.shelf.searching import Described, found
from hovvet.server.stock.library import Kind, StockItem

_SMALL = (320, 180)  # pixels of a preview
_MOVES, _STEP = 2.0, 0.1  # seconds that a preview moves, and of each of its pictures
_GONE = "The stock library does not have this any more. Choose something else."


class DrawnLibrary:
    """Two dozen pictures and films of the demo's scenario."""

    preview_type = "image/webp"

    def search(self, text: str, kind: Kind | None) -> Sequence[StockItem]:
        """See StockLibrary."""
        items = [item for item in _catalogue().values() if kind in (None, item.kind)]
        told = [Described(item.name, item.tags) for item in items]
        order = found(text, told, np.array([self.means(item.id) for item in items]), vectors)
        return [items[n] for n in order]

    def item(self, item_id: str) -> StockItem:
        """See StockLibrary."""
        if item_id not in _catalogue():
            raise CoreError(_GONE)
        return _catalogue()[item_id]

    def means(self, item_id: str) -> Vectors:
        """What an item's name and tags mean: shape (SIZE,)."""
        return _means()[item_id]

    def preview(self, item_id: str, moving: bool) -> bytes:
        """See StockLibrary."""
        return _preview(self.item(item_id), moving)

    def fetch(self, item_id: str, out: Path, progress: Callable[[float], None]) -> None:
        """See StockLibrary."""
        item = self.item(item_id)
        progress(0.0)
        if item.seconds is None:
            _drawing().draw_still(_scene(item), out)
        else:
            _drawing().draw_film(_scene(item), item.seconds, out)
        progress(1.0)


@cache
def _catalogue() -> dict[str, StockItem]:
    read = json.loads((settings.STOCK_DIR / "catalogue.json").read_text())
    return {
        each["id"]: StockItem(
            id=each["id"],
            kind=each["kind"],
            name=each["name"],
            tags=tuple(each["tags"]),
            licence=Licence.model_validate(each["licence"]),
            seconds=each["seconds"],
            people=each["people"],
        )
        for each in read
    }


@cache
def _means() -> dict[str, Vectors]:
    items = _catalogue()
    return dict(zip(items, vectors([Described(item.name, item.tags).text for item in items.values()]), strict=True))


@lru_cache(maxsize=64)
def _preview(item: StockItem, moving: bool) -> bytes:
    times = np.arange(0, _MOVES, _STEP) if moving and item.seconds is not None else [1.0]
    first, *others = (_drawing().frame(_scene(item), float(t), _SMALL) for t in times)
    file = io.BytesIO()
    first.save(
        file, "WEBP", quality=80, save_all=bool(others), append_images=others, duration=round(_STEP * 1000), loop=0
    )
    return file.getvalue()


def _scene(item: StockItem) -> str:
    return item.id.rpartition("-")[0]


@cache
def _drawing() -> Any:
    """The demo's own module that draws; it is not part of the package."""
    spec = importlib.util.spec_from_file_location("demo_stock", settings.STOCK_DIR / "drawing.py")
    assert spec
    assert spec.loader
    module = importlib.util.module_from_spec(spec)
    spec.loader.exec_module(module)
    return module


LIBRARY = DrawnLibrary()
