"""Joins in the plan."""

from hovvet.core.compile.contents.base import Placement
from hovvet.core.compile.scene import Reach, Scene
from hovvet.core.sheet.contents.join import Join
from hovvet.core.sheet.model import Layer


class JoinPlacement(Placement):
    """Holds for the joins before its words; never for the beginning of the clip."""

    def place(self, layer: Layer, reach: Reach, scene: Scene) -> None:
        """Note it for the parts that open with one of its words."""
        assert isinstance(layer.content, Join)
        for part in scene.timeline.parts[1:]:
            opening = scene.opening(part)
            if not part.follows and opening is not None and reach.begin <= opening <= reach.end:
                scene.joins[part.frame] = layer.content
