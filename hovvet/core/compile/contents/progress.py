"""Progress bars in the plan."""

from hovvet.core.compile.contents.base import Placement
from hovvet.core.compile.scene import Reach, Scene
from hovvet.core.sheet.contents.progress import Progress
from hovvet.core.sheet.model import Layer


class ProgressPlacement(Placement):
    """Grows while its words are said."""

    def place(self, layer: Layer, reach: Reach, scene: Scene) -> None:
        """Note it for the script."""
        assert isinstance(layer.content, Progress)
        scene.progress.append((reach.first, reach.last, layer.content))
