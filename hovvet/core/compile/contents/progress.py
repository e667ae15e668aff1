"""Progress bars in the plan."""

from hovvet.core.compile.contents.base import Placement
from hovvet.core.compile.progress import bar_of, progress_shapes
from hovvet.core.compile.scene import Laid, Scene
from hovvet.core.sheet.contents.progress import Progress


class ProgressPlacement(Placement[Progress]):
    """Grows while its words are said; nothing is written over it."""

    def place(self, laid: Laid[Progress], scene: Scene) -> None:
        """Its shapes, and the room that it takes."""
        bar = bar_of(laid.content, scene.outlet)
        scene.shapes += progress_shapes(laid.content, laid.first, laid.last, scene.outlet, scene.timeline.rate)
        scene.taken.append((laid.first, laid.last, (bar.top, bar.top + bar.height)))
