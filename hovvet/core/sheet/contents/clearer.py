"""Speech made clearer."""

from typing import Annotated, ClassVar, Literal

from pydantic import Field

from hovvet.core.sheet.contents.base import Content, Group, Lane, Offer
from hovvet.core.sound.clearer import Strength


class Clearer(Content):
    """What is said in the clip is heard with the noise around it taken down so ``strength``-ly, whatever its recordings are
    set to; with "off" as it was recorded."""

    kind: Literal["clearer"] = "clearer"
    strength: Annotated[Strength, Field(title="Clearer speech")] = "medium"

    lane: ClassVar[Lane] = "sound"
    title: ClassVar[str] = "Clearer speech"
    group: ClassVar[Group | None] = "sound"
    offers: ClassVar[tuple[Offer, ...]] = (Offer(label="Clearer speech", place=70, over="clip"),)

    @property
    def clearings(self) -> tuple[Strength, ...]:
        """Its own."""
        return (self.strength,)

    def label(self) -> str:
        """How strongly."""
        return "Speech as recorded" if self.strength == "off" else f"Clearer speech: {self.strength}"
