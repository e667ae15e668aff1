"""Where the picture of a source stands in the picture of the output."""

from dataclasses import dataclass
from functools import lru_cache

from hovvet.core.plan.model import Blur, Crop, PlaceKnot, Plain
from hovvet.core.sheet.contents.framing import Framing
from hovvet.core.sheet.contents.punch import Punch

FILL_DIVISOR = 10  # the fill is blurred at a tenth of the size: it looks the same and costs little
PUSH_LINES = 16  # straight lines that a slow push is made of
FILL_SIGMA = 3.0  # pixels, at that size

Size = tuple[int, int]  # width, height in pixels


@dataclass(frozen=True)
class Framed:
    """The part of the source that is shown, where, and what is behind it."""

    crop: Crop
    place: PlaceKnot
    backdrop: Blur | Plain | None


@lru_cache(maxsize=512)
def framed(framing: Framing, source: Size, output: Size) -> Framed:
    """How ``source`` (as shown, square pixels) stands in ``output``."""
    (sw, sh), (ow, oh) = source, output
    whole = Crop(x=0, y=0, width=sw, height=sh)
    if framing.mode == "fill":
        crop = covering(source, output, (framing.across, framing.down))
        return Framed(crop, PlaceKnot(frame=0, x=ow / 2, y=oh / 2, width=float(ow)), None)
    width = float(ow) if sw * oh >= ow * sh else oh * sw / sh
    place = PlaceKnot(frame=0, x=ow / 2, y=oh / 2, width=width)
    if sw * oh == ow * sh:
        return Framed(whole, place, None)
    if framing.colour is not None:
        return Framed(whole, place, Plain(colour=framing.colour))
    blur = Blur(
        crop=covering(source, output, (0.5, 0.5)),
        width=_even(ow / FILL_DIVISOR),
        height=_even(oh / FILL_DIVISOR),
        sigma=FILL_SIGMA,
    )
    return Framed(whole, place, blur)


def closer(stands: Framed, first: int, last: int, punch: Punch) -> tuple[PlaceKnot, ...]:
    """Where a framed picture stands while it is seen closer, from frame ``first`` up to ``last``. The point that it goes
    towards stays in its place, so that the picture never uncovers what it covered."""
    place, crop = stands.place, stands.crop
    high = place.width * crop.height / crop.width
    x = place.x + (punch.across - 0.5) * place.width
    y = place.y + (punch.down - 0.5) * high

    def at(frame: int, times: float) -> PlaceKnot:
        return PlaceKnot(
            frame=frame,
            x=round(x + (place.x - x) * times, 3),
            y=round(y + (place.y - y) * times, 3),
            width=round(place.width * times, 3),
        )

    if punch.move == "at once" or last - first < 2:
        return (at(first, punch.amount),)
    frames = sorted({first + (last - 1 - first) * n // PUSH_LINES for n in range(PUSH_LINES + 1)})
    return tuple(at(frame, 1 + (punch.amount - 1) * _eased((frame - first) / (last - 1 - first))) for frame in frames)


def _eased(part: float) -> float:
    """From 0 to 1, gently at both ends."""
    return part * part * (3 - 2 * part)


def covering(source: Size, output: Size, focus: tuple[float, float]) -> Crop:
    """The largest part of the source in the shape of the output, with even sides, as near to the focus as can be."""
    (sw, sh), (ow, oh) = source, output
    cover = max(ow / sw, oh / sh)
    width, height = min(_even(ow / cover), sw - sw % 2), min(_even(oh / cover), sh - sh % 2)
    x = min(max(focus[0] * sw - width / 2, 0), sw - width)
    y = min(max(focus[1] * sh - height / 2, 0), sh - height)
    return Crop(x=int(x) // 2 * 2, y=int(y) // 2 * 2, width=max(width, 2), height=max(height, 2))


def _even(value: float) -> int:
    return max(2, int(value / 2 + 0.5) * 2)
