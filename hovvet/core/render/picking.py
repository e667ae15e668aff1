"""The colour of a screen by what a film or a still shows: read in a program of its own.

``python -m hovvet.core.render.picking ORDER`` is that program; its order and its answer are JSON.
"""

import sys
from collections.abc import Sequence
from pathlib import Path
from typing import Annotated

from pydantic import Field

from hovvet.core.colour.keying import Planes, colour_at, found
from hovvet.core.colour.screen import Colour, picked
from hovvet.core.errors import CoreError
from hovvet.core.media.info import MediaInfo
from hovvet.core.media.process import Limits, answer_of, answering
from hovvet.core.plan.model import Crop
from hovvet.core.render.sources import Original, Seen, Sources
from hovvet.core.time import Rate
from hovvet.core.value import LATEST, Value

MOST = 12  # places that a screen may be picked at
_LIMITS = Limits(seconds=60, cpu=90, output=100_000)
_RATE = Rate(num=100)  # the grid on which moments are sought
_UNREAD = "The picture could not be looked at. Try again; if it fails once more, prepare the recording again."
_NONE = "No screen of one colour was found around what is seen there. Press on the screen in the picture, at several places."


class Spot(Value):
    """A place of a picture: 0 to 1 ``across`` from its left and ``down`` from its top, at some ``seconds`` of a film; None for a
    still."""

    seconds: Annotated[float, Field(ge=0, le=LATEST)] | None = None
    across: Annotated[float, Field(ge=0, le=1)]
    down: Annotated[float, Field(ge=0, le=1)]


class _Order(Value):
    path: str
    media: MediaInfo
    seconds: float | None
    spots: tuple[Spot, ...]


def screen_at(original: Original, spots: Sequence[Spot]) -> Colour:
    """The screen's colour by places that show it. Raises CoreError."""
    return _asked(original, None, spots)


def screen_found(original: Original, seconds: float | None) -> Colour:
    """The screen's colour by what is around whatever is seen at some seconds. Raises CoreError where there is none."""
    return _asked(original, seconds, ())


def _asked(original: Original, seconds: float | None, spots: Sequence[Spot]) -> Colour:
    order = _Order(path=str(original.path), media=original.media, seconds=seconds, spots=tuple(spots))
    answer = answer_of("hovvet.core.render.picking", [order.model_dump_json()], _LIMITS, _UNREAD)
    return Colour(*answer["colour"])


def _work(order: _Order) -> dict[str, object]:
    sources = Sources(_RATE, {"": Original(Path(order.path), order.media)})
    try:
        if order.spots:
            shown = {at: _whole(sources, at) for at in {spot.seconds for spot in order.spots}}
            colours = [colour_at(shown[spot.seconds], spot.across, spot.down) for spot in order.spots]
            return {"colour": picked(colours)}
        colour = found(_whole(sources, order.seconds))
    finally:
        sources.close()
    if colour is None:
        raise CoreError(_NONE)
    return {"colour": colour}


def _whole(sources: Sources, seconds: float | None) -> Planes:
    """All of the picture that is seen at some seconds."""
    width, height = sources.size("")
    crop = Crop(x=0, y=0, width=width - width % 2, height=height - height % 2)
    return sources.cropped(Seen("", None if seconds is None else _RATE.frame_at(seconds), crop))


def main(order: str) -> int:
    """Print the colour that is asked for."""
    return answering(lambda: _work(_Order.model_validate_json(order)), _UNREAD)


if __name__ == "__main__":
    sys.exit(main(*sys.argv[1:]))
