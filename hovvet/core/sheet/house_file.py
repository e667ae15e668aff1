"""A house style as one open file: a zip of ``house.json`` and the files that it needs, to be taken elsewhere."""

import io
import json
import lzma
import struct
import zipfile
import zlib
from collections.abc import Iterator, Mapping
from contextlib import contextmanager
from typing import Annotated, Any, Literal

from pydantic import Field

from hovvet.core.errors import CoreError
from hovvet.core.sheet.house import HouseStyle
from hovvet.core.sheet.upgrade import read_house
from hovvet.core.text import clean_all
from hovvet.core.value import Value

LARGEST = 60_000_000  # bytes of such a file
_MOST_UNPACKED = 200_000_000
_MOST_FILES = 100
_LARGEST_CONTENTS = 2_000_000
_CONTENTS = "house.json"
_BROKEN = "This is not a house style that Hovvet can read: take the .zip file as it was kept."
_TOO_MUCH = "There is too much in this file for a house style."
Carried = Literal["font", "table", "picture", "sticker"]
ENDINGS: dict[Carried, str] = {"font": "ttf", "table": "cube", "picture": "png", "sticker": "png"}


class AssetFile(Value):
    """Something that the style needs: the name that the style has for it, what a person calls it, its file in the zip."""

    key: Annotated[str, Field(min_length=1, max_length=64, pattern=r"^[\w.-]+$")]
    kind: Carried
    name: Annotated[str, Field(max_length=80)]
    file: Annotated[str, Field(max_length=80, pattern=r"^assets/[\w.-]+$")]


class HouseFile(Value):
    """What ``house.json`` holds."""

    version: Literal[1] = 1
    name: Annotated[str, Field(min_length=1, max_length=60)]
    style: HouseStyle
    assets: Annotated[tuple[AssetFile, ...], Field(max_length=_MOST_FILES)] = ()


def write_house(name: str, style: HouseStyle, carried: Mapping[str, tuple[Carried, str, bytes]]) -> bytes:
    """The file of a style; ``carried`` are kind, name and bytes of what it needs, by the names that it has for them."""
    files = [
        (AssetFile(key=key, kind=kind, name=called, file=f"assets/{n}.{ENDINGS[kind]}"), data)
        for n, (key, (kind, called, data)) in enumerate(carried.items(), 1)
    ]
    told = HouseFile(name=name, style=style, assets=tuple(entry for entry, _ in files))
    made = io.BytesIO()
    with zipfile.ZipFile(made, "w", zipfile.ZIP_DEFLATED) as packed:
        packed.writestr(_CONTENTS, told.model_dump_json(indent=1))
        for entry, data in files:
            packed.writestr(entry.file, data)
    return made.getvalue()


class PackedHouse:
    """A house style in its file: ``told`` is what it holds, and what it needs is read one by one. Nothing is unpacked to a
    place that the file names. Raises CoreError for what is no such file."""

    def __init__(self, data: bytes) -> None:
        if len(data) > LARGEST:
            raise CoreError(f"This file is larger than {LARGEST // 1_000_000} MB. Leave out what is large.")
        self._read = 0
        with _readable():
            self._packed = zipfile.ZipFile(io.BytesIO(data))
            entries = self._packed.infolist()
            if len(entries) > _MOST_FILES + 1 or sum(each.file_size for each in entries) > _MOST_UNPACKED:
                raise CoreError(_TOO_MUCH)
            self.told = HouseFile.model_validate(
                _upgraded(clean_all(json.loads(self._taken(_CONTENTS, _LARGEST_CONTENTS))))
            )
        keys, files = ([getattr(asset, each) for asset in self.told.assets] for each in ("key", "file"))
        twice = len(set(keys)) < len(keys) or len(set(files)) < len(files)
        if twice or not set(files) <= {entry.filename for entry in entries}:
            raise CoreError(_BROKEN)

    def file(self, asset: AssetFile) -> bytes:
        """The bytes of what the style needs. Raises CoreError where they cannot be read."""
        with _readable():
            return self._taken(asset.file, LARGEST)

    def _taken(self, name: str, most: int) -> bytes:
        """A file of the zip, no longer than that says it is, nor than may be."""
        told = self._packed.getinfo(name).file_size
        if told > most:
            raise CoreError(_TOO_MUCH)
        with self._packed.open(name) as file:
            data = file.read(told + 1)
        self._read += len(data)
        if len(data) != told or self._read > _MOST_UNPACKED:
            raise CoreError(_BROKEN)
        return data


def _upgraded(told: Any) -> Any:
    """What a file of any release says, with its style as it would be written today."""
    return told | {"style": read_house(told["style"])} if isinstance(told, dict) and "style" in told else told


@contextmanager
def _readable() -> Iterator[None]:
    """Whatever the libraries raise at a broken file becomes one plain word."""
    try:
        yield
    except (
        zipfile.BadZipFile, zlib.error, lzma.LZMAError, struct.error, ArithmeticError, LookupError, ValueError, NotImplementedError,
        RuntimeError, OSError, EOFError,
    ):  # fmt: skip
        raise CoreError(_BROKEN) from None


def renamed(style: HouseStyle, names: Mapping[str, str]) -> HouseStyle:
    """A style that has other names for what it needs."""
    return HouseStyle.model_validate(_renamed(style.model_dump(mode="json"), names))


_NAMING = frozenset(("media", "picture", "table", "font"))  # fields that name what the workspace brought in


def _renamed(value: Any, names: Mapping[str, str]) -> Any:
    if isinstance(value, list):
        return [_renamed(each, names) for each in value]
    if isinstance(value, dict):
        return {
            key: names.get(each, each) if key in _NAMING and isinstance(each, str) else _renamed(each, names)
            for key, each in value.items()
        }
    return value


def needed(style: HouseStyle) -> list[str]:
    """What a style needs of what the workspace brought in, each once."""
    laid = (*style.laid, *(card.slide for card in (style.opening, style.closing) if card))
    named = [asset for content in laid for asset in content.assets]
    if style.captioning.style:
        named.append(style.captioning.style.font)
    return list(dict.fromkeys(named))
