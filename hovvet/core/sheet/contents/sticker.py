"""Small pictures on screen."""

from typing import Annotated, ClassVar, Literal

from pydantic import Field

from hovvet.core.sheet.contents.base import Group, Lane, Offer, Showing
from hovvet.core.value import SLIDES, SNAPS


class Sticker(Showing):
    """A picture that may be seen through, ``size`` of the output's width wide, its middle at ``across`` and ``down`` of the
    output, turned by ``turn`` degrees clockwise. It comes and goes in its own way, and may move meanwhile."""

    kind: Literal["sticker"] = "sticker"
    comes: Annotated[Literal["pops up", "slides in", "fades in", "is there"], Field(title="It")] = "pops up"
    meanwhile: Annotated[Literal["stands still", "wiggles", "bounces"], Field(title="Then it")] = "stands still"
    size: Annotated[float, Field(ge=0.03, le=1, title="Size", json_schema_extra=SLIDES)] = 0.26
    """Its width in parts of the output's."""
    across: Annotated[float, Field(ge=0, le=1, title="From left to right", json_schema_extra=SLIDES | SNAPS)] = 0.5
    down: Annotated[float, Field(ge=0, le=1, title="From top to bottom", json_schema_extra=SLIDES | SNAPS)] = 0.3
    turn: Annotated[float, Field(ge=-180, le=180, title="Turned, degrees")] = 0.0

    lane: ClassVar[Lane] = "screen"
    alone: ClassVar[bool] = False
    title: ClassVar[str] = "Sticker"
    group: ClassVar[Group | None] = "screen"
    offers: ClassVar[tuple[Offer, ...]] = (Offer(label="Sticker", place=10, keys=("U",)),)
