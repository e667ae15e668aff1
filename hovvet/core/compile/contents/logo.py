"""Logos in the plan."""

from hovvet.core.compile.contents.base import Placement
from hovvet.core.compile.contents.sticker import missing, seen_through
from hovvet.core.compile.scene import Box, Reach, Scene
from hovvet.core.compile.sticking import cornered
from hovvet.core.plan.model import Knot
from hovvet.core.sheet.contents.logo import Logo
from hovvet.core.sheet.model import Layer


class LogoPlacement(Placement):
    """Stands over the picture, in its corner."""

    def note(self, layer: Layer, reach: Reach, scene: Scene) -> str:
        """Whether it is missing."""
        assert isinstance(layer.content, Logo)
        return missing(layer.content.media, scene)

    def place(self, layer: Layer, reach: Reach, scene: Scene) -> None:
        """Put it over what is there."""
        logo, outlet = layer.content, scene.outlet
        assert isinstance(logo, Logo)
        strip = scene.stickers.get(logo.media)
        if strip is None:
            return
        place = cornered(logo, strip.size, (outlet.width, outlet.height), outlet.safe)
        width, height = place.width / outlet.width, place.width * strip.height / strip.width / outlet.height
        left, top = place.x / outlet.width - width / 2, place.y / outlet.height - height / 2
        scene.boxes[layer.id] = Box(left=left, top=top, width=width, height=height)
        opacity = (Knot(at=reach.first, value=logo.opacity),) if logo.opacity < 1 else ()
        scene.over += seen_through(logo.media, strip, reach, (place,), opacity, scene.timeline.rate.fps)
