"""The assets of a workspace over HTTP."""

import uuid

from django.http import HttpRequest, HttpResponse, HttpResponseBase
from ninja import File, Router, Schema
from ninja.files import UploadedFile
from pydantic import Field

from hovvet.core.captions.own_fonts import LARGEST, bring_in_font
from hovvet.server.accounts.access import find, workspace_of
from hovvet.server.assets.models import Asset
from hovvet.server.files import remove
from hovvet.server.problems import Problem
from hovvet.server.ranges import ranged_file

router = Router(tags=["assets"])

MOST_FONTS = 50
_TYPES = {Asset.Kind.FONT: "font/sfnt"}


class AssetOut(Schema):
    """An asset of the workspace; ``key`` is what names it in clips."""

    key: uuid.UUID = Field(alias="pk")
    kind: Asset.Kind
    name: str
    licence: str


@router.get("", response=list[AssetOut])
def list_assets(request: HttpRequest, kind: Asset.Kind) -> list[Asset]:
    """The assets of one kind, oldest first."""
    return list(Asset.objects.filter(workspace=workspace_of(request), kind=kind))


@router.post("/fonts", response=AssetOut)
def bring_in(request: HttpRequest, file: File[UploadedFile]) -> Asset:
    """Bring in a font (TTF, OTF, WOFF, WOFF2), which is checked and written anew. The same one twice is one."""
    workspace = workspace_of(request)
    own = Asset.objects.filter(workspace=workspace, kind=Asset.Kind.FONT)
    if own.count() >= MOST_FONTS:
        raise Problem(409, f"There are {MOST_FONTS} fonts already. Delete one that is not used.")
    asset = Asset(
        workspace=workspace,
        kind=Asset.Kind.FONT,
    )
    asset.folder.mkdir(parents=True)
    try:
        found = bring_in_font(file.read(LARGEST + 1), asset.file)
        if known := own.filter(info_json__family=found.family).first():
            return known
        asset.name, asset.licence = found.name, found.licence
        asset.info_json = {"family": found.family, "letters": found.letters}
        asset.save()
        return asset
    finally:
        if asset._state.adding:  # refused, or there already
            remove(asset.folder)


@router.delete("/{asset_id}", response={204: None})
def delete_asset(request: HttpRequest, asset_id: uuid.UUID) -> HttpResponse:
    """Delete an asset and its file. Clips that use it take what is usual in its place, and say so."""
    find(request, Asset.objects.all(), pk=asset_id).delete()
    return HttpResponse(status=204)


@router.get("/{asset_id}/file", response={200: None}, include_in_schema=False)
def read_asset(request: HttpRequest, asset_id: uuid.UUID) -> HttpResponseBase:
    """The file itself."""
    row = find(request, Asset.objects.all(), pk=asset_id)
    return ranged_file(request, row.file, _TYPES[Asset.Kind(row.kind)])
