"""Stickers in the plan."""

from hovvet.core.picture.framing import Size
from hovvet.core.picture.sticking import stuck
from hovvet.core.plan.contents.base import Placement
from hovvet.core.plan.model import Crop, Knot, PictureLayer, PlaceKnot, Still
from hovvet.core.plan.scene import Reach, Scene
from hovvet.core.sheet.contents.sticker import Sticker
from hovvet.core.sheet.model import Layer


class StickerPlacement(Placement):
    """Stands over the picture for its words."""

    def note(self, layer: Layer, reach: Reach, scene: Scene) -> str:
        """Whether it is missing."""
        assert isinstance(layer.content, Sticker)
        return missing(layer.content.media, scene)

    def place(self, layer: Layer, reach: Reach, scene: Scene) -> None:
        """Put it over what is there."""
        sticker = layer.content
        assert isinstance(sticker, Sticker)
        size = scene.stickers.get(sticker.media)
        if size is None:
            return
        output = scene.outlet.width, scene.outlet.height
        place, opacity = stuck(sticker, size, output, reach.first, reach.last, scene.timeline.rate)
        scene.over.append(seen_through(sticker.media, size, reach, place, opacity))


def seen_through(
    media: str, size: Size, reach: Reach, place: tuple[PlaceKnot, ...], opacity: tuple[Knot, ...]
) -> PictureLayer:
    """A still of ``size`` that may be seen through, all of it."""
    return PictureLayer(
        first=reach.first,
        last=reach.last,
        source=Still(media=media, clear=True),
        crop=Crop(x=0, y=0, width=size[0], height=size[1]),
        place=place,
        opacity=opacity,
    )


def missing(media: str, scene: Scene) -> str:
    """What to tell where a sticker or logo is not there."""
    if not media:
        return "Choose what is to be seen here."
    return "" if media in scene.stickers else "What was shown here was deleted. Choose another one, or take this off."
