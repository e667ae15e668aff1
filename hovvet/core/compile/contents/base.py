"""How content gets into the plan."""

from collections.abc import Iterator

from hovvet.core.compile.scene import Reach, Scene
from hovvet.core.compile.timing import Timing
from hovvet.core.sheet.model import Layer
from hovvet.core.sheet.places import Places


class Placement:
    """One for each kind of content. What a kind has no use for it leaves as it is here."""

    def timing(self, layer: Layer, places: Places) -> Iterator[Timing]:
        """What it does to the passing of time, before anything is placed."""
        return iter(())

    def foresee(self, layer: Layer, reach: Reach, scene: Scene) -> None:
        """Note what others have to know before anything is placed."""

    def note(self, layer: Layer, reach: Reach, scene: Scene) -> str:
        """What a person has to know of it where it lies, in a sentence or two; "" for nothing."""
        return ""

    def place(self, layer: Layer, reach: Reach, scene: Scene) -> None:
        """Put it into the scene."""
