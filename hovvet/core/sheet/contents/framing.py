"""How the picture of a recording stands in the shape of the outlet."""

from typing import Annotated, ClassVar, Literal

from pydantic import Field

from hovvet.core.sheet.contents.base import Content, Lane, when
from hovvet.core.sheet.value import Colour

_POINT = when({"mode": "fill"}, {"mode": "speaker", "watch": "who is there"})


class Framing(Content):
    """``fit`` shows the whole picture, over its own blurred enlargement or a ``colour``; ``fill`` crops it to the
    shape, around the point ``across`` (0 left, 1 right) and ``down`` (0 top, 1 bottom); ``speaker`` crops it around a
    face and follows that: whoever talks, or who is nearest to that point."""

    kind: Literal["framing"] = "framing"
    mode: Annotated[Literal["fit", "fill", "speaker"], Field(title="How it stands")] = "fit"
    colour: Annotated[Colour | None, Field(title="Over a colour", json_schema_extra=when({"mode": "fit"}))] = None
    watch: Annotated[
        Literal["who talks", "who is there"],
        Field(title="Of several, keep in view", json_schema_extra=when({"mode": "speaker"})),
    ] = "who talks"
    across: Annotated[float, Field(ge=0, le=1, title="From left to right", json_schema_extra=_POINT)] = 0.5
    down: Annotated[float, Field(ge=0, le=1, title="From top to bottom", json_schema_extra=_POINT)] = 0.5

    lane: ClassVar[Lane] = "picture"
    title: ClassVar[str] = "Framing"

    @property
    def follows_faces(self) -> bool:
        """When it keeps a speaker in view."""
        return self.mode == "speaker"

    def label(self) -> str:
        """Fit over blur, fit over a colour, fill, or speaker in view."""
        if self.mode == "fit":
            return "Fit over colour" if self.colour else "Fit over blur"
        return "Fill" if self.mode == "fill" else "Speaker in view"
