"""House styles out as one file, and in from one."""

import io
import time

from django.http import HttpRequest

from hovvet.core.colour.lut import cube, kept
from hovvet.core.compile.repairs import repaired_house
from hovvet.core.errors import CoreError
from hovvet.core.sheet.house_file import ENDINGS, Carried, PackedHouse, needed, renamed, write_house
from hovvet.server.accounts.access import workspace_of
from hovvet.server.assets.bringing import brought_in
from hovvet.server.assets.models import Asset
from hovvet.server.documents.kit import kit_of
from hovvet.server.documents.sources import as_uuid
from hovvet.server.problems import Problem
from hovvet.server.styles.house import style_of
from hovvet.server.styles.models import NamedSettings
from hovvet.server.styles.named_settings import keep, kept_of

_PATIENCE = 20.0  # seconds that all a style needs may take to be checked


def house_file(row: NamedSettings) -> bytes:
    """A house style with what it needs; films and recordings stay behind."""
    style = style_of(row)
    own = Asset.objects.filter(workspace=row.workspace, kind__in=ENDINGS, pk__in=map(as_uuid, needed(style)))
    return write_house(row.name, style, {asset.key: (_kind(asset), asset.name, _data(asset)) for asset in own})


def _kind(asset: Asset) -> Carried:
    return next(kind for kind in ENDINGS if kind == asset.kind)


def _data(asset: Asset) -> bytes:
    if asset.kind == Asset.Kind.TABLE:
        return cube(kept(asset.file), asset.name).encode()
    return asset.file.read_bytes()


def bring_in_house(request: HttpRequest, data: bytes) -> tuple[NamedSettings, str]:
    """Keep a house style from such a file, what it needs checked like any upload; and what to tell of what it could not
    bring along. Raises Problem, CoreError; nothing of it is kept then."""
    workspace = workspace_of(request)
    packed = PackedHouse(data)
    names: dict[str, str] = {}
    made: list[Asset] = []
    left = []
    until = time.monotonic() + _PATIENCE
    try:
        for each in packed.told.assets:
            try:
                if time.monotonic() > until:
                    raise CoreError("all of it together took too long. Bring it in by itself.")
                name = f"{each.name}.{ENDINGS[each.kind]}"
                asset, fresh = brought_in(workspace, Asset.Kind(each.kind), name, io.BytesIO(packed.file(each)).read)
                names[each.key] = asset.key
                made += [asset] if fresh else []
            except (CoreError, Problem) as error:
                left.append(f"“{each.name}” could not be brought in: {error}")
        style, mended = repaired_house(renamed(packed.told.style, names), kit_of(workspace))
        name = _free_name(request, packed.told.name)
        row = keep(request, NamedSettings.Kind.HOUSE, name, style.model_dump(mode="json"), frozenset())
    except BaseException:
        for asset in made:
            asset.delete()
        raise
    return row, " ".join([*left, *([mended] if mended else [])])


def _free_name(request: HttpRequest, name: str) -> str:
    """The name, with a number after it where there is one of that name."""
    taken = {each.lower() for each in kept_of(request, NamedSettings.Kind.HOUSE).values_list("name", flat=True)}
    names = (name, *(f"{name[:55]} {n}" for n in range(2, 100)))
    return next(each for each in names if each.lower() not in taken)
