"""Markers in the plan."""

from hovvet.core.compile.contents.base import Placement
from hovvet.core.compile.scene import Laid, Scene
from hovvet.core.plan.model import Mark
from hovvet.core.sheet.contents.marker import Marker


class MarkerPlacement(Placement[Marker]):
    """A note at frames; nothing of it is seen or heard."""

    def place(self, laid: Laid[Marker], scene: Scene) -> None:
        """Note it."""
        scene.markers.append(Mark(layer=laid.layer, first=laid.first, last=laid.last, note=laid.content.label()))
