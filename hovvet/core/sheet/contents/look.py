"""The colour of the picture."""

from typing import Any, ClassVar, Literal

from hovvet.core.colour.grade import LOOKS, Grade
from hovvet.core.sheet.contents.base import Content, Lane


class Look(Grade, Content):
    """A grade over what the recordings show."""

    kind: Literal["look"] = "look"

    lane: ClassVar[Lane] = "picture"
    title: ClassVar[str] = "Colour"
    presets: ClassVar[dict[str, dict[str, Any]]] = {name: grade.model_dump() for name, grade in LOOKS.items()}

    @property
    def assets(self) -> tuple[str, ...]:
        """The table of its colours."""
        return (self.table,) if self.has_table else ()

    @property
    def grade(self) -> Grade:
        """Its settings."""
        return Grade(**{name: getattr(self, name) for name in Grade.model_fields})

    def label(self) -> str:
        """The look that it is, or that it is one of a person's own."""
        return next((f"Colour: {name}" for name, grade in LOOKS.items() if grade == self.grade), "Colour: your own")
