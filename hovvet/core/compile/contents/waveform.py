"""Waveforms in the plan."""

from hovvet.core.compile.contents.base import Placement
from hovvet.core.compile.level_bars import loudness
from hovvet.core.compile.scene import Laid, Scene
from hovvet.core.compile.waveform import waveform_shapes
from hovvet.core.sheet.contents.waveform import LONGEST_BARS, Waveform

_UNKNOWN = "How loud these words are is not known: their recording is still being prepared, or it has no sound."
_NO_LONGER = (
    f"Level bars move for {LONGEST_BARS / 60:g} minutes of a clip at most; after that they are not seen. Lay them over fewer "
    "words, or let them show all that is said."
)


class WaveformPlacement(Placement[Waveform]):
    """Is drawn by the script, over the picture."""

    def note(self, laid: Laid[Waveform], scene: Scene) -> str:
        """Whether there is nothing to show, or not all that was asked for."""
        if not any(source.levels for source in scene.sources.values()):
            return _UNKNOWN
        return _NO_LONGER if _seen_until(laid, scene) < laid.last else ""

    def place(self, laid: Laid[Waveform], scene: Scene) -> None:
        """Its shapes, by how loud it is from frame to frame."""
        last = _seen_until(laid, scene)
        if last > laid.first:
            loud = loudness(scene.timeline, scene.sources, laid.first, last)
            scene.shapes += waveform_shapes(laid.content, laid.first, loud, scene.outlet, scene.timeline.rate)


def _seen_until(laid: Laid[Waveform], scene: Scene) -> int:
    """The frame up to which it is seen: bars move only for so long, those that count first first."""
    if not laid.content.moves:
        return laid.last
    own = scene.of(Waveform)
    before = own[: next(n for n, each in enumerate(own) if each.layer == laid.layer)]
    drawn = sum(each.last - each.first for each in before if each.content.moves)
    room = max(scene.timeline.rate.frame(LONGEST_BARS) - drawn, 0)
    return min(laid.last, laid.first + room)
