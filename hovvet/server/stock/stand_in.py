"""The stock library that ships: a catalogue in the demo, whose scenes are drawn when they are asked for."""

import importlib.util
import io
import json
import tempfile
import wave
from collections.abc import Callable, Sequence
from functools import cache, lru_cache
from pathlib import Path
from typing import Any

import numpy as np
from django.conf import settings
from PIL import Image, ImageDraw

from hovvet.core.engines.meaning import Vectors, vectors
from hovvet.core.errors import CoreError
from hovvet.core.shelf.licence import Licence
from hovvet.core.shelf.searching import Described, found
from hovvet.server.stock.library import Kind, StockItem

_SMALL = (320, 180)  # pixels of a preview
_MOVES, _STEP = 2.0, 0.1  # seconds that a preview moves, and of each of its pictures
_HEARD, _THINNED = 8.0, 3  # seconds that are heard beforehand, and of how many samples one
_BAR, _PAPER, _RUST = 8, "#F3EAD7", "#C2412D"  # pixels of a bar of what shows how loud a sound is
_GONE = "The stock library does not have this any more. Choose something else."


class DrawnLibrary:
    """Pictures and films of the demo's scenario, patterns, music and sounds."""

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

    def preview(self, item_id: str, moving: bool) -> tuple[bytes, str]:
        """See StockLibrary."""
        item = self.item(item_id)
        if item.kind != "sound":
            return _preview(item, moving), "image/webp"
        return (_heard(item), "audio/wav") if moving else (_wave(item), "image/webp")

    def fetch(self, item_id: str, out: Path, progress: Callable[[float], None]) -> None:
        """See StockLibrary."""
        item = self.item(item_id)
        progress(0.0)
        if item.kind == "sound":
            _sounding().write_sound(_scene(item), item.seconds, out)
        elif item.seconds is None:
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


@lru_cache(maxsize=32)
def _heard(item: StockItem) -> bytes:
    """The first seconds of a sound, as a small WAV file."""
    with tempfile.TemporaryDirectory() as folder:
        out = Path(folder) / "heard.wav"
        _sounding().write_sound(_scene(item), item.seconds, out)
        with wave.open(str(out)) as made:
            samples = np.frombuffer(made.readframes(int(_HEARD * made.getframerate())), "<i2")[::_THINNED]
            rate = made.getframerate() // _THINNED
    file = io.BytesIO()
    with wave.open(file, "wb") as small:
        small.setparams((1, 2, rate, 0, "NONE", ""))
        small.writeframes(samples.tobytes())
    return file.getvalue()


@lru_cache(maxsize=64)
def _wave(item: StockItem) -> bytes:
    """A picture of a sound: how loud it is, from left to right."""
    samples = np.abs(_sounding().heard(_scene(item), item.seconds))
    columns = [float(part.max()) for part in np.array_split(samples, _SMALL[0] // _BAR)]
    picture = Image.new("RGB", _SMALL, _PAPER)
    pen = ImageDraw.Draw(picture)
    for n, loud in enumerate(columns):
        high = max(loud * _SMALL[1] * 0.42, 1)
        pen.rectangle((n * _BAR, _SMALL[1] / 2 - high, n * _BAR + _BAR - 3, _SMALL[1] / 2 + high), _RUST)
    file = io.BytesIO()
    picture.save(file, "WEBP", quality=80)
    return file.getvalue()


def _scene(item: StockItem) -> str:
    return item.id.rpartition("-")[0]


def _drawing() -> Any:
    """The demo's own module that draws; it is not part of the package."""
    return _module("drawing")


def _sounding() -> Any:
    """The demo's own module that makes sounds."""
    return _module("sounding")


@cache
def _module(name: str) -> Any:
    spec = importlib.util.spec_from_file_location(f"demo_stock_{name}", settings.STOCK_DIR / f"{name}.py")
    assert spec
    assert spec.loader
    module = importlib.util.module_from_spec(spec)
    spec.loader.exec_module(module)
    return module


LIBRARY = DrawnLibrary()
