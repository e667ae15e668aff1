"""A caption where nobody speaks."""

from typing import Annotated, ClassVar, Literal

from pydantic import Field

from hovvet.core.sheet.contents.base import Content, Group, Lane, Offer
from hovvet.core.text import SomeText


class ExtraCaption(Content):
    """A caption of its own after its last word, or over a gap: a sound that is heard, or anything else to be read.
    It stays for so many ``seconds``, less where the next word comes sooner."""

    kind: Literal["extra_caption"] = "extra_caption"
    text: Annotated[SomeText, Field(min_length=1, max_length=120, title="Text")] = "[laughs]"
    seconds: Annotated[float, Field(ge=0.3, le=10, title="Length (s)")] = 1.5

    lane: ClassVar[Lane] = "text"
    alone: ClassVar[bool] = False
    title: ClassVar[str] = "Extra caption"
    group: ClassVar[Group | None] = "words"
    offers: ClassVar[tuple[Offer, ...]] = (Offer(label="Caption where nobody speaks", place=20),)
    presets: ClassVar[dict[str, dict[str, str]]] = {
        name: {"text": f"[{name.lower()}]"} for name in ("Laughs", "Applause", "Music", "Sighs", "Silence")
    }

    def label(self) -> str:
        """What it says."""
        return self.text[:60]
