"""Bringing in assets: each kind checked in its own way, and kept as it is drawn."""

from collections.abc import Callable
from dataclasses import dataclass
from hashlib import sha256
from pathlib import Path
from typing import Any

from django.db import IntegrityError, transaction

from hovvet.core.captions import own_fonts
from hovvet.core.colour import cube_file
from hovvet.core.colour.lut import keep
from hovvet.core.errors import CoreError
from hovvet.core.media.naming import saved_name
from hovvet.core.picture import own_picture, own_sticker
from hovvet.core.shelf.seen import seen_in_picture
from hovvet.core.text import clean, is_blank
from hovvet.server.accounts.models import Workspace
from hovvet.server.assets.models import Asset
from hovvet.server.files import remove
from hovvet.server.problems import Problem


@dataclass(frozen=True)
class Found:
    """What was found in a file: what its maker calls it, "" where that is not told; who may use it; and the rest."""

    name: str
    licence: str
    info: dict[str, Any]


def _font(data: bytes, out: Path) -> Found:
    font = own_fonts.bring_in_font(data, out)
    return Found(font.name, font.licence, {"family": font.family, "letters": font.letters})


def _table(data: bytes, out: Path) -> Found:
    table = cube_file.read_cube(data)
    keep(table.lut, out)
    return Found(table.title, "", {"points": table.points, "is_3d": table.is_3d})


def _picture(data: bytes, out: Path) -> Found:
    picture = own_picture.bring_in_picture(data, out)
    return Found("", "", {"width": picture.width, "height": picture.height} | seen_in_picture(out)._asdict())


def _sticker(data: bytes, out: Path) -> Found:
    sticker = own_sticker.bring_in_sticker(data, out)
    return Found("", "", sticker._asdict())


@dataclass(frozen=True)
class _Way:
    """How a kind is brought in: what checks it, the most bytes that are read, how many a workspace may have."""

    check: Callable[[bytes, Path], Found]
    largest: int
    most: int
    called: str


_WAYS = {
    Asset.Kind.FONT: _Way(_font, own_fonts.LARGEST, 50, "fonts"),
    Asset.Kind.TABLE: _Way(_table, cube_file.LARGEST, 100, "tables of colours"),
    Asset.Kind.PICTURE: _Way(_picture, own_picture.LARGEST, 500, "pictures"),
    Asset.Kind.STICKER: _Way(_sticker, own_sticker.LARGEST, 500, "logos and stickers"),
}


def _called(name: str, usual: str) -> str:
    return (usual if is_blank(name) else clean(name))[:80]


def bring_in(workspace: Workspace, kind: Asset.Kind, name: str, read: Callable[[int], bytes]) -> Asset:
    """Check a file, called ``name`` by the person, and keep it; the same one twice is one. Raises Problem, CoreError."""
    return brought_in(workspace, kind, name, read)[0]


def brought_in(workspace: Workspace, kind: Asset.Kind, name: str, read: Callable[[int], bytes]) -> tuple[Asset, bool]:
    """The same, and whether it was not there before."""
    way = _way(kind)
    data = read(way.largest + 1)
    digest = sha256(data).hexdigest()
    if known := Asset.objects.filter(workspace=workspace, kind=kind, digest=digest).first():
        return known, False
    check_room(workspace, kind)
    asset = Asset(workspace=workspace, kind=kind)
    asset.folder.mkdir(parents=True)
    try:
        _fill(asset, way, name, data, digest)
        with transaction.atomic():
            asset.save()
        return asset, True
    except IntegrityError:  # somebody else brought it in just now
        asset._state.adding = True
        return Asset.objects.get(workspace=workspace, kind=kind, digest=digest), False
    finally:
        if asset._state.adding:  # refused
            remove(asset.folder)


def check_room(workspace: Workspace, kind: Asset.Kind) -> None:
    """Raises Problem where a workspace has as many of a kind as it may."""
    way = _way(kind)
    if Asset.objects.filter(workspace=workspace, kind=kind).count() >= way.most:
        raise Problem(409, f"There are {way.most} {way.called} already. Delete one that is not used.")


def largest(kind: Asset.Kind) -> int:
    """The most bytes that a file of a kind may have."""
    return _way(kind).largest


def fill(asset: Asset, data: bytes) -> None:
    """Check a file that was waited for, and keep it as that of an asset. Raises CoreError."""
    asset.folder.mkdir(parents=True, exist_ok=True)
    way = _way(Asset.Kind(asset.kind))
    _fill(asset, way, asset.name, data, sha256(data).hexdigest())
    asset.version += 1
    try:
        with transaction.atomic():
            asset.save(update_fields=["name", "meaning", "licence", "info_json", "digest", "version"])
    except IntegrityError:
        raise CoreError("This file is on the Shelf already. Use that one, and delete this.") from None


def _way(kind: Asset.Kind) -> _Way:
    if kind not in _WAYS:
        raise Problem(400, "Videos and sounds are uploaded piece by piece, as recordings are.")
    return _WAYS[kind]


def _fill(asset: Asset, way: _Way, name: str, data: bytes, digest: str) -> None:
    found = way.check(data, asset.file)
    asset.name = _called(found.name or Path(saved_name(name)).stem, Asset.Kind(asset.kind).label)
    asset.licence = found.licence
    asset.info_json, asset.digest = found.info, digest
