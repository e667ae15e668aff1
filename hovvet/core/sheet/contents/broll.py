"""A picture laid over words: what is said goes on, something else is seen."""

from typing import Annotated, ClassVar, Literal, get_args

from pydantic import Field

from hovvet.core.sheet.contents.base import SILENT, Lane, Showing
from hovvet.core.value import APART, PERCENT, SLIDES, Colour, called, when

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
    start: Annotated[float, Field(ge=0, le=200_000, title="Starts at (s)", json_schema_extra=APART)] = 0.0
    short: Annotated[
        Literal["held", "slowed down", "looped", "as long as it lasts"],
        Field(
            title="If shorter than the words",
            json_schema_extra=called(
                {
                    "held": "Freeze the last frame",
                    "slowed down": "Slow it down",
                    "looped": "Loop",
                    "as long as it lasts": "End early",
                }
            )
            | APART,
        ),
    ] = "held"
    volume: Annotated[
        float, Field(ge=SILENT, le=0, title="Volume of its own sound (dB)", json_schema_extra=APART | SLIDES)
    ] = SILENT
    fade_in: Annotated[float, Field(ge=0, le=10, title="Fade in of its sound (s)", json_schema_extra=APART)] = 0.2
    fade_out: Annotated[float, Field(ge=0, le=10, title="Fade out of its sound (s)", json_schema_extra=APART)] = 0.2
    move: Annotated[
        Move,
        Field(
            title="Movement",
            json_schema_extra=called(
                {
                    "stands still": "None",
                    "comes closer": "Zoom in",
                    "goes away": "Zoom out",
                    "to the right": "Pan right",
                    "to the left": "Pan left",
                    "from part to part": "Pan between two points",
                }
            )
            | APART,
        ),
    ] = "comes closer"
    from_across: Annotated[
        float, Field(ge=0, le=1, title="Start: position X (%)", json_schema_extra=PERCENT | _PART)
    ] = 0.5
    from_down: Annotated[float, Field(ge=0, le=1, title="Start: position Y (%)", json_schema_extra=PERCENT | _PART)] = (
        0.5
    )
    from_size: Annotated[
        float, Field(ge=0.2, le=1, title="Start: how much is seen (%)", json_schema_extra=PERCENT | _PART)
    ] = 1.0
    to_across: Annotated[float, Field(ge=0, le=1, title="End: position X (%)", json_schema_extra=PERCENT | _PART)] = 0.5
    to_down: Annotated[float, Field(ge=0, le=1, title="End: position Y (%)", json_schema_extra=PERCENT | _PART)] = 0.5
    to_size: Annotated[
        float, Field(ge=0.2, le=1, title="End: how much is seen (%)", json_schema_extra=PERCENT | _PART)
    ] = 0.6
    fit: Annotated[
        Literal["fill", "whole", "in a corner", "upper or left half", "lower or right half"],
        Field(
            title="Fit",
            json_schema_extra=called(
                {
                    "fill": "Fill",
                    "whole": "Fit",
                    "in a corner": "In a corner",
                    "upper or left half": "Upper or left half",
                    "lower or right half": "Lower or right half",
                }
            ),
        ),
    ] = "fill"
    corner: Annotated[
        Literal["top left", "top right", "bottom left", "bottom right"],
        Field(title="Corner", json_schema_extra=_CORNER),
    ] = "top right"
    small: Annotated[float, Field(ge=0.15, le=0.9, title="Width (%)", json_schema_extra=PERCENT | _CORNER)] = 0.45
    border: Annotated[float, Field(ge=0, le=0.03, title="Border", json_schema_extra=_CORNER)] = 0.0
    border_colour: Annotated[Colour, Field(title="Border colour", json_schema_extra=_CORNER)] = "#FAF6EE"
    across: Annotated[float, Field(ge=0, le=1, title="Position X (%)", json_schema_extra=PERCENT | _FOCUS)] = 0.5
    down: Annotated[float, Field(ge=0, le=1, title="Position Y (%)", json_schema_extra=PERCENT | _FOCUS)] = 0.5

    lane: ClassVar[Lane] = "picture"
    covers: ClassVar[bool] = True
    title: ClassVar[str] = "B-roll"

    @property
    def heard_at(self) -> float | None:
        """Its volume."""
        return self.volume if self.media else None
