"""How captions look."""

from typing import Annotated, Literal

from pydantic import Field

from hovvet.core.captions.fonts import CAPTION_FONTS, Font
from hovvet.core.errors import CoreError
from hovvet.core.value import PERCENT, Colour, Name, Value, called, when


class Box(Value):
    """A colour behind the letters. Lengths in parts of their size."""

    behind: Annotated[
        Literal["whole", "line"],
        Field(title="Background of", json_schema_extra=called({"whole": "The whole caption", "line": "Each line"})),
    ] = "whole"
    """One for the whole caption, or one for each line."""
    colour: Annotated[Colour, Field(title="Background colour")] = "#20242B"
    """Of the box."""
    opacity: Annotated[float, Field(ge=0, le=1, title="Opacity")] = 0.85
    """0 to 1."""
    padding: Annotated[float, Field(ge=0, le=1, title="Padding")] = 0.22
    radius: Annotated[float, Field(ge=0, le=1, title="Corner radius")] = 0.12


class Spoken(Value):
    """How the word that is spoken now is told from the others."""

    how: Annotated[
        Literal["none", "colour", "box", "underline", "size", "fill", "so far"],
        Field(
            title="Spoken word",
            json_schema_extra=called(
                {
                    "none": "Not marked",
                    "colour": "Colour",
                    "box": "Box",
                    "underline": "Underline",
                    "size": "Larger",
                    "fill": "Fill up to the spoken word",
                    "so far": "Only what was spoken",
                }
            ),
        ),
    ] = "colour"
    """What tells the word that is spoken now; `so far`: only what was said is seen."""
    colour: Annotated[
        Colour,
        Field(
            title="Highlight colour",
            json_schema_extra=when(*({"how": how} for how in ("colour", "box", "underline", "size", "fill"))),
        ),
    ] = "#FFD66B"
    scale: Annotated[float, Field(ge=1, le=1.5, title="Scale (x)", json_schema_extra=when({"how": "size"}))] = 1.14


class Entrance(Value):
    """A way in which captions come and go."""

    how: Annotated[
        Literal["none", "fade", "rise", "pop", "slide", "typed"],
        Field(
            title="Animation in",
            json_schema_extra=called(
                {"none": "None", "fade": "Fade", "rise": "Rise", "pop": "Pop", "slide": "Slide", "typed": "Typewriter"}
            ),
        ),
    ] = "none"
    """How a caption comes."""
    first_only: Annotated[bool, Field(title="First caption only")] = False
    """The first caption of the clip alone, not each."""
    seconds: Annotated[float, Field(ge=0.05, le=1, title="Length (s)")] = 0.2
    """How long that takes, less where a caption is short."""
    leaves: Annotated[bool, Field(title="Fade out")] = False
    """Whether it fades when it goes."""


class CaptionStyle(Value):
    """Sizes in pixels of a picture whose shorter side is 1080."""

    key: Name
    """By which it is chosen."""
    name: Annotated[str, Field(min_length=1, max_length=60)]
    """As a person reads it."""
    font: Name = "condensed"
    """One that ships, by name, or one of the workspace's."""
    size: Annotated[float, Field(ge=20, le=300, title="Size (px)")] = 96
    """Of the letters, in pixels."""
    smallest: Annotated[float, Field(ge=10, le=300, title="Smallest size (px)")] = 44
    """To which captions that do not fit are made smaller, in pixels."""
    case: Annotated[
        Literal["said", "upper", "lower"],
        Field(
            title="Case", json_schema_extra=called({"said": "As spoken", "upper": "Upper case", "lower": "Lower case"})
        ),
    ] = "said"
    """Of the letters: as it was said, upper or lower."""
    letter_spacing: Annotated[float, Field(ge=-0.1, le=0.5, title="Letter spacing")] = 0.0
    """Between letters, in parts of their size."""
    word_spacing: Annotated[float, Field(ge=-0.1, le=0.5, title="Word spacing")] = 0.02
    """Between words, in parts of their size."""
    line_height: Annotated[float, Field(ge=0.7, le=2, title="Line height")] = 1.0
    """From line to line, in parts of what the font says."""
    colour: Annotated[Colour, Field(title="Text colour")] = "#FFFFFF"
    """Of the letters."""
    keyword: Annotated[Colour | None, Field(title="Colour of marked words", examples=["#8FE0C0"])] = "#8FE0C0"
    second: Annotated[Colour | None, Field(title="Colour of a second speaker", examples=["#9CC9FF"])] = None
    third: Annotated[Colour | None, Field(title="Colour of a third speaker", examples=["#F3B6D0"])] = None
    outline: Annotated[Colour, Field(title="Outline colour")] = "#20242B"
    """Its colour."""
    outline_width: Annotated[float, Field(ge=0, le=30, title="Outline width (px)")] = 7.0
    """In pixels."""
    shadow: Annotated[float, Field(ge=0, le=30, title="Shadow (px)")] = 2.0
    """How far it falls, in pixels."""
    box: Box | None = None
    """Behind the letters."""
    spoken: Spoken = Spoken()
    """How the word that is spoken is told."""
    entrance: Entrance = Entrance()
    """How captions come and go."""
    height: Annotated[float, Field(ge=0, le=1, title="Position Y in the safe area (%)", json_schema_extra=PERCENT)] = (
        1.0
    )
    """Where it stands in the safe area: 0 at its top, 1 at its bottom."""
    align: Annotated[Literal["left", "centre", "right"], Field(title="Alignment")] = "centre"
    """How lines stand to one another."""
    turn: Annotated[float, Field(ge=-15, le=15, title="Rotation (°)")] = 0.0
    """Degrees, clockwise."""

    @property
    def face(self) -> Font:
        """The font it is set in, where that is one of everybody's."""
        return CAPTION_FONTS[self.font]

    def colour_of(self, voice: int, key: bool) -> str | None:
        """The colour of a word other than the usual one: of one that is marked, or of who says it, counted from 0."""
        if key and self.keyword is not None:
            return self.keyword
        return {1: self.second, 2: self.third}.get(voice)

    def written(self, text: str) -> str:
        """A text in the case of the style."""
        if self.case == "said":
            return text
        return text.upper() if self.case == "upper" else text.lower()


STYLES: dict[str, CaptionStyle] = {
    style.key: style
    for style in (
        CaptionStyle(key="bold", name="Bold"),
        CaptionStyle(
            key="label", name="Label", font="plain", size=74, outline_width=0, shadow=0, line_height=1.12, colour="#20242B",
            box=Box(behind="line", colour="#FAF6EE", opacity=1, padding=0.2, radius=0.1),
            spoken=Spoken(how="colour", colour="#C2412D"), entrance=Entrance(how="rise", seconds=0.18),
        ),
        CaptionStyle(
            key="marker", name="Marker", font="wide", size=78, outline_width=5, shadow=0, line_height=1.12, word_spacing=0.06,
            spoken=Spoken(how="box", colour="#C2412D"),
        ),
        CaptionStyle(
            key="poster", name="Poster", font="poster", size=118, case="upper", letter_spacing=0.01, word_spacing=0.08, line_height=0.98,
            outline_width=8, spoken=Spoken(how="size", colour="#FFD66B", scale=1.1),
            entrance=Entrance(how="pop", seconds=0.22), height=0.9,
        ),
        CaptionStyle(
            key="ink", name="Ink", font="round", size=88, colour="#B9C0CC", outline_width=6,
            spoken=Spoken(how="fill", colour="#FFFFFF"), entrance=Entrance(how="fade", seconds=0.15),
        ),
        CaptionStyle(
            key="typed", name="Typed", font="machine", size=70, outline_width=0, shadow=0, align="left", line_height=1.1,
            box=Box(behind="whole", colour="#20242B", opacity=0.8, padding=0.35, radius=0.08),
            spoken=Spoken(how="none"), entrance=Entrance(how="typed", seconds=0.6),
        ),
        CaptionStyle(
            key="quiet", name="Quiet", font="book", size=64, outline_width=3, shadow=1, line_height=1.1, word_spacing=0.05,
            spoken=Spoken(how="none"), entrance=Entrance(how="fade", seconds=0.25, leaves=True),
        ),
        CaptionStyle(
            key="note", name="Note", font="hand", size=112, outline_width=4, shadow=2, line_height=0.9, turn=-3,
            spoken=Spoken(how="underline", colour="#FFD66B"), entrance=Entrance(how="slide", seconds=0.25, first_only=True),
        ),
        CaptionStyle(
            key="unfolding", name="Unfolding", font="condensed", size=96, spoken=Spoken(how="so far"), align="left",
        ),
    )
}  # fmt: skip


def caption_style(key: str) -> CaptionStyle:
    """The style with this key. Raises CoreError when there is none."""
    try:
        return STYLES[key]
    except KeyError:
        raise CoreError(f"There is no caption style “{key}”. Choose one of: {', '.join(STYLES)}, none.") from None
