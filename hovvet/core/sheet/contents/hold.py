"""A frame that is held."""

from typing import Annotated, ClassVar, Literal

from pydantic import Field

from hovvet.core.sheet.contents.base import Content, Group, Lane, Offer

SHORTEST_HOLD, LONGEST_HOLD = 0.1, 20.0  # seconds


class Hold(Content):
    """The frame at which its first word begins is held for ``seconds`` before that word is said, in silence or with the
    sound of the room."""

    kind: Literal["hold"] = "hold"
    seconds: Annotated[float, Field(ge=SHORTEST_HOLD, le=LONGEST_HOLD, title="Seconds")] = 1.0
    sound: Annotated[Literal["silence", "room"], Field(title="Sound")] = "room"

    lane: ClassVar[Lane] = "picture"
    title: ClassVar[str] = "Hold"
    group: ClassVar[Group | None] = "time"
    offers: ClassVar[tuple[Offer, ...]] = (Offer(label="Hold the frame", place=20, keys=("O",)),)

    def label(self) -> str:
        """How long."""
        return f"Hold {self.seconds:g} s"
