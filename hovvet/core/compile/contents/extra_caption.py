"""Captions of their own in the plan."""

from hovvet.core.compile.contents.base import Placement
from hovvet.core.compile.scene import Laid, Scene
from hovvet.core.sheet.contents.extra_caption import ExtraCaption

ROOM = 0.3  # seconds: a caption that would be seen for less is not put there


class ExtraCaptionPlacement(Placement[ExtraCaption]):
    """Stands after its last word, until the next one; over a gap, in that. It is put among the words (``compile/words``)."""

    def note(self, laid: Laid[ExtraCaption], scene: Scene) -> str:
        """Whether there is room for it."""
        is_seen = seconds_of(laid, scene) is not None
        return "" if is_seen else "The next word comes too soon after these. Lay it where there is a pause."


def seconds_of(laid: Laid[ExtraCaption], scene: Scene) -> tuple[float, float] | None:
    """From when until when it is seen, in seconds of the output; None where there is no room for it."""
    start, end = _room(laid, scene)
    return (start, min(start + laid.content.seconds, end)) if end - start >= ROOM else None


def _room(laid: Laid[ExtraCaption], scene: Scene) -> tuple[float, float]:
    """From when until when it can be seen, in seconds of the output."""
    timeline, places, at = scene.timeline, scene.places, laid.reach.end
    if at < 0:
        return 0.0, timeline.rate.seconds(timeline.frames)
    is_gap = places.spots[at].word is None
    start = timeline.rate.seconds(laid.first if is_gap else laid.last)
    after = next((n for n in range(at + 1, len(places.spots)) if scene.parts[n] is not None), None)
    return start, scene.begins(after) if after is not None else timeline.rate.seconds(timeline.frames)
