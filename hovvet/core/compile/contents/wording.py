"""Caption words in the plan."""

from hovvet.core.compile.contents.base import Placement
from hovvet.core.compile.scene import Reach, Scene
from hovvet.core.sheet.contents.wording import Wording
from hovvet.core.sheet.model import Layer


class WordingPlacement(Placement):
    """Holds for the captions of its words."""

    def place(self, layer: Layer, reach: Reach, scene: Scene) -> None:
        """Note it for the words."""
        assert isinstance(layer.content, Wording)
        scene.wordings.append((reach.begin, reach.end, layer.content))
