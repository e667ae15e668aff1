"""Small pictures on screen."""

from typing import Annotated, ClassVar, Literal

from pydantic import Field

from hovvet.core.sheet.contents.base import Group, Lane, Offer, Showing
from hovvet.core.sheet.contents.entering import Entering
from hovvet.core.value import PERCENT, SNAPS, called


class Sticker(Showing, Entering):
    """A picture that may be seen through, ``size`` of the output's width wide, its middle at ``across`` and ``down`` of the
    output, turned by ``turn`` degrees clockwise. It comes and goes in its own way, and may move meanwhile."""

    kind: Literal["sticker"] = "sticker"
    comes: Annotated[
        Literal["pops up", "slides in", "fades in", "is there"],
        Field(
            title="Animation in",
            json_schema_extra=called({"pops up": "Pop", "slides in": "Slide", "fades in": "Fade", "is there": "None"}),
        ),
    ] = "pops up"
    meanwhile: Annotated[
        Literal["stands still", "wiggles", "bounces"],
        Field(
            title="Animation while shown",
            json_schema_extra=called({"stands still": "None", "wiggles": "Wiggle", "bounces": "Bounce"}),
        ),
    ] = "stands still"
    size: Annotated[float, Field(ge=0.03, le=1, title="Size (%)", json_schema_extra=PERCENT)] = 0.26
    """Its width in parts of the output's."""
    across: Annotated[float, Field(ge=0, le=1, title="Position X (%)", json_schema_extra=PERCENT | SNAPS)] = 0.5
    down: Annotated[float, Field(ge=0, le=1, title="Position Y (%)", json_schema_extra=PERCENT | SNAPS)] = 0.3
    turn: Annotated[float, Field(ge=-180, le=180, title="Rotation (°)")] = 0.0

    lane: ClassVar[Lane] = "screen"
    alone: ClassVar[bool] = False
    title: ClassVar[str] = "Sticker"
    group: ClassVar[Group | None] = "screen"
    offers: ClassVar[tuple[Offer, ...]] = (Offer(label="Sticker", place=10, keys=("U",)),)
