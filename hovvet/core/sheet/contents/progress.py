"""How far the clip has come."""

from typing import Annotated, ClassVar, Literal

from pydantic import Field

from hovvet.core.sheet.contents.base import Content, Group, Lane, Offer
from hovvet.core.value import PERCENT, SLIDES, Colour


class Progress(Content):
    """A bar that grows from left to right, ``thickness`` of the output's height thick; what is still to come is seen at the
    strength ``rest``."""

    kind: Literal["progress"] = "progress"
    place: Annotated[Literal["along the top", "along the bottom", "inside, at the top"], Field(title="Position")] = (
        "along the bottom"
    )
    thickness: Annotated[float, Field(ge=0.002, le=0.03, title="Thickness", json_schema_extra=SLIDES)] = 0.008
    """In parts of the output's height."""
    colour: Annotated[Colour, Field(title="Colour")] = "#FFD66B"
    """Of what has been."""
    rest: Annotated[float, Field(ge=0, le=1, title="Unplayed part: opacity (%)", json_schema_extra=PERCENT)] = 0.3

    lane: ClassVar[Lane] = "screen"
    most: ClassVar[int] = 20
    title: ClassVar[str] = "Progress bar"
    group: ClassVar[Group | None] = "screen"
    offers: ClassVar[tuple[Offer, ...]] = (Offer(label="Progress bar", place=30, over="clip"),)
