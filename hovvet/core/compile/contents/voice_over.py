"""Voice-over in the plan."""

from hovvet.core.compile.contents.base import Placement
from hovvet.core.compile.saying import room_note, say
from hovvet.core.compile.scene import Laid, Scene
from hovvet.core.sheet.contents.voice_over import VoiceOver

_NOTHING = "Record it, or choose a recording."
_GONE = (
    "This take is still being prepared: in a moment it is heard. If it was deleted, record it anew, or take this off."
)
_MUTE = "There is no sound in this. Choose another one."


class VoiceOverPlacement(Placement[VoiceOver]):
    """Is heard over the clip from its first word on."""

    def note(self, laid: Laid[VoiceOver], scene: Scene) -> str:
        """What is missing, and whether there is room for it."""
        voice = laid.content
        if not voice.media:
            return _NOTHING
        source = scene.sources.get(voice.media)
        if source is None:
            return _GONE
        if not source.media.has_sound:
            return _MUTE
        return room_note(laid, scene)

    def place(self, laid: Laid[VoiceOver], scene: Scene) -> None:
        """Let it be heard."""
        voice = laid.content
        source = scene.sources.get(voice.media)
        if source is not None and source.media.has_sound:
            at = scene.timeline.rate.seconds(laid.first) + voice.later / 1000
            over = say(scene, laid.layer, voice, voice.media, at, voice.start, voice.end or None)
            scene.lasts[laid.layer] = over - at
