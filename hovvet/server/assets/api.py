"""The assets of a workspace over HTTP."""

import uuid

from django.http import HttpRequest, HttpResponse, HttpResponseBase
from ninja import File, Router, Schema
from ninja.files import UploadedFile
from pydantic import Field

from hovvet.server.accounts.access import find, workspace_of
from hovvet.server.assets.bringing import bring_in
from hovvet.server.assets.models import Asset
from hovvet.server.ranges import ranged_file

router = Router(tags=["assets"])

_TYPES = {
    Asset.Kind.FONT: "font/sfnt",
    Asset.Kind.TABLE: "application/octet-stream",
    Asset.Kind.PICTURE: "image/png",
    Asset.Kind.STICKER: "image/png",
}


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


@router.post("", response=AssetOut)
def bring_in_asset(request: HttpRequest, kind: Asset.Kind, file: File[UploadedFile]) -> Asset:
    """Bring in a font (TTF, OTF, WOFF, WOFF2), a table of colours (.cube), a picture (PNG, JPEG, WebP), or a logo or
    sticker (PNG, WebP, SVG). It is checked and written anew; the same file twice is one asset."""
    return bring_in(workspace_of(request), kind, file.name or "", file.read)


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
