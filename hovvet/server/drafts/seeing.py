"""What is seen while a thought is said: what could be, and another one in its place."""

from contextlib import suppress

import numpy as np

from hovvet.core.draft.thoughts import next_best
from hovvet.core.engines.meaning import Vectors, vectors
from hovvet.core.errors import CoreError
from hovvet.core.sheet.contents.base import Showing
from hovvet.core.sheet.contents.broll import Broll
from hovvet.core.sheet.contents.slide import Slide
from hovvet.core.sheet.edits import PutLayer
from hovvet.core.sheet.model import Layer
from hovvet.core.sheet.places import Places
from hovvet.core.value import with_changes
from hovvet.server.accounts.models import Workspace
from hovvet.server.assets.from_stock import take
from hovvet.server.assets.models import Asset
from hovvet.server.documents.changing import apply_edit
from hovvet.server.documents.models import Document
from hovvet.server.documents.opening import Opened, opened
from hovvet.server.problems import Problem
from hovvet.server.stock.library import StockItem
from hovvet.server.stock.stand_in import LIBRARY

Thing = Asset | StockItem


def candidates(workspace: Workspace) -> list[Thing]:
    """What a clip of a workspace could show without asking anybody: what stands on its Shelf and may be used, and pictures of the
    stock library that ask for nothing."""
    own = Asset.objects.filter(workspace=workspace, kind__in=(Asset.Kind.VIDEO, Asset.Kind.PICTURE))
    standing = [each for each in own.select_related("recording") if not each.refusal and each.ready]
    taken = set(Asset.objects.filter(workspace=workspace).exclude(stock="").values_list("stock", flat=True))
    free = [item for item in LIBRARY.search("", "picture") if item.id not in taken and not item.licence.asks]
    return [*standing, *free]


def means_of(things: list[Thing]) -> Vectors:
    """What they mean: shape (n, SIZE)."""
    return np.array([each.means if isinstance(each, Asset) else LIBRARY.means(each.id) for each in things])


def key_of(workspace: Workspace, thing: Thing) -> str | None:
    """What names a thing in clips; it is taken from the stock library where it is from there. None where that failed."""
    if isinstance(thing, Asset):
        return thing.key
    with suppress(CoreError, Problem):
        return take(workspace, thing.id).key
    return None


def another_picture(clip: Document, layer_id: str, version: int, author_id: int | None, edition: str | None) -> Opened:
    """Show something else where a layer shows a picture, or where its slide stands: what fits its words next best. Raises Stale,
    Problem."""
    now = opened(clip, edition)
    layer = next((each for each in now.sheet.layers if each.id == layer_id), None)
    if layer is None or not isinstance(layer.content, Broll | Slide):
        raise Problem(409, "There is no picture here (any more). Select one, and press again.")
    text = _said_under(now, layer)
    if not text:
        raise Problem(
            409, "Nothing is said under this picture, so nothing tells what it should show. Choose one by hand."
        )
    things = candidates(clip.workspace)
    own = layer.content.media if isinstance(layer.content, Showing | Slide) else ""
    others = {name for each in now.sheet.layers if each.id != layer_id for name in each.content.media_shown}
    keys = [each.key if isinstance(each, Asset) else "" for each in things]
    shown = keys.index(own) if own in keys else None
    place = next_best(text, means_of(things), [n for n, key in enumerate(keys) if key in others], shown, vectors)
    key = key_of(clip.workspace, things[place]) if place is not None else None
    if key is None:
        raise Problem(
            409,
            "Nothing else on the Shelf or in the stock library fits what is said here. Put more on the Shelf, or choose by hand.",
        )
    content = (
        with_changes(layer.content, media=key)
        if isinstance(layer.content, Broll)
        else Broll(media=key, move="comes closer")
    )
    return apply_edit(clip, version, PutLayer(layer=with_changes(layer, content=content)), author_id, edition)


def _said_under(now: Opened, layer: Layer) -> str:
    places = Places(now.sheet, now.sources.transcripts)
    kept = places.kept(layer.span)
    if kept is None:
        return ""
    return " ".join(spot.word.text for spot in places.spots[kept[0] : kept[1] + 1] if spot.kept and spot.word)
