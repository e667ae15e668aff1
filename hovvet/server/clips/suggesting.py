"""Pictures and films that could be seen while the words of a clip are said."""

from dataclasses import dataclass

import numpy as np

from hovvet.core.engines.meaning import Vectors, vectors
from hovvet.core.plan.model import PlanWord
from hovvet.core.sheet.contents.broll import Broll
from hovvet.core.shelf.suggesting import Stretch, said_in, stretches_of, suggested
from hovvet.server.assets.models import Asset
from hovvet.server.clips.documents import Opened
from hovvet.server.stock.library import StockItem
from hovvet.server.stock.stand_in import LIBRARY


@dataclass(frozen=True)
class Suggestion:
    """What could be seen from one word to another: things of the Shelf and of the stock library, best first. ``covered``:
    a picture lies over some of these words already."""

    first: PlanWord
    last: PlanWord
    text: str
    covered: bool
    things: tuple[Asset | StockItem, ...]


def suggestions_for(now: Opened) -> list[Suggestion]:
    """For all of what is said in a clip, in order. What may not be used is not suggested."""
    words = now.plan.words
    stretches = stretches_of(words)
    things, means = _things(now)
    shown = [n for n, thing in enumerate(things) if isinstance(thing, Asset) and thing.key in now.sheet.assets]
    texts = [said_in(words, each) for each in stretches]
    covered = _covered(now)
    return [
        Suggestion(
            words[stretch.first],
            words[stretch.last],
            text,
            _meets(stretch, words, covered),
            tuple(things[n] for n in best),
        )
        for stretch, text, best in zip(stretches, texts, suggested(texts, means, shown, vectors), strict=True)
    ]


def _things(now: Opened) -> tuple[list[Asset | StockItem], Vectors]:
    own = Asset.objects.filter(workspace=now.document.workspace, kind__in=(Asset.Kind.VIDEO, Asset.Kind.PICTURE))
    standing = [asset for asset in own.select_related("recording") if not asset.refusal]
    taken = {asset.info_json.get("stock") for asset in standing}
    offered = [item for item in LIBRARY.search("", None) if item.id not in taken]
    means = [asset.means for asset in standing] + [LIBRARY.means(item.id) for item in offered]
    return [*standing, *offered], np.array(means)


def _covered(now: Opened) -> list[tuple[float, float]]:
    """When, in seconds of the output, pictures lie over the words."""
    seconds = now.plan.rate.seconds
    return [
        (seconds(reach.first), seconds(reach.last))
        for layer in now.sheet.layers
        if isinstance(layer.content, Broll) and (reach := now.scene.reach(layer.span)) is not None
    ]


def _meets(stretch: Stretch, words: tuple[PlanWord, ...], covered: list[tuple[float, float]]) -> bool:
    return any(a < words[stretch.last].end and b > words[stretch.first].start for a, b in covered)
