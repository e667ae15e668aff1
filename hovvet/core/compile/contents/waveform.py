"""Waveforms in the plan."""

from hovvet.core.compile.contents.base import Placement
from hovvet.core.compile.loudness import loudness
from hovvet.core.compile.scene import Reach, Scene
from hovvet.core.sheet.contents.waveform import LONGEST_BARS, Waveform
from hovvet.core.sheet.model import Layer

_UNKNOWN = "How loud these words are is not known: their recording is still being prepared, or it has no sound."
_NO_LONGER = (
    f"Level bars move for {LONGEST_BARS / 60:g} minutes of a clip at most; after that they are not seen. Lay them over fewer "
    "words, or let them show all that is said."
)


class WaveformPlacement(Placement):
    """Is drawn by the script, over the picture."""

    def note(self, layer: Layer, reach: Reach, scene: Scene) -> str:
        """Whether there is nothing to show, or not all that was asked for."""
        if not any(source.levels for source in scene.sources.values()):
            return _UNKNOWN
        return _NO_LONGER if reach.first in scene.bars_cut else ""

    def place(self, layer: Layer, reach: Reach, scene: Scene) -> None:
        """Note it for the script, with how loud it is from frame to frame."""
        waveform, last = layer.content, reach.last
        assert isinstance(waveform, Waveform)
        if waveform.moves:
            drawn = sum(len(loud) for _, other, loud in scene.waveforms if other.moves)
            room = scene.timeline.rate.frame(LONGEST_BARS) - drawn
            if last - reach.first > room:
                last = reach.first + max(room, 0)
                scene.bars_cut.add(reach.first)
        if last > reach.first:
            loud = loudness(scene.timeline, scene.sources, reach.first, last)
            scene.waveforms.append((reach.first, waveform, loud))
