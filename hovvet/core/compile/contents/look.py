"""Colour in the plan."""

from hovvet.core.compile.contents.base import Placement
from hovvet.core.compile.scene import Reach, Scene
from hovvet.core.sheet.contents.look import Look
from hovvet.core.sheet.model import Layer

_NO_PICTURES = "No picture is laid over these words yet: lay one, and it is shown in these colours."


class LookPlacement(Placement):
    """Holds for the base picture of its frames, or for the pictures over it."""

    def foresee(self, layer: Layer, reach: Reach, scene: Scene) -> None:
        """Note it for what is seen."""
        assert isinstance(layer.content, Look)
        looks = scene.looks_over if layer.content.of == "pictures over words" else scene.looks
        looks.append((reach.first, reach.last, layer.content.grade))

    def note(self, layer: Layer, reach: Reach, scene: Scene) -> str:
        """Whether there is nothing that it could colour."""
        assert isinstance(layer.content, Look)
        if layer.content.of == "who speaks":
            return ""
        over = any(each.first < reach.last and each.last > reach.first for each in scene.picture)
        return "" if over else _NO_PICTURES
