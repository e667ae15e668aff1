"""A background of one's own."""

from typing import Annotated, ClassVar, Literal

from pydantic import Field

from hovvet.core.colour.screen import Screen
from hovvet.core.sheet.contents.base import Content, Group, Lane, Offer
from hovvet.core.value import APART, PERCENT, Colour, called

_CALLED = {
    "a colour": "Colour",
    "a picture or film": "Picture or video",
    "what is below": "None (see through)",
    "as it was filmed": "As filmed",
}


class Background(Screen, Content):
    """The screen behind who speaks, or in pictures over words, is taken out, and something else is seen in its place: a picture or
    film, blurred or not, a colour, or, of what lies over words, what is below. ``as it was filmed`` leaves it, whatever is kept with
    the recording."""

    kind: Literal["background"] = "background"
    of: Annotated[
        Literal["who speaks", "pictures over words"],
        Field(
            title="Applies to",
            json_schema_extra=called({"who speaks": "The speaker", "pictures over words": "B-roll"}) | APART,
        ),
    ] = "who speaks"
    behind: Annotated[
        Literal["a colour", "a picture or film", "what is below", "as it was filmed"],
        Field(
            title="Background",
            json_schema_extra=called(_CALLED) | APART,
        ),
    ] = "a colour"
    colour: Annotated[Colour, Field(title="Background colour", json_schema_extra=APART)] = "#2F6D6A"
    media: Annotated[
        str, Field(max_length=64, pattern=r"^[\w.-]*$", title="Background picture or video", json_schema_extra=APART)
    ] = ""
    blur: Annotated[float, Field(ge=0, le=1, title="Blur (%)", json_schema_extra=PERCENT | APART)] = 0.0

    lane: ClassVar[Lane] = "picture"
    title: ClassVar[str] = "Background"
    group: ClassVar[Group | None] = "picture"
    offers: ClassVar[tuple[Offer, ...]] = (
        Offer(label="Background (green or blue screen)", place=45),
        Offer(
            label="Screen of b-roll taken out",
            place=46,
            id="background-over",
            sets={"of": "pictures over words", "behind": "what is below"},
        ),
        Offer(label="Background of the whole clip", place=72, over="clip"),
    )

    @property
    def travels(self) -> bool:
        """A screen is of one place that was filmed."""
        return False

    @property
    def has_picture(self) -> bool:
        """Whether a picture or film is seen in the place of the screen."""
        return bool(self.media) and self.behind == "a picture or film"

    @property
    def media_shown(self) -> tuple[str, ...]:
        """That picture or film."""
        return (self.media,) if self.has_picture else ()

    def replaces(self, other: Content) -> bool:
        """Of who speaks and of pictures over words there may be one each."""
        return super().replaces(other) and isinstance(other, Background) and other.of == self.of

    def label(self) -> str:
        """What is seen, and of whom."""
        whose = " of b-roll" if self.of == "pictures over words" else ""
        return f"Background{whose}: {_CALLED[self.behind].lower()}"
