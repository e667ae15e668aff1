"""Colour in the plan."""

from hovvet.core.compile.contents.base import Placement
from hovvet.core.compile.scene import Laid, Scene
from hovvet.core.sheet.contents.look import Look

_NO_PICTURES = "No picture is laid over these words yet: lay one, and it is shown in these colours."


class LookPlacement(Placement[Look]):
    """Holds for the base picture of its frames, or for the pictures over it (``compile/looks``)."""

    def note(self, laid: Laid[Look], scene: Scene) -> str:
        """Whether there is nothing that it could colour."""
        if laid.content.of == "who speaks":
            return ""
        over = any(each.first < laid.last and each.last > laid.first for each in scene.picture)
        return "" if over else _NO_PICTURES
