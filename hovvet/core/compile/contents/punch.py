"""A closer view in the plan."""

from hovvet.core.compile.contents.base import Placement
from hovvet.core.compile.scene import Reach, Scene
from hovvet.core.sheet.contents.punch import Punch
from hovvet.core.sheet.model import Layer


class PunchPlacement(Placement):
    """Holds for the base picture of its frames."""

    def place(self, layer: Layer, reach: Reach, scene: Scene) -> None:
        """Note it for the base picture."""
        assert isinstance(layer.content, Punch)
        scene.punches.append((reach.first, reach.last, layer.content))
