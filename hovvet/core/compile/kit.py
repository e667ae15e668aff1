"""What a workspace has to make clips with, besides its recordings."""

from collections.abc import Mapping
from dataclasses import dataclass, field

from hovvet.core.captions.fonts import CAPTION_FONTS, Font
from hovvet.core.picture.strip import Strip
from hovvet.core.plan.outlets import OUTLETS, Outlet


@dataclass(frozen=True)
class Kit:
    """Everybody's and its own, each by the name that sheets have for it: ``outlets``, ``fonts``, the ``tables`` of colours
    it brought in, its ``pictures``, and the ``stickers`` (logos too) that may be seen through, both with their width and
    height in pixels; what moves is a strip of frames. ``names`` are what a person calls them."""

    outlets: Mapping[str, Outlet] = field(default_factory=lambda: OUTLETS)
    fonts: Mapping[str, Font] = field(default_factory=lambda: CAPTION_FONTS)
    tables: frozenset[str] = frozenset()
    pictures: Mapping[str, tuple[int, int]] = field(default_factory=dict)
    stickers: Mapping[str, Strip] = field(default_factory=dict)
    names: Mapping[str, str] = field(default_factory=dict)


EVERYBODYS = Kit()  # what every workspace has
