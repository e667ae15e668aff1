"""A picture laid over words: what is said goes on, something else is seen."""

from typing import Annotated, ClassVar, Literal, get_args

from pydantic import Field

from hovvet.core.sheet.contents.base import SILENT, Lane, Showing
from hovvet.core.value import APART, SLIDES, Colour, when

Move = Literal["stands still", "comes closer", "goes away", "to the right", "to the left", "from part to part"]
# Where it goes from part to part, those say what is seen.
_FOCUS = when(
    {"fit": "in a corner"},
    {"fit": "upper or left half"},
    {"fit": "lower or right half"},
    *({"fit": "fill", "move": move} for move in get_args(Move) if move != "from part to part"),
)
_CORNER = when({"fit": "in a corner"})
_PART = APART | SLIDES


class Broll(Showing):
    """A recording from ``start`` seconds on, or a still, over words. Its own sound is heard at a ``volume`` in dB beside the speech
    (0: as loud as that; at ``SILENT`` it is not heard) where it is shown at its own speed. Where a recording is shorter than
    they are, it is slowed down, looped, held on its last frame, or there only as long as it lasts. A still may move,
    also from one part of it to another: each has its middle ``across`` and ``down`` and its ``size``, 1 as much as fits.
    It fills the frame around the point ``across`` and ``down``, is seen whole over a blur of itself, takes one half of the
    frame (of a tall one the upper or lower, of a wide one the left or right), or stands ``small`` (of the output's width)
    in a ``corner`` of the safe area, with what is said seen around it."""

    kind: Literal["broll"] = "broll"
    start: Annotated[float, Field(ge=0, le=200_000, title="From, seconds", json_schema_extra=APART)] = 0.0
    short: Annotated[
        Literal["held", "slowed down", "looped", "as long as it lasts"],
        Field(title="Where it is shorter than the words, it is", json_schema_extra=APART),
    ] = "held"
    volume: Annotated[
        float, Field(ge=SILENT, le=0, title="Volume of its own sound, dB", json_schema_extra=APART | SLIDES)
    ] = SILENT
    move: Annotated[Move, Field(title="While it is shown, it", json_schema_extra=APART)] = "comes closer"
    from_across: Annotated[float, Field(ge=0, le=1, title="First, from left to right", json_schema_extra=_PART)] = 0.5
    from_down: Annotated[float, Field(ge=0, le=1, title="First, from top to bottom", json_schema_extra=_PART)] = 0.5
    from_size: Annotated[float, Field(ge=0.2, le=1, title="First, how much of it", json_schema_extra=_PART)] = 1.0
    to_across: Annotated[float, Field(ge=0, le=1, title="Last, from left to right", json_schema_extra=_PART)] = 0.5
    to_down: Annotated[float, Field(ge=0, le=1, title="Last, from top to bottom", json_schema_extra=_PART)] = 0.5
    to_size: Annotated[float, Field(ge=0.2, le=1, title="Last, how much of it", json_schema_extra=_PART)] = 0.6
    fit: Annotated[
        Literal["fill", "whole", "in a corner", "upper or left half", "lower or right half"],
        Field(title="How it stands"),
    ] = "fill"
    corner: Annotated[
        Literal["top left", "top right", "bottom left", "bottom right"],
        Field(title="Which corner", json_schema_extra=_CORNER),
    ] = "top right"
    small: Annotated[float, Field(ge=0.15, le=0.9, title="Its width", json_schema_extra=SLIDES | _CORNER)] = 0.45
    border: Annotated[float, Field(ge=0, le=0.03, title="Its border", json_schema_extra=_CORNER)] = 0.0
    border_colour: Annotated[Colour, Field(title="Colour of the border", json_schema_extra=_CORNER)] = "#FAF6EE"
    across: Annotated[float, Field(ge=0, le=1, title="From left to right", json_schema_extra=SLIDES | _FOCUS)] = 0.5
    down: Annotated[float, Field(ge=0, le=1, title="From top to bottom", json_schema_extra=SLIDES | _FOCUS)] = 0.5

    lane: ClassVar[Lane] = "picture"
    covers: ClassVar[bool] = True
    title: ClassVar[str] = "Picture over words"
