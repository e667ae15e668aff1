"""A note at words."""

from typing import Annotated, ClassVar, Literal

from pydantic import Field

from hovvet.core.sheet.contents.base import Content, Group, Lane, Offer

Sort = Literal["note", "question", "to do", "good"]


class Marker(Content):
    """A ``note`` of the person's own, and what ``sort`` it is."""

    kind: Literal["marker"] = "marker"
    note: Annotated[str, Field(max_length=2_000, title="Note")] = ""
    """What the person wrote."""
    sort: Annotated[Sort, Field(title="Type")] = "note"

    lane: ClassVar[Lane] = "text"
    alone: ClassVar[bool] = False
    title: ClassVar[str] = "Marker"
    group: ClassVar[Group | None] = "words"
    offers: ClassVar[tuple[Offer, ...]] = (Offer(label="Marker", place=30, keys=("M",)),)

    @property
    def travels(self) -> bool:
        """A note is of one clip."""
        return False

    def label(self) -> str:
        """The note, or its sort while there is none."""
        return self.note[:60] or self.sort.capitalize()
