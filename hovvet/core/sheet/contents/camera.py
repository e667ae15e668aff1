"""Which camera of a talk is seen."""

from typing import Annotated, ClassVar, Literal

from pydantic import Field

from hovvet.core.sheet.contents.base import Content, Group, Lane, Offer
from hovvet.core.value import APART, PERCENT, when

_TWO = when({"arrange": "one above the other"}, {"arrange": "side by side"}, {"arrange": "small in a corner"})
_CORNER = when({"arrange": "small in a corner"})


class Camera(Content):
    """A talk is seen by one of its cameras, 1 being the recording itself, or by two at once. Where a camera was not running, the
    first is seen. What is heard stays."""

    kind: Literal["camera"] = "camera"
    camera: Annotated[int, Field(ge=1, le=4, title="Camera", json_schema_extra=APART)] = 2
    arrange: Annotated[
        Literal["alone", "one above the other", "side by side", "small in a corner"], Field(title="With a second one")
    ] = "alone"
    second: Annotated[int, Field(ge=1, le=4, title="Second camera", json_schema_extra=_TWO)] = 1
    corner: Annotated[
        Literal["top left", "top right", "bottom left", "bottom right"],
        Field(title="Corner", json_schema_extra=_CORNER),
    ] = "top right"
    small: Annotated[float, Field(ge=0.15, le=0.5, title="Width (%)", json_schema_extra=PERCENT | _CORNER)] = 0.32

    lane: ClassVar[Lane] = "picture"
    title: ClassVar[str] = "Camera"
    group: ClassVar[Group | None] = "picture"
    offers: ClassVar[tuple[Offer, ...]] = (Offer(label="Another camera", place=15),)

    @property
    def travels(self) -> bool:
        """Cameras are of one talk."""
        return False

    def label(self) -> str:
        """Which, and with which other one."""
        return f"Camera {self.camera}" + ("" if self.arrange == "alone" else f" and {self.second}, {self.arrange}")
