"""Freeze frames."""

from typing import Annotated, ClassVar, Literal

from pydantic import Field

from hovvet.core.sheet.contents.base import Content, Group, Lane, Offer
from hovvet.core.value import called

SHORTEST_FREEZE, LONGEST_FREEZE = 0.1, 20.0  # seconds


class Freeze(Content):
    """The frame at which its first word begins is held for ``seconds`` before that word is said, in silence or with the
    sound of the room."""

    kind: Literal["freeze"] = "freeze"
    seconds: Annotated[float, Field(ge=SHORTEST_FREEZE, le=LONGEST_FREEZE, title="Length (s)")] = 1.0
    """How long it stands still."""
    sound: Annotated[
        Literal["silence", "room"],
        Field(title="Sound", json_schema_extra=called({"silence": "Silence", "room": "Room tone"})),
    ] = "room"
    """Silence, or the sound of the room."""

    lane: ClassVar[Lane] = "picture"
    title: ClassVar[str] = "Freeze frame"
    group: ClassVar[Group | None] = "time"
    offers: ClassVar[tuple[Offer, ...]] = (Offer(label="Freeze frame", place=20, keys=("O",)),)

    def label(self) -> str:
        """How long."""
        return f"Freeze {self.seconds:g} s"
