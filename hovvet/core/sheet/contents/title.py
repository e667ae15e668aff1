"""Words on screen."""

from typing import ClassVar, Literal

from hovvet.core.sheet.contents.base import Lane
from hovvet.core.sheet.contents.lettered import Lettered


class Title(Lettered):
    """Over the picture."""

    kind: Literal["title"] = "title"

    lane: ClassVar[Lane] = "screen"
    most: ClassVar[int] = 200
    title: ClassVar[str] = "Title"
