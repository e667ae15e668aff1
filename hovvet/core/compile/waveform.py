"""Waveforms as shapes of the script."""

from collections.abc import Iterator, Sequence

import numpy as np
from numpy.typing import NDArray

from hovvet.core.captions.ass import Shape
from hovvet.core.plan.outlets import Outlet
from hovvet.core.sheet.contents.waveform import Waveform
from hovvet.core.time import Rate

_PART = 5.0  # seconds of the longest shape: a chunk's script reaches back no further than twice that
_STEP = 0.08  # seconds for which bars that move stand still
_WIDE = 0.6  # of the room of a bar is drawn
_LEAST = 0.06  # of the tallest bar: what a bar of silence has
_REST = "#FFFFFF"


def waveform_shapes(
    waveform: Waveform, first: int, loud: NDArray[np.float64], outlet: Outlet, rate: Rate
) -> Iterator[Shape]:
    """Its bars from frame ``first`` on; ``loud`` is how loud each frame is, from 0 to 1."""
    made = _now if waveform.moves else _all
    yield from made(waveform, first, loud, outlet, rate)


def _all(waveform: Waveform, first: int, loud: NDArray[np.float64], outlet: Outlet, rate: Rate) -> Iterator[Shape]:
    """All bars, and over them those that were heard, grown to the right as it goes on."""
    left, width, top, high = _room(waveform, outlet)
    values = [float(part.max()) if part.size else 0.0 for part in np.array_split(loud, waveform.bars)]
    drawing, last = _drawing(values, width, high), first + len(loud)
    if waveform.rest:
        yield Shape(first, last, left, top, _REST, waveform.rest, "", drawing)
    step = max(rate.frame(_PART), 1)
    for begin in range(first, last, step):
        end = min(begin + step, last)
        a, b = (left + round(width * (at - first) / (last - first)) for at in (begin, end))
        lasts = round(rate.seconds(end - begin) * 1000)
        bottom = top + high
        grows = f"\\clip({left},{top},{a},{bottom})\\t(0,{lasts},\\clip({left},{top},{b},{bottom}))"
        yield Shape(begin, end, left, top, waveform.colour, 1.0, grows, drawing)


def _now(waveform: Waveform, first: int, loud: NDArray[np.float64], outlet: Outlet, rate: Rate) -> Iterator[Shape]:
    """The bars around each moment: what is being said in the middle, what was to its left, what comes to its right."""
    left, width, top, high = _room(waveform, outlet)
    step = max(rate.frame(_STEP), 1)
    steps = [float(loud[at : at + step].max()) for at in range(0, len(loud), step)]
    middle = waveform.bars // 2
    around = [0.0] * middle + steps + [0.0] * (waveform.bars - middle)
    for n in range(len(steps)):
        begin = first + n * step
        end = min(begin + step, first + len(loud))
        drawing = _drawing(around[n : n + waveform.bars], width, high)
        yield Shape(begin, end, left, top, waveform.colour, 1.0, "", drawing)


def _room(waveform: Waveform, outlet: Outlet) -> tuple[int, int, int, int]:
    """Left, width, top and height in pixels: between the margins that stay free, on even pixels."""
    left, _, right, _ = outlet.safe
    high = max(round(waveform.tall * outlet.height / 2) * 2, 4)
    top = round(min(max(waveform.height * outlet.height - high / 2, 0), outlet.height - high))
    return left, outlet.width - left - right, top, high


def _drawing(values: Sequence[float], width: int, high: int) -> str:
    """Bars around the middle of their room, from its left top."""
    room = width / len(values)
    lines = []
    for n, value in enumerate(values):
        half = max(round(max(value, _LEAST) * high / 2), 1)
        a, b = round((n + (1 - _WIDE) / 2) * room), round((n + (1 + _WIDE) / 2) * room)
        up, down = high // 2 - half, high // 2 + half
        lines.append(f"m {a} {up} l {b} {up} {b} {down} {a} {down}")
    return " ".join(lines)
