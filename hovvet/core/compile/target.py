"""What a sheet is compiled for: an edition, with its outlet and caption style looked up."""

from collections.abc import Mapping
from dataclasses import dataclass, field

from hovvet.core.captions.fonts import Font
from hovvet.core.captions.layout import USUAL, CaptionLayout
from hovvet.core.captions.style import CaptionStyle
from hovvet.core.compile.kit import EVERYBODYS, Kit
from hovvet.core.errors import CoreError
from hovvet.core.picture.strip import Strip
from hovvet.core.plan.outlets import Outlet
from hovvet.core.sheet.model import Edition, Sheet, WordRef
from hovvet.core.time import Rate
from hovvet.core.value import BreakHow


@dataclass(frozen=True)
class Target:
    """One dressing of a clip for one outlet; ``captions`` None leaves the picture plain; ``rate`` None is that of what is
    shown longest; ``hidden`` are layers that are left out; ``breaks`` a person's own breaks of captions, by origin and
    word."""

    outlet: Outlet
    captions: CaptionStyle | None = None
    texts: bool = True  # False leaves out words and captions: enough to play a whole recording
    rate: Rate | None = None
    hidden: frozenset[str] = frozenset()
    layout: CaptionLayout = USUAL
    breaks: Mapping[tuple[str, int | None], BreakHow] = field(default_factory=dict)
    keywords: frozenset[WordRef] = frozenset()  # words that are marked in captions
    titles: bool = True  # whether there is what stands on screen
    face: Font | None = None  # of the captions, where that is a workspace's own
    pictures: Mapping[str, tuple[int, int]] = field(default_factory=dict)  # of the workspace, their width and height
    stickers: Mapping[str, Strip] = field(default_factory=dict)
    longest: float | None = (
        None  # seconds that it may last; None while nothing is changed: then it lasts as long as it does
    )


def target_of(
    sheet: Sheet,
    edition: Edition,
    kit: Kit = EVERYBODYS,
    texts: bool = True,
) -> Target:
    """The target of an edition of a sheet. Raises CoreError when its outlet or the font of its captions is not on the
    kit."""
    where = kit.outlets.get(edition.outlet)
    if where is None:
        raise CoreError("The outlet of this edition was deleted. Choose another one for it, or remove the edition.")
    style = sheet.caption_style if edition.dressing != "plain" else None
    if style and style.font not in kit.fonts:
        raise CoreError("The font of these captions was deleted. Choose another one, or another style.")
    breaks = {(each.word.origin, each.word.word): each.how for each in sheet.breaks}
    face = kit.fonts[style.font] if style else None
    return Target(
        where,
        style,
        texts,
        edition.rate,
        frozenset(edition.hidden),
        sheet.layout,
        breaks,
        frozenset(sheet.keywords),
        edition.dressing == "dressed",
        face,
        kit.pictures,
        kit.stickers,
    )
