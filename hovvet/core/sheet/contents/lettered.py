"""What is written large: titles, and slides."""

from typing import Annotated, ClassVar

from pydantic import Field, field_validator

from hovvet.core.captions.title_styles import TEMPLATES
from hovvet.core.sheet.contents.entering import Entering
from hovvet.core.text import SomeText
from hovvet.core.value import APART, PERCENT, Colour


class Lettered(Entering):
    """A ``text``, with a ``second`` one under it, as its ``template`` has it but for what is set here: letters of a
    ``colour``, a colour ``behind`` them, so many times the ``size``, standing from 0 (top) to 1 (bottom) of the safe area.
    What ``builds`` up shows its lines one after the other; what ``counts`` begins at 0 and counts up to the number that it
    holds."""

    text: Annotated[SomeText, Field(min_length=1, max_length=160, title="Text")] = "Title"
    """What it says."""
    second: Annotated[str, Field(max_length=80, title="Second line")] = ""
    template: Annotated[str, Field(max_length=40, title="Template", json_schema_extra=APART)] = "headline"
    """How it looks, by the name of the template."""
    size: Annotated[float, Field(ge=0.4, le=2, title="Size (%)", json_schema_extra=PERCENT)] = 1.0
    """Of its letters, times that of the template."""
    height: Annotated[float | None, Field(ge=0, le=1, title="Position Y (%)", json_schema_extra=APART | PERCENT)] = None
    colour: Annotated[Colour | None, Field(title="Text colour", examples=["#FFD66B"])] = None
    behind: Annotated[Colour | None, Field(title="Background", examples=["#2B5FC7"])] = None
    builds: Annotated[bool, Field(title="Reveal line by line, as it is said")] = False
    counts: Annotated[bool, Field(title="Count up to the number")] = False

    alone: ClassVar[bool] = False

    @field_validator("template")
    @classmethod
    def _known(cls, key: str) -> str:
        if key not in TEMPLATES:
            raise ValueError(f"there is no template {key!r}")
        return key

    def label(self) -> str:
        """What it says."""
        return " ".join(self.text.split())[:60]
