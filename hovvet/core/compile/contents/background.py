"""Backgrounds of one's own in the plan."""

from hovvet.core.compile.contents.base import Placement
from hovvet.core.compile.scene import Laid, Scene
from hovvet.core.sheet.contents.background import Background

_NO_PICTURES = "No picture is laid over these words yet: lay one with a green or blue screen."
_NOT_PICKED = "Pick the screen: press on it in the picture below, at several places."
_NOTHING = "Choose the picture or video that is seen behind. Until then it is a colour."
_GONE = "What was seen behind was deleted, or is still being prepared. Choose another one."


class BackgroundPlacement(Placement[Background]):
    """Holds for the base picture of its frames, or for the pictures over it (``compile/backgrounds``)."""

    def note(self, laid: Laid[Background], scene: Scene) -> str:
        """What is still to be chosen, or gone."""
        own = laid.content
        if own.behind == "as it was filmed":
            return ""
        over = any(each.first < laid.last and each.last > laid.first for each in scene.picture)
        if own.of == "pictures over words" and not over:
            return _NO_PICTURES
        if not own.is_picked:
            return _NOT_PICKED
        if own.behind != "a picture or film":
            return ""
        there = own.media in scene.pictures or own.media in scene.sources
        return "" if there else _GONE if own.media else _NOTHING
