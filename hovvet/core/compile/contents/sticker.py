"""Stickers in the plan."""

from collections.abc import Iterator

from hovvet.core.compile.contents.base import Placement
from hovvet.core.compile.entrance import enter, entrance_note
from hovvet.core.compile.scene import Box, Laid, Reach, Scene
from hovvet.core.compile.sticking import stuck
from hovvet.core.picture.strip import Strip
from hovvet.core.plan.model import Crop, Knot, PictureLayer, PlaceKnot, Still
from hovvet.core.sheet.contents.sticker import Sticker


class StickerPlacement(Placement[Sticker]):
    """Stands over the picture for its words."""

    def note(self, laid: Laid[Sticker], scene: Scene) -> str:
        """Whether it is missing."""
        return missing(laid.content.media, scene) or entrance_note(laid, scene)

    def place(self, laid: Laid[Sticker], scene: Scene) -> None:
        """Put it over what is there."""
        enter(laid, scene)
        sticker = laid.content
        strip = scene.stickers.get(sticker.media)
        if strip is None:
            return
        output, rate = (scene.outlet.width, scene.outlet.height), scene.timeline.rate
        place, opacity = stuck(sticker, strip.size, output, laid.first, laid.last, rate)
        width, height = sticker.size, sticker.size * output[0] * strip.height / strip.width / output[1]
        left, top = sticker.across - width / 2, sticker.down - height / 2
        scene.boxes[laid.layer] = Box(left=left, top=top, width=width, height=height)
        scene.over += seen_through(sticker.media, strip, laid.reach, place, opacity, rate.fps)


def seen_through(
    media: str, strip: Strip, reach: Reach, place: tuple[PlaceKnot, ...], opacity: tuple[Knot, ...], fps: float
) -> Iterator[PictureLayer]:
    """A picture that may be seen through, and its frames one after the other where it moves."""
    for first, last, frame in strip.runs(reach.first, reach.last, fps):
        yield PictureLayer(
            first=first,
            last=last,
            source=Still(media=media, clear=True),
            crop=Crop(x=0, y=frame * strip.height, width=strip.width, height=strip.height),
            place=place,
            opacity=opacity,
        )


def missing(media: str, scene: Scene) -> str:
    """What to tell where a sticker or logo is not there."""
    if not media:
        return "Choose what is to be seen here."
    return "" if media in scene.stickers else "What was shown here was deleted. Choose another one, or take this off."
