"""Clearer speech in the plan."""

from hovvet.core.compile.contents.base import Placement
from hovvet.core.compile.scene import Laid, Scene
from hovvet.core.compile.speech import heard_as
from hovvet.core.sheet.contents.clearer import Clearer

_WAITS = "It is not made yet for all that is said here: until it is, that is heard as it was recorded."


class ClearerPlacement(Placement[Clearer]):
    """Holds for what is heard of the recordings (``compile/speech``)."""

    def note(self, laid: Laid[Clearer], scene: Scene) -> str:
        """Whether all of it is there."""
        said = {part.piece.recording for part in scene.timeline.parts if part.piece.recording is not None}
        heard = [each for each in said if scene.sources[each].media.has_sound]
        waits = any(heard_as(scene, each) == each for each in heard)
        return _WAITS if waits and laid.content.strength != "off" else ""
