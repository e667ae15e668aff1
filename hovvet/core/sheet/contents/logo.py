"""The sign of whoever publishes the clip."""

from typing import Annotated, ClassVar, Literal

from pydantic import Field

from hovvet.core.sheet.contents.base import Group, Lane, Offer, Showing
from hovvet.core.value import PERCENT


class Logo(Showing):
    """A picture in a ``corner`` of the safe area, ``size`` of the output's shorter side wide or high, whichever is more."""

    kind: Literal["logo"] = "logo"
    corner: Annotated[Literal["top left", "top right", "bottom left", "bottom right"], Field(title="Corner")] = (
        "top right"
    )
    """Of the safe area."""
    size: Annotated[float, Field(ge=0.03, le=0.6, title="Size (%)", json_schema_extra=PERCENT)] = 0.16
    """Its longer side, in parts of the output's shorter one."""
    opacity: Annotated[float, Field(ge=0.1, le=1, title="Opacity (%)", json_schema_extra=PERCENT)] = 0.9

    lane: ClassVar[Lane] = "screen"
    on_cover: ClassVar[bool] = True
    most: ClassVar[int] = 50
    title: ClassVar[str] = "Logo"
    group: ClassVar[Group | None] = "screen"
    offers: ClassVar[tuple[Offer, ...]] = (Offer(label="Logo", place=20, over="clip"),)
