"""A closer view."""

from typing import Annotated, ClassVar, Literal

from pydantic import Field

from hovvet.core.sheet.contents.base import Content, Group, Lane, Offer
from hovvet.core.value import when

_POINT = when({"toward": "a point"})


class Punch(Content):
    """The picture ``amount`` times as large, towards the face of whoever talks, or the point ``across`` (0 left, 1 right)
    and ``down`` (0 top, 1 bottom) of it, which also stands in where no face is known: at once, or slowly until its last
    word."""

    kind: Literal["punch"] = "punch"
    amount: Annotated[float, Field(ge=1.05, le=2, title="How many times as large")] = 1.2
    move: Annotated[Literal["at once", "slowly"], Field(title="It gets there")] = "at once"
    toward: Annotated[Literal["the face", "a point"], Field(title="Towards")] = "a point"
    across: Annotated[float, Field(ge=0, le=1, title="From left to right", json_schema_extra=_POINT)] = 0.5
    down: Annotated[float, Field(ge=0, le=1, title="From top to bottom", json_schema_extra=_POINT)] = 0.4

    lane: ClassVar[Lane] = "picture"
    title: ClassVar[str] = "Punch-in"
    group: ClassVar[Group | None] = "picture"
    offers: ClassVar[tuple[Offer, ...]] = (Offer(label="Punch in", place=20, keys=("P",), sets={"toward": "the face"}),)

    @property
    def follows_faces(self) -> bool:
        """When it goes towards one."""
        return self.toward == "the face"

    def label(self) -> str:
        """How close, and how."""
        return f"{'Slow push' if self.move == 'slowly' else 'Punch in'} {self.amount:g}x"
