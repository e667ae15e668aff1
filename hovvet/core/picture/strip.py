"""Small pictures that move: their frames below one another in one picture."""

from collections.abc import Iterator
from typing import NamedTuple

Size = tuple[int, int]  # width, height in pixels
MOST_RUNS = 1_000  # changes of its picture that a sticker makes in a clip; then it stands still


class Strip(NamedTuple):
    """The width and height of a frame in pixels, how many there are, and the seconds that each is seen."""

    width: int
    height: int
    frames: int = 1
    step: float = 0.0

    @property
    def size(self) -> Size:
        """Of one frame."""
        return self.width, self.height

    def runs(self, first: int, last: int, fps: float) -> Iterator[tuple[int, int, int]]:
        """(from frame, up to frame, which of its own) over output frames, over and over."""
        if self.frames == 1:
            yield first, last, 0
            return
        begins, n = first, 0
        while begins < last:
            n += 1
            ends = min(max(first + round(n * self.step * fps), begins), last)
            if n >= MOST_RUNS:
                ends = last
            if ends > begins:
                yield begins, ends, (n - 1) % self.frames
            begins = ends
