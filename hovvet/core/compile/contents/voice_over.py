"""Voice-over in the plan."""

from hovvet.core.compile.contents.base import Placement
from hovvet.core.compile.saying import say
from hovvet.core.compile.scene import Laid, Scene
from hovvet.core.sheet.contents.voice_over import VoiceOver

_NOTHING = "Record it, or choose a recording."
_GONE = (
    "This take is still being prepared: in a moment it is heard. If it was deleted, record it anew, or take this off."
)
_MUTE = "There is no sound in this. Choose another one."
_CUT_OFF = "The clip is over before it is: it takes {:.1f} s, and there are {:.1f} s left."
_LONGER = "It goes on after its words: it takes {:.1f} s, they take {:.1f} s."


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
        takes = scene.lasts[laid.layer]
        rate = scene.timeline.rate
        words, left = rate.seconds(laid.last - laid.first), rate.seconds(scene.timeline.frames - laid.first)
        if takes > left:
            return _CUT_OFF.format(takes, left)
        return _LONGER.format(takes, words) if takes > words else ""

    def place(self, laid: Laid[VoiceOver], scene: Scene) -> None:
        """Let it be heard."""
        voice = laid.content
        source = scene.sources.get(voice.media)
        if source is not None and source.media.has_sound:
            at = scene.timeline.rate.seconds(laid.first) + voice.later / 1000
            over = say(scene, laid.layer, voice, voice.media, at, voice.start, voice.end or None)
            scene.lasts[laid.layer] = over - at
