"""What is between two cuts of a clip."""

from collections.abc import Sequence
from dataclasses import dataclass

from hovvet.core.compile.scene import Scene
from hovvet.core.compile.timeline import Part
from hovvet.core.sheet.contents.transition import Transition


@dataclass(frozen=True)
class Block:
    """Parts that go on from one another: what is between two cuts. ``join`` is how it begins."""

    parts: tuple[Part, ...]
    join: Transition | None

    @property
    def frame(self) -> int:
        """Its first frame."""
        return self.parts[0].frame

    @property
    def end(self) -> int:
        """One past its last frame."""
        return self.parts[-1].end

    @property
    def recording(self) -> str | None:
        """What it shows; None for a gap."""
        return self.parts[0].piece.recording


def blocks(scene: Scene) -> list[Block]:
    """The parts of the timeline between cuts."""
    made: list[list[Part]] = []
    for part in scene.timeline.parts:
        if part.follows and made:
            made[-1].append(part)
        else:
            made.append([part])
    joins = _joins(scene, [parts[0] for parts in made[1:]])
    return [Block(tuple(parts), joins.get(parts[0].frame)) for parts in made]


def _joins(scene: Scene, begin: Sequence[Part]) -> dict[int, Transition]:
    """How the parts that ``begin`` after a cut are joined to what is before, by their frame: those that open with a word of
    a join, of several the latest."""
    if not scene.of(Transition):
        return {}  # where no word opens a part is not looked up: in a long talk it takes longer than all the rest of an edit
    openings = [(part.frame, scene.opening(part)) for part in begin]
    joins: dict[int, Transition] = {}
    for laid in scene.of(Transition):
        for frame, opening in openings:
            if opening is not None and laid.reach.begin <= opening <= laid.reach.end:
                joins[frame] = laid.content
    return joins
