"""Titles in the plan."""

from hovvet.core.compile.contents.base import Placement
from hovvet.core.compile.scene import Reach, Scene, TitleAt
from hovvet.core.sheet.contents.title import Title
from hovvet.core.sheet.model import Layer


class TitlePlacement(Placement):
    """Stands over the picture for its words."""

    def place(self, layer: Layer, reach: Reach, scene: Scene) -> None:
        """Note it for the script."""
        assert isinstance(layer.content, Title)
        scene.titles.append(TitleAt(reach.first, reach.last, layer.content, layer.id))
