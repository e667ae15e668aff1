"""What captions say and how, other than the words and their style would have it."""

from typing import Annotated, ClassVar, Literal

from pydantic import Field

from hovvet.core.sheet.contents.base import Content, Group, Lane, Offer
from hovvet.core.value import Colour


class Wording(Content):
    """Captions say ``text`` instead of these words, or nothing of them (``hidden``); in a ``colour`` and ``size`` (times the
    style's) of their own. The caption that begins with them comes ``earlier`` and the one that ends with them stays
    ``longer``, in frames, as far as its neighbours let it."""

    kind: Literal["wording"] = "wording"
    text: Annotated[str | None, Field(max_length=300, title="Caption text")] = None
    hidden: Annotated[bool, Field(title="Hidden in captions")] = False
    colour: Annotated[Colour | None, Field(title="Text colour")] = None
    size: Annotated[float, Field(ge=0.5, le=2, title="Size (x the style's)")] = 1.0
    earlier: Annotated[int, Field(ge=0, le=250, title="Caption starts earlier (frames)")] = 0
    longer: Annotated[int, Field(ge=0, le=250, title="Caption ends later (frames)")] = 0

    lane: ClassVar[Lane] = "text"
    title: ClassVar[str] = "Caption text"
    group: ClassVar[Group | None] = "words"
    offers: ClassVar[tuple[Offer, ...]] = (Offer(label="Caption text, colour, size", place=10, keys=("W",)),)

    def label(self) -> str:
        """What is written, or that nothing is."""
        if self.hidden:
            return "Hidden in captions"
        return f"Caption: {self.text[:60]}" if self.text else self.title
