"""A screen of one colour behind somebody: which colour, and how it is told from what stands before it."""

from collections.abc import Sequence
from typing import Annotated, NamedTuple

import numpy as np
from pydantic import Field

from hovvet.core.errors import CoreError
from hovvet.core.value import APART, PERCENT, Value

GREY = 128.0
_LEAST = 20.0  # of chroma that a colour has to have to be told from grey


class Colour(NamedTuple):
    """A colour as video has it: Y', Cb and Cr, 0 to 255, 128 of the latter two being grey."""

    light: float
    blue: float
    red: float


class Screen(Value):
    """A screen's colour as it is filmed, how it is told from what stands before it, and the part of the picture in which that is:
    what is outside counts as screen, whatever it is."""

    light: Annotated[float, Field(ge=0, le=255, title="Light of the screen", json_schema_extra=APART)] = 0.0
    blue: Annotated[float, Field(ge=0, le=255, title="Blue of the screen", json_schema_extra=APART)] = GREY
    red: Annotated[float, Field(ge=0, le=255, title="Red of the screen", json_schema_extra=APART)] = GREY
    reach: Annotated[float, Field(ge=0, le=0.8, title="Reach (%)", json_schema_extra=PERCENT | APART)] = 0.15
    """How much else may be in a pixel that is taken for the screen alone: more where it is lit unevenly."""
    softness: Annotated[float, Field(ge=0.05, le=1, title="Softness (%)", json_schema_extra=PERCENT | APART)] = 1.0
    """Of the way from the screen alone to none of it, over how much it is half seen."""
    spill: Annotated[float, Field(ge=0, le=1, title="Spill taken off (%)", json_schema_extra=PERCENT | APART)] = 1.0
    """How much of the screen's light is taken off what stands before it."""
    left: Annotated[float, Field(ge=0, le=0.9, title="Frame: left (%)", json_schema_extra=PERCENT | APART)] = 0.0
    top: Annotated[float, Field(ge=0, le=0.9, title="Frame: top (%)", json_schema_extra=PERCENT | APART)] = 0.0
    right: Annotated[float, Field(ge=0.1, le=1, title="Frame: right (%)", json_schema_extra=PERCENT | APART)] = 1.0
    bottom: Annotated[float, Field(ge=0.1, le=1, title="Frame: bottom (%)", json_schema_extra=PERCENT | APART)] = 1.0

    @property
    def is_picked(self) -> bool:
        """Whether it has a colour that can be told from others."""
        return is_coloured(self.blue, self.red)


def is_coloured(blue: float, red: float) -> bool:
    """Whether a colour's Cb and Cr are far enough from grey to tell it from a person."""
    return bool(np.hypot(blue - GREY, red - GREY) >= _LEAST)


def picked(places: Sequence[Colour]) -> Colour:
    """The screen's colour by several places that show it alone. Raises CoreError for what is too near to grey, or of several hues."""
    colours = np.array(places, np.float64)
    made = Colour(*(round(float(each), 1) for each in np.median(colours, axis=0)))
    if not is_coloured(made.blue, made.red):
        raise CoreError(
            "There is too little colour there to tell it from a person. Pick a place where the screen is green or blue."
        )
    if np.hypot(*(colours[:, 1:] - (made.blue, made.red)).T).max() > np.hypot(made.blue - GREY, made.red - GREY):
        raise CoreError("Those places are of different colours. Start over, and pick only places that show the screen.")
    return made
