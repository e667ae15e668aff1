"""Framing in the plan."""

from hovvet.core.plan.contents.base import Placement
from hovvet.core.plan.scene import Reach, Scene
from hovvet.core.sheet.contents.framing import Framing
from hovvet.core.sheet.model import Layer


class FramingPlacement(Placement):
    """Holds for the base picture of its frames."""

    def place(self, layer: Layer, reach: Reach, scene: Scene) -> None:
        """Note it for the base picture."""
        assert isinstance(layer.content, Framing)
        scene.framings.append((reach.first, reach.last, layer.content))
