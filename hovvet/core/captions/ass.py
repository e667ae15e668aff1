"""Captions as an ASS script, the one form both preview and export draw.

Every word is an event of its own at its own place, so that one can be marked, grow or move without the others; what lies
behind and under words is drawn as shapes.
"""

from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property, lru_cache
from typing import NamedTuple

import pysubs2

from hovvet.core.captions import notation
from hovvet.core.captions.fonts import FALLBACK, Font
from hovvet.core.captions.metrics import covers
from hovvet.core.captions.setting import Line, Placed, Setting, Written
from hovvet.core.captions.style import CaptionStyle
from hovvet.core.plan.model import Caption, PlanWord
from hovvet.core.plan.outlets import Outlet
from hovvet.core.time import Rate

_BEHIND, _MARKED, _LETTERS, _OVER = range(4)  # layers of events
_SHAPES, _TITLES = 8, 10  # shapes by themselves; so many more, events of titles
_SHORT_SHARE = 0.4  # of a caption's time that coming or going takes at most
_EARLY = 4  # milliseconds by which a change inside an event comes before its frame: event times are whole hundredths
_GROWING, _SHRINKING = 70, 90  # milliseconds in which the spoken word takes its size and gives it back
_AROUND, _TALL, _ROUND = (
    0.12,
    0.92,
    0.14,
)  # of the box on the spoken word: its sides, height and corners, in parts of the letters' size
_UNDERLINE = (0.36, 0.08)  # how far under the middle of the letters, and how thick, in parts of their size


def caption_script(
    captions: Sequence[Caption],
    words: Sequence[PlanWord],
    rate: Rate,
    outlet: Outlet,
    style: CaptionStyle,
    face: Font | None = None,
) -> str:
    """The whole script of some captions; ``face`` is the font where that is a workspace's own."""
    return script(outlet, [caption_lettering(captions, words, rate, outlet, style, face)], rate)


class Said(NamedTuple):
    """A caption or title wherever in the clip it is: its lines, its length in frames, whether the clip begins with it, and
    whether it has the style's entrance."""

    lines: tuple[tuple[Written, ...], ...]
    frames: int
    opens: bool
    comes: bool


@dataclass(frozen=True)
class Lettering:
    """What is written in one style and size: parts from frames on. Titles are over captions."""

    writer: "Writer"
    parts: tuple[tuple[int, Said], ...]
    is_title: bool = False


def caption_lettering(
    captions: Sequence[Caption],
    words: Sequence[PlanWord],
    rate: Rate,
    outlet: Outlet,
    style: CaptionStyle,
    face: Font | None = None,
    times: float = 1.0,
) -> Lettering:
    """The captions of a plan, all in the size in which the widest of them fits, at most so many ``times`` that of the style."""
    said = [_said(n, caption, words, rate, style) for n, caption in enumerate(captions)]
    size = Setting(style, outlet, face).fitting((line for each in said for line in each.lines), times)
    firsts = (caption.first for caption in captions)
    return Lettering(writer(style, outlet, face, size, rate), tuple(zip(firsts, said, strict=True)))


class Shape(NamedTuple):
    """A drawing in a colour from frame ``first`` up to ``last``, its top left at ``x``, ``y``; ``tags`` say what it does."""

    first: int
    last: int
    x: float
    y: float
    colour: str
    opacity: float
    tags: str
    drawing: str

    def line(self, rate: Rate) -> str:
        """The line of the script."""
        how = f"\\pos{notation.at(self.x, self.y)}{notation.tag(self.colour)}{notation.seen(self.opacity)}{self.tags}"
        times = f"{notation.time(self.first, rate)},{notation.time(self.last, rate)}"
        return f"Dialogue: {_SHAPES},{times},Shape,,0,0,0,,{{{how}}}{{\\p1}}{self.drawing}{{\\p0}}\n"


def script(outlet: Outlet, letterings: Sequence[Lettering], rate: Rate, shapes: Iterable[Shape] = ()) -> str:
    """All that is written and drawn over the picture of a clip, as one script."""
    names: dict[Writer, str] = {}
    for each in letterings:
        names.setdefault(each.writer, f"Title {len(names)}" if each.is_title else "Caption")
    # The lines of a long clip are thousands: each written as it is, for the library would take most of an edit's time.
    lines = (
        f"Dialogue: {event.layer + (_TITLES if each.is_title else 0)},{each.writer.time(first + event.first)},"
        f"{each.writer.time(first + event.last)},{'Shape' if event.is_shape else names[each.writer]},,0,0,0,,{event.text}\n"
        for each in letterings
        for first, said in each.parts
        for event in each.writer.events(said)
    )
    return _header(outlet, names) + "".join(shape.line(rate) for shape in shapes) + "".join(lines)


def _said(n: int, caption: Caption, words: Sequence[PlanWord], rate: Rate, style: CaptionStyle) -> Said:
    """A word is the spoken one from the frame in which it begins until the next one does."""
    at = first = caption.first
    lines: list[tuple[Written, ...]] = []
    for line in caption.lines:
        own: list[Written] = []
        for k in line:
            word = words[k]
            if own or lines:
                at = min(max(rate.frame(word.start), at), caption.last)
            lasts = max(round((word.end - word.start) * 1000), 1)
            colour = word.colour or style.colour_of(word.voice, word.key)
            own.append(Written(style.written(word.written), word.size, colour, at - first, lasts))
        lines.append(tuple(own))
    comes = n == 0 or not style.entrance.first_only
    return Said(tuple(lines), caption.last - first, first == 0, comes)


class _Event(NamedTuple):
    """A line of the script: shown from frame ``first`` of its caption up to ``last``."""

    layer: int
    first: int
    last: int
    is_shape: bool
    text: str


@lru_cache(maxsize=64)
def writer(
    style: CaptionStyle, outlet: Outlet, face: Font | None, size: float, rate: Rate, shift: float = 0.0
) -> "Writer":
    """Who writes in a style at a size, in pixels; ``shift`` pixels lower than the style has it."""
    return Writer(style, Setting(style, outlet, face, size, shift), rate)


class Writer:
    """Captions to events, looked up for all but the captions that an edit changes: writing them is what takes longest of
    a plan."""

    def __init__(self, style: CaptionStyle, setting: Setting, rate: Rate) -> None:
        self.style, self.setting = style, setting
        self.events = lru_cache(maxsize=4_000)(lambda said: tuple(_Caption(said, rate, style, setting).events()))
        self.time = lru_cache(maxsize=20_000)(lambda frame: notation.time(frame, rate))


def _header(outlet: Outlet, writers: Mapping[Writer, str]) -> str:
    file = pysubs2.SSAFile()
    size = {"X": str(outlet.width), "Y": str(outlet.height)}
    file.info.update({f"{of}Res{side}": pixels for of in ("Play", "Layout") for side, pixels in size.items()})
    file.info.update({"ScaledBorderAndShadow": "yes", "YCbCr Matrix": "None", "WrapStyle": "2"})
    # A shape needs a font that is there: without one the renderer leaves it out.
    shapes = pysubs2.SSAStyle(
        fontname=FALLBACK.family, outline=0, shadow=0, bold=False, alignment=pysubs2.Alignment.TOP_LEFT
    )
    file.styles = {name: _letters_of(each) for each, name in writers.items()} | {"Shape": shapes}
    for style in file.styles.values():
        style.marginl = style.marginr = style.marginv = 0
    return str(file.to_string("ass"))


def _letters_of(writer: Writer) -> pysubs2.SSAStyle:
    style, setting = writer.style, writer.setting
    return pysubs2.SSAStyle(
        fontname=setting.face.family,
        fontsize=round(setting.size, 1),
        primarycolor=notation.colour(style.colour),
        outlinecolor=notation.colour(style.outline),
        backcolor=notation.colour(style.outline),
        bold=False,
        spacing=round(style.letter_spacing * setting.size, 2),
        outline=round(style.outline_width * setting.scale, 2),
        shadow=round(style.shadow * setting.scale, 2),
        alignment=pysubs2.Alignment.MIDDLE_CENTER,
    )


@dataclass(frozen=True)
class _Caption:
    """One caption on its way to events."""

    said: Said
    rate: Rate
    style: CaptionStyle
    setting: Setting

    @cached_property
    def _how(self) -> str:
        """The way it comes. The first frame of a clip, which many see as a still, has its caption already: it may move
        there, but not be missing."""
        how = self.style.entrance.how if self.said.comes else "none"
        return "none" if self.said.opens and how in ("fade", "typed") else how

    def events(self) -> Iterator[_Event]:
        """What is drawn for it: boxes, what marks the spoken word, letters."""
        lines = self.setting.lines(self.said.lines)
        turn = self._turn(lines)
        yield from self._boxes(lines, turn)
        placed = [word for line in lines for word in line.words]
        marks = [*(each.word.begins for each in placed), self.said.frames]  # from which frame each is the spoken one
        for k, word in enumerate(placed):
            if marks[k + 1] > marks[k]:
                yield from self._spoken(word, marks[k], marks[k + 1], turn)
            yield from self._letters(word, k, len(placed), marks, turn)

    def _letters(self, word: Placed, k: int, count: int, marks: Sequence[int], turn: str) -> Iterator[_Event]:
        spoken = self.style.spoken
        first = marks[k] if spoken.how == "so far" else 0
        if first >= self.said.frames:
            return
        tags = f"\\pos{notation.at(word.x, word.y)}" if first else self._coming(word.x, word.y, scales=True)
        tags += self._own(word)
        text = notation.letters(word.word.text, self.setting.face.file)
        if self._how == "typed" and first == 0:
            text = self._typed(word.word.text, k, count)
        if spoken.how in ("colour", "size") and marks[k + 1] > marks[k]:
            tags += self._marked(marks[k], marks[k + 1], word.word.colour or self.style.colour)
        yield self._event(_LETTERS, first, self.said.frames, False, tags + turn, text)

    def _own(self, word: Placed) -> str:
        """How a word is written other than the style has it."""
        size = f"\\fs{self.setting.size * word.word.size:.1f}" if word.word.size != 1 else ""
        return size + (notation.tag(word.word.colour) if word.word.colour else "")

    def _marked(self, first: int, last: int, colour: str) -> str:
        """The changes of the spoken word's letters from a frame on, and back to its ``colour``."""
        begins, ends = self._after(first), self._after(last)
        spoken, quiet = notation.tag(self.style.spoken.colour), notation.tag(colour)
        tags = f"\\t({begins},{begins},{spoken})" if first else spoken
        back = f"\\t({ends},{ends},{quiet})" if last < self.said.frames else ""
        if self.style.spoken.how == "size":
            large = round(self.style.spoken.scale * 100)
            tags += f"\\t({begins},{begins + _GROWING},\\fscx{large}\\fscy{large})"
            if back:
                back += f"\\t({ends},{ends + _SHRINKING},\\fscx100\\fscy100)"
        return tags + back

    def _spoken(self, word: Placed, first: int, last: int, turn: str) -> Iterator[_Event]:
        """What is drawn for the spoken word besides its letters."""
        how, colour = self.style.spoken.how, notation.tag(self.style.spoken.colour)
        size = word.height
        if how == "box":
            around, high = size * _AROUND, size * _TALL
            yield self._shape(_MARKED, first, last, word.x - word.width / 2 - around, word.y - high / 2,
                              word.width + 2 * around, high, size * _ROUND, colour + turn)  # fmt: skip
        elif how == "underline":
            under, thick = _UNDERLINE
            yield self._shape(_MARKED, first, last, word.x - word.width / 2, word.y + size * under,
                              word.width, size * thick, size * thick / 2, colour + turn)  # fmt: skip
        elif how == "fill":
            left, right = round(word.x - word.width / 2) - 2, round(word.x + word.width / 2) + 2
            top, bottom = round(word.y - size), round(word.y + size)
            clip = f"\\clip({left},{top},{left},{bottom})\\t(0,{word.word.said},\\clip({left},{top},{right},{bottom}))"
            tags = f"\\pos{notation.at(word.x, word.y)}{self._own(word)}{colour}{clip}{turn}"
            text = notation.letters(word.word.text, self.setting.face.file)
            yield self._event(_OVER, first, self.said.frames, False, tags, text)

    def _boxes(self, lines: Sequence[Line], turn: str) -> Iterator[_Event]:
        """What lies behind the letters."""
        box, padding = self.style.box, self.setting.padding
        if box is None:
            return
        tags = f"{notation.tag(box.colour)}{notation.seen(box.opacity)}{turn}"
        own = [(line.left, line.top, line.right, line.bottom) for line in lines]
        begins = [line.words[0].word.begins if self.style.spoken.how == "so far" else 0 for line in lines]
        if box.behind == "whole":
            sides = list(zip(*own, strict=True))
            own, begins = [(min(sides[0]), min(sides[1]), max(sides[2]), max(sides[3]))], begins[:1]
        for first, (left, top, right, bottom) in zip(begins, own, strict=True):
            if first >= self.said.frames:
                return
            yield self._shape(_BEHIND, first, self.said.frames, left - padding, top - padding,
                              right - left + 2 * padding, bottom - top + 2 * padding, box.radius * self.setting.size, tags)  # fmt: skip

    def _shape(
        self,
        layer: int,
        first: int,
        last: int,
        x: float,
        y: float,
        width: float,
        height: float,
        radius: float,
        tags: str,
    ) -> _Event:
        tags += f"\\pos{notation.at(x, y)}" if first else self._coming(x, y)
        return self._event(layer, first, last, True, tags, f"{{\\p1}}{notation.rounded(width, height, radius)}{{\\p0}}")

    def _coming(self, x: float, y: float, scales: bool = False) -> str:
        """Where something of the caption stands from its first frame on, and how it comes and goes."""
        entrance, size = self.style.entrance, self.setting.size
        lasts = round(min(entrance.seconds, self._seconds * _SHORT_SHARE) * 1000)
        how = self._how
        leaving = lasts if entrance.leaves else 0
        coming = lasts if how in ("fade", "rise", "slide") and not self.said.opens else 0
        fade = f"\\fad({coming},{leaving})" if coming or leaving else ""
        if how == "rise":
            return f"\\move({x:.1f},{y + 0.3 * size:.1f},{x:.1f},{y:.1f},0,{lasts}){fade}"
        if how == "slide":
            return f"\\move({x - 1.2 * size:.1f},{y:.1f},{x:.1f},{y:.1f},0,{lasts}){fade}"
        pop = ""
        if how == "pop" and scales:
            most = round(lasts * 0.6)
            pop = f"\\fscx60\\fscy60\\t(0,{most},\\fscx108\\fscy108)\\t({most},{lasts},\\fscx100\\fscy100)"
        return f"\\pos{notation.at(x, y)}{pop}{fade}"

    def _typed(self, word: str, k: int, count: int) -> str:
        """A word whose letters come one after the other."""
        lasts = min(self.style.entrance.seconds, self._seconds * _SHORT_SHARE) * 1000
        text = notation.plain(word)
        begins = [round(lasts * (k + n / max(len(text), 1)) / count) for n in range(len(text))]
        faced = "" if covers(word, self.setting.face.file) else f"{{\\fn{FALLBACK.family}}}"
        return faced + "".join(
            f"{{\\alpha&HFF&\\t({at},{at},\\alpha&H00&)}}{letter}" for at, letter in zip(begins, text, strict=True)
        )

    def _turn(self, lines: Sequence[Line]) -> str:
        if not self.style.turn:
            return ""
        x = (min(line.left for line in lines) + max(line.right for line in lines)) / 2
        y = (lines[0].top + lines[-1].bottom) / 2
        return f"\\org{notation.at(x, y)}\\frz{-self.style.turn:g}"

    @cached_property
    def _seconds(self) -> float:
        return self.rate.seconds(self.said.frames)

    def _after(self, frame: int) -> int:
        """When a frame of the caption is, in milliseconds after its first one."""
        return max(round(self.rate.seconds(frame) * 1000) - _EARLY, 0)

    def _event(self, layer: int, first: int, last: int, is_shape: bool, tags: str, text: str) -> _Event:
        return _Event(layer, first, last, is_shape, f"{{{tags}}}{text}")
