"""Words in the place of a picture."""

from typing import Annotated, ClassVar, Literal

from pydantic import Field

from hovvet.core.sheet.contents.base import Group, Lane, Offer
from hovvet.core.sheet.contents.lettered import Lettered
from hovvet.core.value import APART, PERCENT, Colour


class Slide(Lettered):
    """On a colour (``ground``), or on a picture or film over it, shown so much (``strength``)."""

    kind: Literal["slide"] = "slide"
    template: Annotated[str, Field(max_length=40, title="Template", json_schema_extra=APART)] = "slide"
    """How it looks, by the name of the template."""
    ground: Annotated[Colour, Field(title="Background colour")] = "#20242B"
    media: Annotated[
        str, Field(max_length=64, pattern=r"^[\w.-]*$", title="Background picture or video", json_schema_extra=APART)
    ] = ""
    strength: Annotated[float, Field(ge=0, le=1, title="Background opacity (%)", json_schema_extra=APART | PERCENT)] = (
        0.4
    )

    lane: ClassVar[Lane] = "picture"
    most: ClassVar[int] = 200
    covers: ClassVar[bool] = True
    title: ClassVar[str] = "Text slide"
    group: ClassVar[Group | None] = "screen"
    offers: ClassVar[tuple[Offer, ...]] = (
        Offer(label="Text slide", place=5, id="slide", keys=("Shift+I",), text="what is said"),
    )

    @property
    def media_shown(self) -> tuple[str, ...]:
        """Also what it stands on."""
        return (*((self.media,) if self.media else ()), *super().media_shown)

    def label(self) -> str:
        """What it says, and that it is a slide."""
        return f"Slide: {super().label()}"
