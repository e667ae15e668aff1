"""How the picture of a recording stands in the shape of the outlet."""

from typing import Annotated, ClassVar, Literal

from pydantic import Field

from hovvet.core.sheet.contents.base import Content, Group, Lane, Offer
from hovvet.core.value import APART, PERCENT, SLIDES, SNAPS, Colour, called, when

_POINT = when({"mode": "fill", "pan": "stands still"}, {"mode": "speaker", "watch": "who is there"})
_TWO, _PLACED = when({"mode": "two"}), when({"mode": "by hand"})
_CORNER = when({"mode": "two", "arrange": "small in a corner"})
_BACKED = when({"mode": "fit"}, {"mode": "by hand"})


class Framing(Content):
    """``fit`` shows the whole picture, over its own blurred enlargement or a ``colour``; ``fill`` crops it to the
    shape, around the point ``across`` (0 left, 1 right) and ``down`` (0 top, 1 bottom), or goes from one side
    to the other (``pan``); ``speaker`` crops it around a
    face and follows that: whoever talks, or who is nearest to that point; ``two`` shows two parts at once, each with a
    face of its own; ``by hand`` puts the picture where a person wants it, its middle at ``x`` and ``y`` of the output, its
    size ``scale`` times that of ``fit``."""

    kind: Literal["framing"] = "framing"
    mode: Annotated[
        Literal["fit", "fill", "speaker", "two", "by hand"],
        Field(
            title="Fit",
            json_schema_extra=called(
                {
                    "fit": "Fit",
                    "fill": "Fill",
                    "speaker": "Follow the speaker",
                    "two": "Two speakers",
                    "by hand": "Custom",
                }
            ),
        ),
    ] = "fit"
    arrange: Annotated[
        Literal["one above the other", "side by side", "small in a corner"],
        Field(title="Arrangement", json_schema_extra=_TWO),
    ] = "one above the other"
    swapped: Annotated[bool, Field(title="Swap the two", json_schema_extra=_TWO)] = False
    closeness: Annotated[float, Field(ge=1, le=3, title="Zoom (x)", json_schema_extra=SLIDES | _TWO)] = 1.4
    corner: Annotated[
        Literal["top left", "top right", "bottom left", "bottom right"],
        Field(title="Corner", json_schema_extra=_CORNER),
    ] = "top right"
    small: Annotated[float, Field(ge=0.15, le=0.5, title="Width (%)", json_schema_extra=PERCENT | _CORNER)] = 0.32
    border: Annotated[float, Field(ge=0, le=0.03, title="Border", json_schema_extra=_CORNER)] = 0.0
    border_colour: Annotated[Colour, Field(title="Border colour", json_schema_extra=_CORNER)] = "#FAF6EE"
    x: Annotated[float, Field(ge=-0.5, le=1.5, title="Position X (%)", json_schema_extra=PERCENT | _PLACED | SNAPS)] = (
        0.5
    )
    y: Annotated[float, Field(ge=-0.5, le=1.5, title="Position Y (%)", json_schema_extra=PERCENT | _PLACED | SNAPS)] = (
        0.5
    )
    scale: Annotated[float, Field(ge=0.2, le=6, title="Size", json_schema_extra=_PLACED)] = 1.0
    turn: Annotated[float, Field(ge=-180, le=180, title="Rotation (°)", json_schema_extra=_PLACED)] = 0.0
    colour: Annotated[Colour | None, Field(title="Background colour", json_schema_extra=_BACKED)] = None
    picture: Annotated[
        str, Field(max_length=64, pattern=r"^[\w.-]*$", title="Background picture or video", json_schema_extra=APART)
    ] = ""
    strength: Annotated[float, Field(ge=0, le=1, title="Background opacity (%)", json_schema_extra=APART | PERCENT)] = (
        1.0
    )
    padding: Annotated[
        float, Field(ge=0, le=0.4, title="Padding (%)", json_schema_extra=PERCENT | when({"mode": "fit"}))
    ] = 0.0
    rounded: Annotated[float, Field(ge=0, le=0.5, title="Corner radius", json_schema_extra=SLIDES | _BACKED)] = 0.0
    mirrored: Annotated[
        bool, Field(title="Mirrored", json_schema_extra=when({"mode": "fit"}, {"mode": "fill"}, {"mode": "by hand"}))
    ] = False
    """Left is right."""
    watch: Annotated[
        Literal["who talks", "who is there"],
        Field(
            title="With several people, follow",
            json_schema_extra=called({"who talks": "Whoever speaks", "who is there": "Everyone in view"})
            | when({"mode": "speaker"}),
        ),
    ] = "who talks"
    pan: Annotated[
        Literal["stands still", "to the right", "to the left"],
        Field(
            title="Pan",
            json_schema_extra=called({"stands still": "None", "to the right": "Pan right", "to the left": "Pan left"})
            | when({"mode": "fill"}),
        ),
    ] = "stands still"
    across: Annotated[float, Field(ge=0, le=1, title="Position X (%)", json_schema_extra=PERCENT | _POINT)] = 0.5
    down: Annotated[float, Field(ge=0, le=1, title="Position Y (%)", json_schema_extra=PERCENT | _POINT)] = 0.5

    lane: ClassVar[Lane] = "picture"
    title: ClassVar[str] = "Framing"
    group: ClassVar[Group | None] = "picture"
    offers: ClassVar[tuple[Offer, ...]] = (
        Offer(label="Reframe: follow the speaker", place=10, keys=("F",), sets={"mode": "speaker"}),
        Offer(label="Reframe the whole clip", place=60, over="clip", sets={"mode": "speaker"}),
    )

    @property
    def follows_faces(self) -> bool:
        """When it keeps speakers in view."""
        return self.mode in ("speaker", "two")

    @property
    def bordered(self) -> bool:
        """Whether its small picture has a border."""
        return self.mode == "two" and self.arrange == "small in a corner" and self.border > 0

    @property
    def pans(self) -> bool:
        """Whether the view goes across the picture while it is shown."""
        return self.mode == "fill" and self.pan != "stands still"

    @property
    def has_picture(self) -> bool:
        """Whether a picture or a film that the workspace brought in is behind it."""
        return bool(self.picture) and self.mode in ("fit", "by hand")

    @property
    def media_shown(self) -> tuple[str, ...]:
        """The picture or film behind it."""
        return (self.picture,) if self.has_picture else ()

    def label(self) -> str:
        """Fit over blur or a colour, fill, speaker in view, two and how, or placed by hand."""
        if self.mode == "fit":
            return f"Fit over {'a picture' if self.has_picture else 'colour' if self.colour else 'blur'}"
        if self.mode == "two":
            return f"Two speakers, {self.arrange}"
        if self.pans:
            return f"Pan {self.pan}"
        return {"fill": "Fill", "speaker": "Follow the speaker", "by hand": "Custom framing"}[self.mode]
