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
    text: Annotated[str | None, Field(max_length=300, title="Written instead of what is said")] = None
    hidden: Annotated[bool, Field(title="Not shown in captions")] = False
    colour: Annotated[Colour | None, Field(title="A colour of its own")] = None
    size: Annotated[float, Field(ge=0.5, le=2, title="Size, times the style's")] = 1.0
    earlier: Annotated[int, Field(ge=0, le=250, title="Its caption comes earlier, frames")] = 0
    longer: Annotated[int, Field(ge=0, le=250, title="Its caption stays longer, frames")] = 0

    lane: ClassVar[Lane] = "text"
    title: ClassVar[str] = "Caption words"
    group: ClassVar[Group | None] = "words"
    offers: ClassVar[tuple[Offer, ...]] = (
        Offer(label="Caption words: other text, colour, size", place=10, keys=("W",)),
    )

    def label(self) -> str:
        """What is written, or that nothing is."""
        if self.hidden:
            return "Not in captions"
        return f"Written: {self.text[:60]}" if self.text else self.title
