"""Words on screen."""

from typing import ClassVar, Literal

from hovvet.core.sheet.contents.base import Group, Lane, Offer
from hovvet.core.sheet.contents.lettered import Lettered


class Title(Lettered):
    """Over the picture."""

    kind: Literal["title"] = "title"

    lane: ClassVar[Lane] = "screen"
    most: ClassVar[int] = 200
    title: ClassVar[str] = "Title"
    group: ClassVar[Group | None] = "screen"
    offers: ClassVar[tuple[Offer, ...]] = (
        Offer(label="Title", place=3, id="title", keys=("I",), text="what is said"),
        Offer(
            label="Lower third",
            place=4,
            id="lower-third",
            keys=("Shift+T",),
            sets={"template": "name-card", "text": "Name", "second": "Role"},
        ),
        Offer(
            label="Headline throughout",
            place=4,
            id="header",
            over="clip",
            sets={"template": "header"},
            text="the title",
        ),
    )
