"""How words are grouped into captions: a person's choice, with starting points."""

from collections.abc import Mapping
from types import MappingProxyType
from typing import Annotated

from pydantic import Field, model_validator

from hovvet.core.value import BreakHow, Value


class CaptionLayout(Value):
    """A way to group words into captions."""

    characters: Annotated[int, Field(ge=8, le=60, title="Characters per line")] = 22
    """A line holds; a longer word has its line to itself."""
    lines: Annotated[int, Field(ge=1, le=3, title="Lines")] = 2
    """A caption has at most."""
    words: Annotated[int, Field(ge=1, le=24, title="Words per caption, at most")] = 24
    """A caption has at most."""
    shortest: Annotated[float, Field(ge=0.1, le=3, title="Shortest (s)")] = 0.7
    """Seconds that a caption stays where the speech allows."""
    longest: Annotated[float, Field(ge=1, le=10, title="Longest (s)")] = 5.0
    """Seconds that a caption stays at most."""
    linger: Annotated[float, Field(ge=0, le=3, title="Stays after its last word (s)")] = 0.5
    """Seconds that it may stay after its last word."""
    flicker: Annotated[float, Field(ge=0, le=1, title="Join captions closer than (s)")] = 0.2
    """A gap between two captions shorter than so many seconds is closed."""
    fastest: Annotated[int, Field(ge=8, le=40, title="Too fast to read from (characters per second)")] = 21
    """The reading speed, characters a second, from which on a caption is marked."""

    @model_validator(mode="after")
    def _order(self) -> "CaptionLayout":
        if self.shortest > self.longest:
            raise ValueError("a caption's shortest time cannot be longer than its longest")
        return self


USUAL = CaptionLayout()
NO_BREAKS: Mapping[int, BreakHow] = MappingProxyType({})  # of a person's own, by the positions of words

# Starting points, by name.
LAYOUTS: dict[str, CaptionLayout] = {
    "Two lines": USUAL,
    "A phrase": CaptionLayout(characters=26, lines=1),
    "Two or three words": CaptionLayout(characters=20, lines=1, words=3, shortest=0.3, linger=0.3),
    "One word": CaptionLayout(characters=30, lines=1, words=1, shortest=0.1, linger=0.2),
}


def layout_name(layout: CaptionLayout) -> str:
    """What a layout is called; "" for one of a person's own."""
    return next((name for name, each in LAYOUTS.items() if each == layout), "")
