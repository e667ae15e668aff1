"""How the picture of a recording stands in the shape of the outlet."""

from typing import Annotated, ClassVar, Literal

from pydantic import Field

from hovvet.core.sheet.contents.base import Content, Lane
from hovvet.core.sheet.value import Colour


class Framing(Content):
    """``fit`` shows the whole picture, over its own blurred enlargement or a ``colour``; ``fill`` crops it to the
    shape, around the point ``across`` (0 left, 1 right) and ``down`` (0 top, 1 bottom)."""

    kind: Literal["framing"] = "framing"
    mode: Annotated[Literal["fit", "fill"], Field(title="How it stands")] = "fit"
    colour: Annotated[Colour | None, Field(title="Over a colour")] = None
    across: Annotated[float, Field(ge=0, le=1, title="What stays when it fills: from left to right")] = 0.5
    down: Annotated[float, Field(ge=0, le=1, title="From top to bottom")] = 0.5

    lane: ClassVar[Lane] = "picture"
    title: ClassVar[str] = "Framing"

    def label(self) -> str:
        """Fit over blur, fit over a colour, or fill."""
        if self.mode == "fill":
            return "Fill"
        return "Fit over colour" if self.colour else "Fit over blur"
