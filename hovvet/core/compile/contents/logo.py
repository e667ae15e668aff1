"""Logos in the plan."""

from hovvet.core.compile.contents.base import Placement
from hovvet.core.compile.contents.sticker import missing, seen_through
from hovvet.core.compile.scene import Box, Laid, Scene
from hovvet.core.compile.sticking import cornered
from hovvet.core.plan.model import Knot
from hovvet.core.sheet.contents.logo import Logo


class LogoPlacement(Placement[Logo]):
    """Stands over the picture, in its corner."""

    def note(self, laid: Laid[Logo], scene: Scene) -> str:
        """Whether it is missing."""
        return missing(laid.content.media, scene)

    def place(self, laid: Laid[Logo], scene: Scene) -> None:
        """Put it over what is there."""
        logo, outlet = laid.content, scene.outlet
        strip = scene.stickers.get(logo.media)
        if strip is None:
            return
        place = cornered(logo, strip.size, (outlet.width, outlet.height), outlet.safe)
        width, height = place.width / outlet.width, place.width * strip.height / strip.width / outlet.height
        left, top = place.x / outlet.width - width / 2, place.y / outlet.height - height / 2
        scene.boxes[laid.layer] = Box(left=left, top=top, width=width, height=height)
        opacity = (Knot(at=laid.first, value=logo.opacity),) if logo.opacity < 1 else ()
        scene.over += seen_through(logo.media, strip, laid.reach, (place,), opacity, scene.timeline.rate.fps)
