"""Which layers of a plan are seen at a frame; the page looks at it the same way (``web/src/player/visible.ts``)."""

from collections.abc import Iterable
from math import floor

from hovvet.core.plan.knots import place_at, value_at
from hovvet.core.plan.model import Crop, Fill, PictureLayer, PlaceKnot, Plan, Video

Box = tuple[int, int, int, int]  # left, top, width, height, in even pixels of the output


def visible(plan: Plan, frame: int, among: Iterable[PictureLayer] | None = None) -> list[PictureLayer]:
    """The layers of a frame from the topmost that covers all upwards; ``among`` those that may be there, where who asks
    knows them."""
    shown: list[PictureLayer] = []
    for layer in plan.picture if among is None else among:
        if layer.first <= frame < layer.last and value_at(layer.opacity, frame) > 0:
            if covers(plan, layer, frame):
                shown = []
            shown.append(layer)
    return shown


def film_of(plan: Plan, frame: int, among: Iterable[PictureLayer] | None = None) -> PictureLayer | None:
    """The film that is seen at a frame, what lies over it in a part of the frame aside; None where there is none, and while
    one crosses into another."""
    shown = (each for each in visible(plan, frame, among) if isinstance(each.source, Video))
    films = [each for each in shown if each.window is None and not each.is_clear]
    if any(value_at(each.opacity, frame) < 1 for each in films):
        return None
    return films[-1] if films else None


def covers(plan: Plan, layer: PictureLayer, frame: int) -> bool:
    """Whether nothing behind a layer is seen."""
    if value_at(layer.opacity, frame) < 1:
        return False
    if layer.backdrop is not None:
        return True
    if layer.window is not None or layer.is_clear:
        return False
    if isinstance(layer.source, Fill):
        return True
    assert layer.crop
    place = place_at(layer.place, frame)
    left, top, width, height = box_of(place, layer.crop)
    reaches = left <= 0 and top <= 0 and left + width >= plan.width and top + height >= plan.height
    return reaches and not place.turn


def box_of(place: PlaceKnot, crop: Crop) -> Box:
    """The even rectangle that a layer that is not turned covers."""
    high = place.width * crop.height / crop.width
    x0, x1 = (even(place.x + side * place.width / 2) for side in (-1, 1))
    y0, y1 = (even(place.y + side * high / 2) for side in (-1, 1))
    return x0, y0, max(x1 - x0, 2), max(y1 - y0, 2)


def even(value: float) -> int:
    """The nearest even pixel."""
    return floor(value / 2 + 0.5) * 2
