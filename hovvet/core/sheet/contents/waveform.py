"""How loud it is, as a picture: for a clip that has none of its own."""

from typing import Annotated, ClassVar, Literal

from pydantic import Field

from hovvet.core.sheet.contents.base import Content, Group, Lane, Offer
from hovvet.core.value import PERCENT, SLIDES, Colour, called, when

LONGEST_BARS = 300.0  # seconds of a clip for which bars move: each moment of them is a drawing of its own


class Waveform(Content):
    """So many ``bars``: of all that is said, which take the ``colour`` as it is heard (what is to come is seen at the strength
    ``rest``); or of what is being said, which move with it. Their middle is at ``height`` of the output, from top to
    bottom; the loudest is ``tall`` of its height."""

    kind: Literal["waveform"] = "waveform"
    shows: Annotated[
        Literal["all that is said", "what is being said"],
        Field(
            title="Shows",
            json_schema_extra=called({"all that is said": "The whole clip", "what is being said": "Live level"}),
        ),
    ] = "what is being said"
    colour: Annotated[Colour, Field(title="Colour")] = "#FFD66B"
    """Of its bars."""
    rest: Annotated[
        float,
        Field(
            ge=0,
            le=1,
            title="Unplayed part: opacity (%)",
            json_schema_extra=PERCENT | when({"shows": "all that is said"}),
        ),
    ] = 0.35
    height: Annotated[float, Field(ge=0, le=1, title="Position Y (%)", json_schema_extra=PERCENT)] = 0.42
    tall: Annotated[float, Field(ge=0.03, le=0.6, title="Height (%)", json_schema_extra=PERCENT)] = 0.2
    bars: Annotated[int, Field(ge=7, le=60, title="Bars", json_schema_extra=SLIDES)] = 25

    lane: ClassVar[Lane] = "picture"
    most: ClassVar[int] = 10
    title: ClassVar[str] = "Audio waveform"
    group: ClassVar[Group | None] = "picture"
    offers: ClassVar[tuple[Offer, ...]] = (Offer(label="Audio waveform", place=50, over="clip"),)

    @property
    def moves(self) -> bool:
        """Whether its bars move with what is being said."""
        return self.shows == "what is being said"

    def label(self) -> str:
        """Bars that move, or the whole of it."""
        return "Audio level" if self.moves else self.title
