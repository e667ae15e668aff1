"""A package: what goes with clips, in one .zip, with a list of it."""

import json
import zipfile
from collections.abc import Iterable, Sequence
from hashlib import sha256
from pathlib import Path
from typing import NamedTuple

from hovvet.core.media.naming import saved_name

PARTS: dict[str, str] = {
    "film": "Films", "srt": "Captions, SRT", "vtt": "Captions, VTT", "ass": "Captions, ASS", "txt": "Captions, TXT",
    "cover": "Covers", "post": "Texts for the post", "sheet": "Sheet (sheet.json)",
    "timeline": "For another editor (OTIO)",
}  # fmt: skip
LIST, SUMS = "contents.json", "SHA256SUMS"
_BLOCK = 1024 * 1024
_WHEN = (1980, 1, 1, 0, 0, 0)  # of every entry: the same package is the same bytes


class Item(NamedTuple):
    """Something to be packed: its name (folders with /), and a file or the bytes themselves."""

    name: str
    content: Path | bytes


class Packed(NamedTuple):
    """What was packed: its name in the package, its size in bytes, its SHA-256."""

    name: str
    size: int
    sha256: str


def pack(out: Path, items: Iterable[Item], left_out: Sequence[str] = ()) -> list[Packed]:
    """Write a package; what is in it. Names that are there already are numbered; films are not made smaller, they are already.
    ``left_out`` says what is missing, and why: it may grow while items come."""
    taken: set[str] = set()
    packed: list[Packed] = []
    with zipfile.ZipFile(out, "w", zipfile.ZIP_STORED, allowZip64=True) as archive:
        for item in items:
            name = _free(item.name, taken)
            packed.append(_put(archive, name, item.content))
        listed = {"files": [each._asdict() for each in packed], "left_out": list(left_out)}
        _put(archive, LIST, json.dumps(listed, indent=1, ensure_ascii=False).encode())
        _put(archive, SUMS, "".join(f"{each.sha256}  {each.name}\n" for each in packed).encode())
    return packed


def _put(archive: zipfile.ZipFile, name: str, content: Path | bytes) -> Packed:
    digest, size = sha256(), 0
    with archive.open(zipfile.ZipInfo(name, _WHEN), "w", force_zip64=True) as entry:
        for part in _parts(content):
            digest.update(part)
            size += len(part)
            entry.write(part)
    return Packed(name, size, digest.hexdigest())


def _parts(content: Path | bytes) -> Iterable[bytes]:
    if isinstance(content, bytes):
        yield content
        return
    with content.open("rb") as file:
        while part := file.read(_BLOCK):
            yield part


def folder_of(title: str, taken: set[str]) -> str:
    """A folder for what goes with a clip of this title, that no other clip ``taken`` so far has."""
    count, own = 1, saved_name(title)
    free = own
    while free in taken:
        count += 1
        free = f"{own} ({count})"
    taken.add(free)
    return f"{free}/"


def _free(name: str, taken: set[str]) -> str:
    """A name as any disk can keep it, each part of its path, that nothing else has."""
    folder, _, own = name.rpartition("/")
    path = "/".join(saved_name(part) for part in folder.split("/")) + "/" if folder else ""
    stem, dot, kind = saved_name(own).rpartition(".")
    count, free = 1, f"{path}{stem}{dot}{kind}"
    while free in taken:
        count += 1
        free = f"{path}{stem} ({count}){dot}{kind}"
    taken.add(free)
    return free
