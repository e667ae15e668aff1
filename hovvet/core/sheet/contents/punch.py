"""A closer view."""

from typing import Annotated, ClassVar, Literal

from pydantic import Field

from hovvet.core.sheet.contents.base import Content, Lane


class Punch(Content):
    """The picture ``amount`` times as large, towards the point ``across`` (0 left, 1 right) and ``down`` (0 top, 1 bottom)
    of it: at once, or slowly until its last word."""

    kind: Literal["punch"] = "punch"
    amount: Annotated[float, Field(ge=1.05, le=2, title="How many times as large")] = 1.2
    move: Annotated[Literal["at once", "slowly"], Field(title="It gets there")] = "at once"
    across: Annotated[float, Field(ge=0, le=1, title="Towards: from left to right")] = 0.5
    down: Annotated[float, Field(ge=0, le=1, title="From top to bottom")] = 0.4

    lane: ClassVar[Lane] = "picture"
    title: ClassVar[str] = "Punch-in"

    def label(self) -> str:
        """How close, and how."""
        return f"{'Slow push' if self.move == 'slowly' else 'Punch in'} {self.amount:g}x"
