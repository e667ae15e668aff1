"""Microphones in the plan."""

from hovvet.core.compile.angles import MAIN
from hovvet.core.compile.contents.base import Placement
from hovvet.core.compile.scene import Laid, Scene
from hovvet.core.sheet.contents.microphone import Microphone

_GONE = (
    "This talk has no microphone {}. Bring it in on the desk of the recording, under Cameras, or choose another one."
)
_BROKEN = (
    "It was not running all the time. Of what is between two cuts and not all in it, the first microphone is heard."
)
_SILENT = "What was chosen has no sound, so the first microphone is heard."


class MicrophonePlacement(Placement[Microphone]):
    """Holds for the speech (``compile/speech.py``)."""

    def note(self, laid: Laid[Microphone], scene: Scene) -> str:
        """What is not there, or has no sound."""
        number = laid.content.camera
        if number == MAIN:
            return ""
        parts = [part for part in scene.timeline.parts if part.knots and part.piece.recording in scene.sources]
        found = [(part, scene.sources[part.piece.recording or ""].angle(number)) for part in parts]
        heard = [
            (part, angle, scene.sources[angle.media].media)
            for part, angle in found
            if angle and angle.media in scene.sources
        ]
        if not heard:
            return _GONE.format(number)
        if not any(media.has_sound for _, _, media in heard):
            return _SILENT
        ran = all(angle.covers(part.knots[0][1], part.knots[-1][1], media.duration) for part, angle, media in heard)
        return "" if ran and len(heard) == len(parts) else _BROKEN
