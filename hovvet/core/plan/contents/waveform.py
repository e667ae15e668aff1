"""Waveforms in the plan."""

from hovvet.core.plan.contents.base import Placement
from hovvet.core.plan.loudness import loudness
from hovvet.core.plan.scene import Reach, Scene
from hovvet.core.sheet.contents.waveform import Waveform
from hovvet.core.sheet.model import Layer

_UNKNOWN = "How loud these words are is not known: their recording is still being prepared, or it has no sound."


class WaveformPlacement(Placement):
    """Is drawn by the script, over the picture."""

    def note(self, layer: Layer, reach: Reach, scene: Scene) -> str:
        """Whether there is nothing to show."""
        return "" if any(source.levels for source in scene.sources.values()) else _UNKNOWN

    def place(self, layer: Layer, reach: Reach, scene: Scene) -> None:
        """Note it for the script, with how loud it is from frame to frame."""
        assert isinstance(layer.content, Waveform)
        scene.waveforms.append(
            (reach.first, layer.content, loudness(scene.timeline, scene.sources, reach.first, reach.last))
        )
