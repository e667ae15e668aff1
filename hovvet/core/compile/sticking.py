"""Small pictures on screen: where they stand, and how they come, move and go."""

from math import pi, sin

from hovvet.core.compile.framing import Free, eased, in_corner
from hovvet.core.picture.strip import Size
from hovvet.core.plan.model import Knot, PlaceKnot
from hovvet.core.sheet.contents.logo import Logo
from hovvet.core.sheet.contents.sticker import Sticker
from hovvet.core.time import Rate

_COMES, _GOES = 0.35, 0.18  # seconds
_SHORT_SHARE = 0.4  # of the time that it is there, which coming takes at most; going takes half of that
_BEYOND = 1.70158  # how far it pops beyond its size, by ten percent: Penner's "back" easing
_SMALLEST = 2.0  # pixels: nothing is drawn smaller
_WIGGLES, _WIGGLE = 2.2, 9.0  # a second; degrees
_BOUNCES, _BOUNCE = 1.4, 0.12  # a second; of its height
_STEP = 2  # frames between knots while it moves


def stuck(
    sticker: Sticker, size: Size, output: Size, first: int, last: int, rate: Rate
) -> tuple[tuple[PlaceKnot, ...], tuple[Knot, ...]]:
    """Where a sticker of ``size`` stands from frame ``first`` up to ``last``, and how strongly it is seen."""
    width = sticker.size * output[0]
    x, y = sticker.across * output[0], sticker.down * output[1]
    there = last - first
    comes = min(rate.frame(_COMES), int(there * _SHORT_SHARE)) if sticker.comes != "is there" else 0
    goes = min(rate.frame(_GOES), comes // 2)

    def at(frame: int) -> PlaceKnot:
        in_, out = _part(frame - first, comes), _part(last - 1 - frame, goes)
        times, left = 1.0, x
        if sticker.comes == "pops up":
            times = _popped(in_) * eased(out)
        elif sticker.comes == "slides in":
            left = x - (1 - eased(in_) * eased(out)) * (x + width / 2)
        seconds = rate.seconds(frame - first - comes) if in_ >= 1 and out >= 1 else 0.0
        turn, up = sticker.turn, 0.0
        if sticker.meanwhile == "wiggles":
            turn += _WIGGLE * sin(2 * pi * _WIGGLES * seconds)
        elif sticker.meanwhile == "bounces":
            up = _BOUNCE * abs(sin(pi * _BOUNCES * seconds)) * width * size[1] / size[0]
        return PlaceKnot(
            frame=frame,
            x=round(left, 3),
            y=round(y - up, 3),
            width=round(max(width * times, _SMALLEST), 3),
            turn=round(turn, 3),
        )

    frames = _frames(first, last, comes, goes, moves=sticker.meanwhile != "stands still")
    places = tuple(at(frame) for frame in frames)
    if len({(p.x, p.y, p.width, p.turn) for p in places}) == 1:
        places = places[:1]
    if sticker.comes != "fades in" or not comes:
        return places, ()
    fall = (Knot(at=last - 1 - goes, value=1.0), Knot(at=last - 1, value=0.0)) if goes else ()
    return places, (Knot(at=first, value=0.0), Knot(at=first + comes, value=1.0), *fall)


def _part(done: int, of: int) -> float:
    return min(done / of, 1.0) if of else 1.0


def _popped(part: float) -> float:
    """0 to 1, a little beyond it on the way."""
    back = part - 1
    return 1 + (_BEYOND + 1) * back**3 + _BEYOND * back**2


def _frames(first: int, last: int, comes: int, goes: int, moves: bool) -> list[int]:
    """At which frames it has to be told where it is: all while it comes and goes, every other one while it moves."""
    still = range(first + comes, last - goes)
    meanwhile = still[::_STEP] if moves else still[:1]
    return sorted({*range(first, still.start), *meanwhile, *still[-1:], *range(still.stop, last)})


def cornered(logo: Logo, size: Size, output: Size, safe: Free) -> PlaceKnot:
    """Where a logo of ``size`` stands: in its corner of the safe area."""
    longer = logo.size * min(output)
    width, height = (longer * min(1.0, a / b) for a, b in (size, size[::-1]))
    x, y = in_corner(logo.corner, (width, height), output, safe)
    return PlaceKnot(frame=0, x=round(x + width / 2, 3), y=round(y + height / 2, 3), width=round(width, 3))
