"""The colour of the picture."""

from typing import Annotated, Any, ClassVar, Literal

from pydantic import Field

from hovvet.core.colour.grade import LOOKS, Grade
from hovvet.core.sheet.contents.base import Content, Group, Lane, Offer
from hovvet.core.value import called


class Look(Grade, Content):
    """A grade over what the recordings show, or over the pictures that are laid over words."""

    kind: Literal["look"] = "look"
    of: Annotated[
        Literal["who speaks", "pictures over words"],
        Field(
            title="Applies to", json_schema_extra=called({"who speaks": "The speaker", "pictures over words": "B-roll"})
        ),
    ] = "who speaks"

    lane: ClassVar[Lane] = "picture"
    title: ClassVar[str] = "Colour"
    group: ClassVar[Group | None] = "picture"
    offers: ClassVar[tuple[Offer, ...]] = (
        Offer(label="Colour (grade)", place=30, keys=("L",)),
        Offer(label="Colour of b-roll", place=40, id="look-over", sets={"of": "pictures over words"}),
        Offer(label="Colour of the whole clip", place=70, over="clip", keys=("Shift+L",)),
    )
    presets: ClassVar[dict[str, dict[str, Any]]] = {name: grade.model_dump() for name, grade in LOOKS.items()}

    @property
    def assets(self) -> tuple[str, ...]:
        """The table of its colours."""
        return (self.table,) if self.has_table else ()

    @property
    def grade(self) -> Grade:
        """Its settings."""
        return Grade(**{name: getattr(self, name) for name in Grade.model_fields})

    def replaces(self, other: Content) -> bool:
        """The colours of who speaks and those of pictures over words stand beside one another."""
        return super().replaces(other) and isinstance(other, Look) and other.of == self.of

    def label(self) -> str:
        """The look that it is, or that it is one of a person's own; and whether it is for pictures over words."""
        name = next((name for name, grade in LOOKS.items() if grade == self.grade), "your own")
        return f"Colour{' of pictures' if self.of == 'pictures over words' else ''}: {name}"
