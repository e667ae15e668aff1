"""What is heard once, from a frame on: effects, and what comes on screen with one."""

from hovvet.core.compile.scene import Beside, Laid, Scene
from hovvet.core.compile.speech import source_gain
from hovvet.core.plan.model import SoundLayer
from hovvet.core.sheet.contents.base import SILENT
from hovvet.core.sheet.contents.entering import Entering
from hovvet.core.time import to_samples

_EDGE = 240  # samples: what is cut off at the end of the clip does not click
_GONE = "The sound at its entrance was deleted, or is still being prepared. Choose another one, or take it off."


def enter(laid: Laid[Entering], scene: Scene) -> None:
    """Let the effect of something be heard as it comes."""
    content = laid.content
    source = scene.sources.get(content.effect)
    if source is None or not source.media.has_sound or content.effect_volume <= SILENT:
        return
    sample = scene.timeline.rate.sample(laid.first)
    samples = min(to_samples(source.media.duration), scene.timeline.rate.sample(scene.timeline.frames) - sample)
    layer = SoundLayer(
        bus="effect",
        layer=laid.layer,
        media=content.effect,
        sample=sample,
        samples=samples,
        source_sample=0,
        gain=round(source_gain(scene, content.effect) + content.effect_volume, 2),
        fade_out=min(_EDGE, samples // 2),
    )
    scene.sound.append(Beside(layer))


def entrance_note(laid: Laid[Entering], scene: Scene) -> str:
    """Whether the effect of something is missing."""
    effect = laid.content.effect
    return _GONE if effect and effect not in scene.sources else ""
