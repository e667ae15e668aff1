"""The stock library over HTTP."""

from typing import Annotated, Any

from django.http import HttpRequest, HttpResponse
from ninja import Query, Router

from hovvet.server.accounts.access import visible_to, workspace_of
from hovvet.server.assets.api import AssetOut, asset_out
from hovvet.server.assets.from_stock import take
from hovvet.server.assets.models import Asset
from hovvet.server.schema import Schema
from hovvet.server.stock.asked import library_of, library_with
from hovvet.server.stock.library import Kind, StockItem
from hovvet.server.turns import PREVIEWS, takes_turns

router = Router(tags=["stock"])
PAGE, SMALL_PAGE = 12, 40  # items of a page; of one of small things


class StockItemOut(Schema):
    """Something that the library offers; ``told`` is what its licence asks for, in a few words, ``asks`` what somebody has to
    agree to who takes it; ``key`` names it in clips where it has been taken already, "" before."""

    id: str
    kind: Kind
    name: str
    tags: list[str]
    told: str
    asks: str
    seconds: float | None
    people: bool
    key: str


class StockPage(Schema):
    """Some of what answers a search; ``total`` is how many there are in all, ``size`` how many a page has."""

    items: list[StockItemOut]
    total: int
    size: int


def stock_out(item: StockItem, key: str = "") -> StockItemOut:
    """An item as the page takes it; ``key`` as it stands on the Shelf."""
    return StockItemOut(
        id=item.id,
        kind=item.kind,
        name=item.name,
        tags=list(item.tags),
        told=item.licence.told,
        asks=item.licence.asks,
        seconds=item.seconds,
        people=item.people,
        key=key,
    )


@router.get("", response=StockPage)
def search_stock(
    request: HttpRequest,
    text: Annotated[str, Query(max_length=200)] = "",
    kind: Kind | None = None,
    page: Annotated[int, Query(ge=1, le=10_000)] = 1,
) -> dict[str, Any]:
    """What the stock library (of stickers: the set of emoji) offers that answers a text, by its words or by what they mean, best first."""
    known = {asset.stock: asset.key for asset in visible_to(request, Asset.objects.all()).exclude(stock="")}
    found = library_of(kind).search(text, kind)
    size = SMALL_PAGE if kind == "sticker" else PAGE
    shown = found[(page - 1) * size : page * size]
    items = [stock_out(item, known.get(item.id, "")) for item in shown]
    return {"items": items, "total": len(found), "size": size}


@router.get("/{item_id}/preview", response={200: None}, include_in_schema=False)
@takes_turns(PREVIEWS)
def preview_stock(request: HttpRequest, item_id: str, moving: bool = False) -> HttpResponse:
    """A small picture of an item; ``moving``: how it moves, or is heard."""
    preview, kind = library_with(item_id).preview(item_id, moving)
    answer = HttpResponse(preview, content_type=kind)
    answer["Cache-Control"] = "private, max-age=3600"
    return answer


@router.post("/{item_id}", response=AssetOut)
@takes_turns()
def take_stock(request: HttpRequest, item_id: str) -> AssetOut:
    """Put an item on the Kit, with its licence. What is there already is not taken twice."""
    return asset_out(take(workspace_of(request), item_id))
