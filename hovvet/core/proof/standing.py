"""Where on screen something could stand instead."""

from collections.abc import Iterator, Sequence

from hovvet.core.compile.scene import Box, Laid
from hovvet.core.proof.looked import Looked
from hovvet.core.sheet.contents.base import Content
from hovvet.core.sheet.contents.lettered import Lettered
from hovvet.core.sheet.contents.sticker import Sticker
from hovvet.core.sheet.edits import PutLayer
from hovvet.core.sheet.model import Layer
from hovvet.core.value import with_changes

_GAP = 0.01  # of the output, between two things


def put(looked: Looked, layer: str, content: Content) -> PutLayer:
    """A layer with other content, where it lies."""
    span = next(each.span for each in looked.sheet.layers if each.id == layer)
    return PutLayer(layer=Layer(id=layer, span=span, content=content))


def elsewhere(looked: Looked, laid: Laid[Content]) -> PutLayer | None:
    """Something that a person placed put where it is clear of all that is there at the same time, and inside of the safe area;
    None where there is no room, and for what has its place by itself."""
    content = laid.content
    if isinstance(content, Lettered):
        return put(looked, laid.layer, with_changes(content, height=None)) if content.height is not None else None
    own = looked.scene.boxes.get(laid.layer)
    if not isinstance(content, Sticker) or own is None:
        return None
    taken = list(_taken(looked, laid))
    for left, top in sorted(
        _places(looked, own, taken), key=lambda each: abs(each[0] - own.left) + abs(each[1] - own.top)
    ):
        box = with_changes(own, left=left, top=top)
        if looked.is_off_safe(box) or any(box.meets(each) for each in taken):
            continue
        across, down = content.across + left - own.left, content.down + top - own.top
        if 0 <= across <= 1 and 0 <= down <= 1:
            return put(looked, laid.layer, with_changes(content, across=round(across, 4), down=round(down, 4)))
    return None


def _taken(looked: Looked, laid: Laid[Content]) -> Iterator[Box]:
    """What else is there meanwhile."""
    for each in looked.scene.laid:
        box = looked.scene.boxes.get(each.layer)
        if box and each.layer != laid.layer and each.first < laid.last and each.last > laid.first:
            yield box
    for caption, own in zip(looked.plan.captions, looked.scene.caption_boxes, strict=False):
        if caption.first < laid.last and caption.last > laid.first:
            yield own


def _places(looked: Looked, own: Box, taken: Sequence[Box]) -> Iterator[tuple[float, float]]:
    """Left and top of places: along the edges of the safe area, and beside what is taken."""
    outlet = looked.target.outlet
    left, top, right, bottom = outlet.safe
    lefts = [own.left, left / outlet.width, 1 - right / outlet.width - own.width]
    tops = [own.top, top / outlet.height, 1 - bottom / outlet.height - own.height]
    for box in taken:
        lefts += [box.left - own.width - _GAP, box.left + box.width + _GAP]
        tops += [box.top - own.height - _GAP, box.top + box.height + _GAP]
    yield from ((x, y) for x in lefts for y in tops)
