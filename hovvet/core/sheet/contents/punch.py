"""A closer view."""

from typing import Annotated, ClassVar, Literal

from pydantic import Field

from hovvet.core.sheet.contents.base import Content, Group, Lane, Offer
from hovvet.core.value import PERCENT, called, when

_POINT = when({"toward": "a point"})


class Punch(Content):
    """The picture ``amount`` times as large, towards the face of whoever talks, or the point ``across`` (0 left, 1 right)
    and ``down`` (0 top, 1 bottom) of it, which also stands in where no face is known: at once, or slowly until its last
    word."""

    kind: Literal["punch"] = "punch"
    amount: Annotated[float, Field(ge=1.05, le=2, title="Zoom (x)")] = 1.2
    move: Annotated[
        Literal["at once", "slowly"],
        Field(title="Movement", json_schema_extra=called({"at once": "Cut", "slowly": "Ease in"})),
    ] = "at once"
    toward: Annotated[Literal["the face", "a point"], Field(title="Towards")] = "a point"
    across: Annotated[float, Field(ge=0, le=1, title="Position X (%)", json_schema_extra=PERCENT | _POINT)] = 0.5
    down: Annotated[float, Field(ge=0, le=1, title="Position Y (%)", json_schema_extra=PERCENT | _POINT)] = 0.4

    lane: ClassVar[Lane] = "picture"
    title: ClassVar[str] = "Zoom"
    group: ClassVar[Group | None] = "picture"
    offers: ClassVar[tuple[Offer, ...]] = (
        Offer(label="Zoom in on the face", place=20, keys=("P",), sets={"toward": "the face"}),
    )

    @property
    def follows_faces(self) -> bool:
        """When it goes towards one."""
        return self.toward == "the face"

    def label(self) -> str:
        """How close, and how."""
        return f"{'Slow zoom' if self.move == 'slowly' else 'Zoom'} {self.amount:g}x"
