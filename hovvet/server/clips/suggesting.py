"""Pictures and films that could be seen while the words of a clip are said."""

from dataclasses import dataclass, replace

import numpy as np

from hovvet.core.engines.meaning import Vectors, vectors
from hovvet.core.plan.model import PlanWord
from hovvet.core.sheet.contents.punch import Punch
from hovvet.core.shelf.suggesting import Stretch, said_in, stretches_of, suggested
from hovvet.core.view.cuts import cuts_to_cover, jumps
from hovvet.server.assets.models import Asset
from hovvet.server.documents.opening import Opened
from hovvet.server.stock.library import StockItem
from hovvet.server.stock.stand_in import LIBRARY

_NEAR = 0.1  # seconds within which a closer view begins at a cut


@dataclass(frozen=True)
class Suggestion:
    """What could be seen from one word to another: things of the Shelf and of the stock library, best first. ``covered``:
    a picture lies over some of these words already. ``shot``: where this hides a cut, the words from there to the next."""

    first: PlanWord
    last: PlanWord
    text: str
    covered: bool
    things: tuple[Asset | StockItem, ...]
    shot: tuple[PlanWord, PlanWord] | None = None


def suggestions_for(now: Opened) -> list[Suggestion]:
    """For all of what is said in a clip, in order. What may not be used is not suggested."""
    return _suggestions(now, stretches_of(now.plan.words))


def suggestions_at_cuts(now: Opened) -> list[Suggestion]:
    """The same, for the words around each cut at which the picture jumps."""
    words = now.plan.words
    cuts = cuts_to_cover(words, jumps(now.scene))
    covered = [*_covered(now), *_closer(now)]
    return [
        replace(
            each,
            covered=any(a - _NEAR <= cut.at <= b + _NEAR for a, b in covered),
            shot=(words[cut.shot.first], words[cut.shot.last]),
        )
        for cut, each in zip(cuts, _suggestions(now, [cut.around for cut in cuts]), strict=True)
    ]


def _closer(now: Opened) -> list[tuple[float, float]]:
    """When closer views begin and end: what jumps there reads as a change of shot."""
    edges = (now.plan.rate.seconds(edge) for each in now.scene.of(Punch) for edge in (each.first, each.last))
    return [(edge, edge) for edge in edges]


def _suggestions(now: Opened, stretches: list[Stretch]) -> list[Suggestion]:
    words = now.plan.words
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
    taken = {asset.stock for asset in standing}
    offered = [item for item in LIBRARY.search("", None) if item.kind != "sound" and item.id not in taken]
    means = [asset.means for asset in standing] + [LIBRARY.means(item.id) for item in offered]
    return [*standing, *offered], np.array(means)


def _covered(now: Opened) -> list[tuple[float, float]]:
    """When, in seconds of the output, pictures lie over the words."""
    seconds = now.plan.rate.seconds
    return [(seconds(each.first), seconds(each.last)) for each in now.scene.laid if each.content.covers]


def _meets(stretch: Stretch, words: tuple[PlanWord, ...], covered: list[tuple[float, float]]) -> bool:
    return any(a < words[stretch.last].end and b > words[stretch.first].start for a, b in covered)
