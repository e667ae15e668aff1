"""A house style as one open file: a zip of ``house.json`` and the files that it needs, to be taken elsewhere."""

import io
import json
import zipfile
from collections.abc import Mapping
from typing import Annotated, Literal

from pydantic import Field, ValidationError

from hovvet.core.errors import CoreError
from hovvet.core.sheet.house import HouseStyle
from hovvet.core.sheet.value import Value

LARGEST = 60_000_000  # bytes of such a file
_MOST_UNPACKED = 200_000_000
_MOST_FILES = 100
_CONTENTS = "house.json"
_BROKEN = "This is not a house style that Hovvet can read: take the .zip file as it was kept."
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


def read_house(data: bytes) -> tuple[HouseFile, dict[str, bytes]]:
    """What such a file holds: the style, and the bytes of what it needs, by its names for them. Nothing is unpacked to a
    place that the file names. Raises CoreError."""
    if len(data) > LARGEST:
        raise CoreError(f"This file is larger than {LARGEST // 1_000_000} MB. Leave out what is large.")
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as packed:
            entries = packed.infolist()
            if len(entries) > _MOST_FILES + 1 or sum(each.file_size for each in entries) > _MOST_UNPACKED:
                raise CoreError("There is too much in this file for a house style.")
            told = HouseFile.model_validate_json(_taken(packed, _CONTENTS))
            return told, {each.key: _taken(packed, each.file) for each in told.assets}
    except (zipfile.BadZipFile, KeyError, ValidationError, NotImplementedError, RuntimeError, OSError, EOFError):
        raise CoreError(_BROKEN) from None


def _taken(packed: zipfile.ZipFile, name: str) -> bytes:
    """A file of a zip, no longer than that says it is."""
    told = packed.getinfo(name).file_size
    with packed.open(name) as file:
        data = file.read(min(told, _MOST_UNPACKED) + 1)
    if len(data) > told:
        raise CoreError(_BROKEN)
    return data


def renamed(style: HouseStyle, names: Mapping[str, str]) -> HouseStyle:
    """A style that has other names for what it needs."""
    text = json.dumps(style.model_dump(mode="json"))
    for before, after in names.items():
        text = text.replace(json.dumps(before), json.dumps(after))
    return HouseStyle.model_validate_json(text)


def needed(style: HouseStyle) -> list[str]:
    """What a style needs of what the workspace brought in, each once."""
    laid = (*style.laid, *(card.slide for card in (style.opening, style.closing) if card))
    named = [asset for content in laid for asset in content.assets]
    if style.captioning.style:
        named.append(style.captioning.style.font)
    return list(dict.fromkeys(named))
