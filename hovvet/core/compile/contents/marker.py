"""Markers in the plan."""

from hovvet.core.compile.contents.base import Placement
from hovvet.core.compile.scene import Reach, Scene
from hovvet.core.plan.model import Mark
from hovvet.core.sheet.contents.marker import Marker
from hovvet.core.sheet.model import Layer


class MarkerPlacement(Placement):
    """A note at frames; nothing of it is seen or heard."""

    def place(self, layer: Layer, reach: Reach, scene: Scene) -> None:
        """Note it."""
        assert isinstance(layer.content, Marker)
        scene.markers.append(Mark(layer=layer.id, first=reach.first, last=reach.last, note=layer.content.label()))
