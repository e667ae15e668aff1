"""Which microphone of a talk is heard."""

from typing import Annotated, ClassVar, Literal

from pydantic import Field

from hovvet.core.sheet.contents.base import Content, Group, Lane, Offer
from hovvet.core.value import APART


class Microphone(Content):
    """A talk is heard as another camera or recorder has it, 1 being the recording itself. Where that was not running, the first is
    heard."""

    kind: Literal["microphone"] = "microphone"
    camera: Annotated[int, Field(ge=1, le=4, title="Camera or microphone", json_schema_extra=APART)] = 2

    lane: ClassVar[Lane] = "sound"
    title: ClassVar[str] = "Microphone"
    group: ClassVar[Group | None] = "sound"
    offers: ClassVar[tuple[Offer, ...]] = (Offer(label="Another microphone", place=70, over="clip"),)

    @property
    def travels(self) -> bool:
        """Microphones are of one talk."""
        return False

    def label(self) -> str:
        """Which."""
        return f"Heard by {self.camera}"
