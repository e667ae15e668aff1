"""Colour in the plan."""

from hovvet.core.plan.contents.base import Placement
from hovvet.core.plan.scene import Reach, Scene
from hovvet.core.sheet.contents.look import Look
from hovvet.core.sheet.model import Layer


class LookPlacement(Placement):
    """Holds for the base picture of its frames."""

    def place(self, layer: Layer, reach: Reach, scene: Scene) -> None:
        """Note it for the base picture."""
        assert isinstance(layer.content, Look)
        scene.looks.append((reach.first, reach.last, layer.content.grade))
