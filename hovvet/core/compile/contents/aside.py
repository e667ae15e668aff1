"""Captions of their own in the plan."""

from hovvet.core.compile.contents.base import Placement
from hovvet.core.compile.scene import AsideAt, Reach, Scene
from hovvet.core.sheet.contents.aside import Aside
from hovvet.core.sheet.model import Layer

ROOM = 0.3  # seconds: a caption that would be seen for less is not put there


class AsidePlacement(Placement):
    """Stands after its last word, until the next one; over a gap, in that."""

    def note(self, layer: Layer, reach: Reach, scene: Scene) -> str:
        """Whether there is room for it."""
        start, end = _room(reach, scene)
        return "" if end - start >= ROOM else "The next word comes too soon after these. Lay it where there is a pause."

    def place(self, layer: Layer, reach: Reach, scene: Scene) -> None:
        """Note it for the words."""
        aside = layer.content
        assert isinstance(aside, Aside)
        start, end = _room(reach, scene)
        if end - start >= ROOM:
            end = min(start + aside.seconds, end)
            scene.asides.append(AsideAt(layer.id, reach.end, aside.text, start, end))


def _room(reach: Reach, scene: Scene) -> tuple[float, float]:
    """From when until when it can be seen, in seconds of the output."""
    timeline, places = scene.timeline, scene.places
    if reach.end < 0:
        return 0.0, timeline.rate.seconds(timeline.frames)
    is_gap = places.stands[reach.end].word is None
    start = timeline.rate.seconds(reach.first if is_gap else reach.last)
    after = next((n for n in range(reach.end + 1, len(places.stands)) if scene.parts[n] is not None), None)
    return start, scene.begins(after) if after is not None else timeline.rate.seconds(timeline.frames)
