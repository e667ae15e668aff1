"""What is between two cuts of a clip."""

from dataclasses import dataclass

from hovvet.core.compile.scene import Scene
from hovvet.core.compile.timeline import Part
from hovvet.core.sheet.contents.join import Join


@dataclass(frozen=True)
class Block:
    """Parts that go on from one another: what is between two cuts. ``join`` is how it begins."""

    parts: tuple[Part, ...]
    join: Join | None

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
    return [Block(tuple(parts), scene.joins.get(parts[0].frame) if n else None) for n, parts in enumerate(made)]
