"""The fades at the ends of the clip, in the plan."""

from hovvet.core.compile.contents.base import Placement
from hovvet.core.compile.scene import Reach, Scene
from hovvet.core.sheet.contents.ends import Ends
from hovvet.core.sheet.model import Layer


class EndsPlacement(Placement):
    """Holds for the whole clip, whatever it lies over."""

    def place(self, layer: Layer, reach: Reach, scene: Scene) -> None:
        """Note it for the ends."""
        assert isinstance(layer.content, Ends)
        scene.ends = layer.content
