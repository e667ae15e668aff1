"""Where each word of a caption stands in the picture, by the measures of its font."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from functools import cached_property

from hovvet.core.captions.fonts import FALLBACK, Font
from hovvet.core.captions.metrics import covers, width
from hovvet.core.captions.style import CaptionStyle
from hovvet.core.plan.model import Caption, PlanWord
from hovvet.core.plan.outlets import Outlet


@dataclass(frozen=True)
class Placed:
    """A word: its position in the plan, its text as written, and its middle and size in pixels of the output."""

    word: int
    text: str
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
    """How a style is set in an outlet: one size of letters for the whole clip."""

    def __init__(
        self,
        style: CaptionStyle,
        outlet: Outlet,
        captions: Sequence[Caption],
        words: Sequence[PlanWord],
        face: Font | None = None,
    ) -> None:
        self._style, self._outlet, self.face = style, outlet, face or style.face
        self._texts = [style.written(word.written) for word in words]
        self._widths = [self._width(text) * word.size for text, word in zip(self._texts, words, strict=True)]
        self.scale = min(outlet.width, outlet.height) / 1080
        left, _, right, _ = outlet.safe
        self._edge = style.outline_width * self.scale
        self._room = outlet.width - left - right - 2 * self._edge
        self.size = self._fitting([line for caption in captions for line in caption.lines])

    @property
    def padding(self) -> float:
        """Pixels between letters and the edge of their box."""
        return self._style.box.padding * self.size if self._style.box else 0.0

    def lines(self, caption: Caption) -> list[Line]:
        """The lines of a caption, each word in its place."""
        left, top, right, bottom = self._outlet.safe
        high = self.size * self._style.line_height
        whole = high * (len(caption.lines) - 1) + self.size + 2 * self.padding
        free = self._outlet.height - top - bottom - whole
        y = top + max(free, 0) * self._style.height + self.padding + self.size / 2
        made = []
        for n, line in enumerate(caption.lines):
            length = self._line_width(line) * self.size
            start = {
                "left": left + self._edge + self.padding,
                "centre": (left + self._outlet.width - right - length) / 2,
                "right": self._outlet.width - right - self._edge - self.padding - length,
            }[self._style.align]
            at = y + n * high
            placed = tuple(self._placed(line, start, at))
            made.append(Line(placed, start, at - self.size / 2, start + length, at + self.size / 2))
        return made

    def _placed(self, line: Sequence[int], x: float, y: float) -> Iterator[Placed]:
        space = self._space * self.size
        for n in line:
            wide = self._widths[n] * self.size
            yield Placed(n, self._texts[n], x + wide / 2, y, wide, self.size)
            x += wide + space

    def _fitting(self, lines: Sequence[Sequence[int]]) -> float:
        """The size at which the widest line fits, within the style's limits."""
        style = self._style
        size = style.size * self.scale
        beside = 2 * style.box.padding if style.box else 0.0
        widest = max((self._line_width(line) for line in lines), default=0.0)
        if style.spoken.how == "size":
            widest += (style.spoken.scale - 1) * max((self._longest(line) for line in lines), default=0.0)
        if (widest + beside) * size > self._room:
            size = self._room / (widest + beside)
        return max(size, style.smallest * self.scale)

    def _longest(self, line: Sequence[int]) -> float:
        return max(self._widths[n] for n in line)

    def _line_width(self, line: Sequence[int]) -> float:
        """At size 1."""
        return sum(self._widths[n] for n in line) + self._space * (len(line) - 1)

    @cached_property
    def _space(self) -> float:
        return self._width(" ") + self._style.word_spacing

    def _width(self, text: str) -> float:
        """Of a text at size 1."""
        file = self.face.file
        return width(text, file if covers(text, file) else FALLBACK.file, 1.0) + self._style.spacing * len(text)
