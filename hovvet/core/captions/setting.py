"""Where each word of a caption stands in the picture, by the measures of its font."""

from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass
from itertools import accumulate, pairwise
from typing import NamedTuple

from hovvet.core.captions.fonts import FALLBACK, Font
from hovvet.core.captions.metrics import covers, width
from hovvet.core.captions.style import CaptionStyle
from hovvet.core.plan.outlets import Outlet


class Written(NamedTuple):
    """A word as captions write it: ``size`` in parts of the others', ``colour`` None for that of the style. It is the
    spoken one from frame ``begins`` of its caption on, and said for so many milliseconds."""

    text: str
    size: float = 1.0
    colour: str | None = None
    begins: int = 0
    said: int = 0


@dataclass(frozen=True)
class Placed:
    """A word with its middle and size in pixels of the output."""

    word: Written
    x: float
    y: float
    width: float
    height: float


@dataclass(frozen=True)
class Line:
    """The words of a line, and the box around them in pixels."""

    words: tuple[Placed, ...]
    left: float
    top: float
    right: float
    bottom: float


class Setting:
    """How a style is set in an outlet; ``face`` is the font where that is a workspace's own. All of a clip has one
    ``size`` of letters, in pixels, which is found by ``fitting``. It stands ``shift`` pixels lower than the style has it."""

    def __init__(
        self, style: CaptionStyle, outlet: Outlet, face: Font | None = None, size: float = 0.0, shift: float = 0.0
    ) -> None:
        self._shift = shift
        self._style, self._outlet, self.face, self.size = style, outlet, face or style.face, size
        self.scale = min(outlet.width, outlet.height) / 1080
        left, _, right, _ = outlet.safe
        self._edge = style.outline_width * self.scale
        self._room = outlet.width - left - right - 2 * self._edge
        self._space = self._width(" ") + style.word_spacing

    @property
    def padding(self) -> float:
        """Pixels between letters and the edge of their box."""
        return self._style.box.padding * self.size if self._style.box else 0.0

    def fitting(self, lines: Iterable[Sequence[Written]], times: float = 1.0) -> float:
        """The size at which the widest of some lines fits, within the style's limits; where there is room, that of the style or
        so many ``times`` that."""
        style = self._style
        size = style.size * self.scale * times
        beside = 2 * style.box.padding if style.box else 0.0
        widest = longest = 0.0
        for line in lines:
            widths = [self._width(word.text) * word.size for word in line]
            widest = max(widest, sum(widths) + self._space * (len(line) - 1))
            longest = max(longest, *widths)
        if style.spoken.how == "size":
            widest += (style.spoken.scale - 1) * longest
        if (widest + beside) * size > self._room:
            size = self._room / (widest + beside)
        return max(size, style.smallest * self.scale)

    def lines(self, lines: Sequence[Sequence[Written]]) -> list[Line]:
        """The lines of a caption, each word in its place."""
        left, top, right, bottom = self._outlet.safe
        heights = [self.size * min(max(word.size for word in line), 1) for line in lines]  # small lines stand closer
        middles = [*accumulate(((a + b) / 2 * self._style.line_height for a, b in pairwise(heights)), initial=0.0)]
        whole = middles[-1] + (heights[0] + heights[-1]) / 2 + 2 * self.padding
        free = self._outlet.height - top - bottom - whole
        y = top + max(free, 0) * self._style.height + self.padding + heights[0] / 2 + self._shift
        made = []
        for line, high, below in zip(lines, heights, middles, strict=True):
            widths = [self._width(word.text) * word.size for word in line]
            length = (sum(widths) + self._space * (len(line) - 1)) * self.size
            start = {
                "left": left + self._edge + self.padding,
                "centre": (left + self._outlet.width - right - length) / 2,
                "right": self._outlet.width - right - self._edge - self.padding - length,
            }[self._style.align]
            at = y + below
            placed = tuple(self._placed(line, widths, start, at))
            made.append(Line(placed, start, at - high / 2, start + length, at + high / 2))
        return made

    def _placed(self, line: Sequence[Written], widths: Sequence[float], x: float, y: float) -> Iterator[Placed]:
        space = self._space * self.size
        for word, one in zip(line, widths, strict=True):
            wide = one * self.size
            yield Placed(word, x + wide / 2, y, wide, self.size)
            x += wide + space

    def _width(self, text: str) -> float:
        """Of a text at size 1."""
        file = self.face.file
        return width(text, file if covers(text, file) else FALLBACK.file, 1.0) + self._style.letter_spacing * len(text)
