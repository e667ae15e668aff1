"""Captions as an ASS script, the one form both preview and export draw.

Every word is an event of its own at its own place, so that one can be marked, grow or move without the others; what lies
behind and under words is drawn as shapes.
"""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from functools import cached_property, lru_cache

import pysubs2

from hovvet.core.captions.fonts import FALLBACK, Font
from hovvet.core.captions.metrics import covers
from hovvet.core.captions.setting import Line, Placed, Setting
from hovvet.core.captions.style import CaptionStyle
from hovvet.core.plan.model import Caption, PlanWord
from hovvet.core.plan.outlets import Outlet
from hovvet.core.time import EPSILON, Rate

_BEHIND, _MARKED, _LETTERS, _OVER = range(4)  # layers of events
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
    """The whole script; ``face`` is the font where that is a workspace's own."""
    setting = Setting(style, outlet, captions, words, face)
    # The lines of a long clip are thousands: each written as it is, for the library would take most of an edit's time.
    lines = (
        line
        for n, caption in enumerate(captions)
        for line in _Caption(
            caption, words, rate, style, setting, comes=n == 0 or not style.entrance.first_only
        ).events()
    )
    return _header(outlet, style, setting) + "".join(lines)


def _header(outlet: Outlet, style: CaptionStyle, setting: Setting) -> str:
    script = pysubs2.SSAFile()
    size = {"X": str(outlet.width), "Y": str(outlet.height)}
    script.info.update({f"{of}Res{side}": pixels for of in ("Play", "Layout") for side, pixels in size.items()})
    script.info.update({"ScaledBorderAndShadow": "yes", "YCbCr Matrix": "None", "WrapStyle": "2"})
    # A shape needs a font that is there: without one the renderer leaves it out.
    shapes = pysubs2.SSAStyle(
        fontname=FALLBACK.family, outline=0, shadow=0, bold=False, alignment=pysubs2.Alignment.TOP_LEFT
    )
    letters = pysubs2.SSAStyle(
        fontname=setting.face.family,
        fontsize=round(setting.size, 1),
        primarycolor=_colour(style.colour),
        outlinecolor=_colour(style.outline),
        backcolor=_colour(style.outline),
        bold=False,
        spacing=round(style.spacing * setting.size, 2),
        outline=round(style.outline_width * setting.scale, 2),
        shadow=round(style.shadow * setting.scale, 2),
        alignment=pysubs2.Alignment.MIDDLE_CENTER,
    )
    for each in (shapes, letters):
        each.marginl = each.marginr = each.marginv = 0
    script.styles = {"Caption": letters, "Shape": shapes}
    return str(script.to_string("ass"))


@dataclass(frozen=True)
class _Caption:
    """One caption on its way to events. ``comes``: it has the style's entrance."""

    caption: Caption
    words: Sequence[PlanWord]
    rate: Rate
    style: CaptionStyle
    setting: Setting
    comes: bool

    @cached_property
    def _how(self) -> str:
        """The way it comes. The first frame of a clip, which many see as a still, has its caption already: it may move
        there, but not be missing."""
        how = self.style.entrance.how if self.comes else "none"
        return "none" if self.caption.first == 0 and how in ("fade", "typed") else how

    def events(self) -> Iterator[str]:
        lines = self.setting.lines(self.caption)
        marks = self._marks()
        turn = self._turn(lines)
        yield from self._boxes(lines, turn)
        words = [word for line in lines for word in line.words]
        for k, word in enumerate(words):
            if marks[k + 1] > marks[k]:
                yield from self._spoken(word, marks[k], marks[k + 1], turn)
            yield from self._letters(word, k, len(words), marks, turn)

    def _marks(self) -> list[int]:
        """The frames from which each word is the spoken one, and the last frame: from the frame in which it begins until
        the next one begins."""
        marks = [self.caption.first]
        for n in [n for line in self.caption.lines for n in line][1:]:
            marks.append(min(max(self.rate.frame(self.words[n].start), marks[-1]), self.caption.last))
        return [*marks, self.caption.last]

    def _letters(self, word: Placed, k: int, count: int, marks: Sequence[int], turn: str) -> Iterator[str]:
        spoken = self.style.spoken
        first = marks[k] if spoken.how == "so far" else self.caption.first
        if first >= self.caption.last:
            return
        tags = (
            self._coming(word.x, word.y, scales=True) if first == self.caption.first else f"\\pos{_at(word.x, word.y)}"
        )
        tags += self._own(word)
        text = _letters(word.text, self.setting.face.file)
        if self._how == "typed" and first == self.caption.first:
            text = self._typed(word, k, count)
        if spoken.how in ("colour", "size") and marks[k + 1] > marks[k]:
            tags += self._marked(marks[k], marks[k + 1], self.words[word.word].colour or self.style.colour)
        yield self._event(_LETTERS, first, self.caption.last, "Caption", tags + turn, text)

    def _own(self, word: Placed) -> str:
        """How a word is written other than the style has it."""
        own = self.words[word.word]
        size = f"\\fs{self.setting.size * own.size:.1f}" if own.size != 1 else ""
        return size + (_tag(own.colour) if own.colour else "")

    def _marked(self, first: int, last: int, colour: str) -> str:
        """The changes of the spoken word's letters from a frame on, and back to its ``colour``."""
        begins, ends = self._after(first), self._after(last)
        spoken, quiet = _tag(self.style.spoken.colour), _tag(colour)
        tags = spoken if first == self.caption.first else f"\\t({begins},{begins},{spoken})"
        back = f"\\t({ends},{ends},{quiet})" if last < self.caption.last else ""
        if self.style.spoken.how == "size":
            large = round(self.style.spoken.scale * 100)
            tags += f"\\t({begins},{begins + _GROWING},\\fscx{large}\\fscy{large})"
            if back:
                back += f"\\t({ends},{ends + _SHRINKING},\\fscx100\\fscy100)"
        return tags + back

    def _spoken(self, word: Placed, first: int, last: int, turn: str) -> Iterator[str]:
        """What is drawn for the spoken word besides its letters."""
        how, colour = self.style.spoken.how, _tag(self.style.spoken.colour)
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
            lasts = max(round((self.words[word.word].end - self.words[word.word].start) * 1000), 1)
            clip = f"\\clip({left},{top},{left},{bottom})\\t(0,{lasts},\\clip({left},{top},{right},{bottom}))"
            tags = f"\\pos{_at(word.x, word.y)}{self._own(word)}{colour}{clip}{turn}"
            yield self._event(
                _OVER, first, self.caption.last, "Caption", tags, _letters(word.text, self.setting.face.file)
            )

    def _boxes(self, lines: Sequence[Line], turn: str) -> Iterator[str]:
        """What lies behind the letters."""
        box, padding = self.style.box, self.setting.padding
        if box is None:
            return
        tags = f"{_tag(box.colour)}\\1a&H{round(255 * (1 - box.opacity)):02X}&{turn}"
        own = [(line.left, line.top, line.right, line.bottom) for line in lines]
        if box.behind == "whole":
            sides = list(zip(*own, strict=True))
            own = [(min(sides[0]), min(sides[1]), max(sides[2]), max(sides[3]))]
        for left, top, right, bottom in own:
            yield self._shape(_BEHIND, self.caption.first, self.caption.last, left - padding, top - padding,
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
    ) -> str:
        tags += self._coming(x, y) if first == self.caption.first else f"\\pos{_at(x, y)}"
        return self._event(layer, first, last, "Shape", tags, f"{{\\p1}}{_rounded(width, height, radius)}{{\\p0}}")

    def _coming(self, x: float, y: float, scales: bool = False) -> str:
        """Where something of the caption stands from its first frame on, and how it comes and goes."""
        entrance, size = self.style.entrance, self.setting.size
        lasts = round(min(entrance.seconds, self._seconds * _SHORT_SHARE) * 1000)
        how = self._how
        leaving = lasts if entrance.leaves else 0
        coming = lasts if how in ("fade", "rise", "slide") and self.caption.first else 0
        fade = f"\\fad({coming},{leaving})" if coming or leaving else ""
        if how == "rise":
            return f"\\move({x:.1f},{y + 0.3 * size:.1f},{x:.1f},{y:.1f},0,{lasts}){fade}"
        if how == "slide":
            return f"\\move({x - 1.2 * size:.1f},{y:.1f},{x:.1f},{y:.1f},0,{lasts}){fade}"
        pop = ""
        if how == "pop" and scales:
            most = round(lasts * 0.6)
            pop = f"\\fscx60\\fscy60\\t(0,{most},\\fscx108\\fscy108)\\t({most},{lasts},\\fscx100\\fscy100)"
        return f"\\pos{_at(x, y)}{pop}{fade}"

    def _typed(self, word: Placed, k: int, count: int) -> str:
        """A word whose letters come one after the other."""
        lasts = min(self.style.entrance.seconds, self._seconds * _SHORT_SHARE) * 1000
        text = _plain(word.text)
        begins = [round(lasts * (k + n / max(len(text), 1)) / count) for n in range(len(text))]
        faced = "" if covers(word.text, self.setting.face.file) else f"{{\\fn{FALLBACK.family}}}"
        return faced + "".join(
            f"{{\\alpha&HFF&\\t({at},{at},\\alpha&H00&)}}{letter}" for at, letter in zip(begins, text, strict=True)
        )

    def _turn(self, lines: Sequence[Line]) -> str:
        if not self.style.turn:
            return ""
        x = (min(line.left for line in lines) + max(line.right for line in lines)) / 2
        y = (lines[0].top + lines[-1].bottom) / 2
        return f"\\org{_at(x, y)}\\frz{-self.style.turn:g}"

    @cached_property
    def _whole(self) -> str:
        """When it begins and ends."""
        return f"{_time(self.caption.first, self.rate)},{_time(self.caption.last, self.rate)}"

    @cached_property
    def _seconds(self) -> float:
        return self.rate.seconds(self.caption.last - self.caption.first)

    def _after(self, frame: int) -> int:
        """When a frame is, in milliseconds after the caption's first one."""
        return max(round(self.rate.seconds(frame - self.caption.first) * 1000) - _EARLY, 0)

    def _event(self, layer: int, first: int, last: int, style: str, tags: str, text: str) -> str:
        is_whole = first == self.caption.first and last == self.caption.last
        times = self._whole if is_whole else f"{_time(first, self.rate)},{_time(last, self.rate)}"
        return f"Dialogue: {layer},{times},{style},,0,0,0,,{{{tags}}}{text}\n"


def _at(x: float, y: float) -> str:
    return f"({x:.1f},{y:.1f})"


def _rounded(width: float, height: float, radius: float) -> str:
    """A rectangle with round corners as a drawing, from its top left corner."""
    w, h = round(width), round(height)
    r = round(min(radius, width / 2, height / 2))
    k = round(r * 0.45)  # how far from a corner the handles of a quarter circle stand
    return (
        f"m {r} 0 l {w - r} 0 b {w - k} 0 {w} {k} {w} {r} l {w} {h - r} b {w} {h - k} {w - k} {h} {w - r} {h} "
        f"l {r} {h} b {k} {h} 0 {h - k} 0 {h - r} l 0 {r} b 0 {k} {k} 0 {r} 0"
    )


def _time(frame: int, rate: Rate) -> str:
    """When a frame begins, in the hours to hundredths of a second that ASS knows, never after the frame itself."""
    hundredths = int(rate.seconds(frame) * 100 + EPSILON)
    minutes, hundredths = divmod(hundredths, 6000)
    return f"{minutes // 60}:{minutes % 60:02}:{hundredths // 100:02}.{hundredths % 100:02}"


@lru_cache(maxsize=50_000)
def _letters(text: str, file: str) -> str:
    """A word, in the fallback font where a style's own lacks a letter."""
    faced = "" if covers(text, file) else rf"{{\fn{FALLBACK.family}}}"
    return faced + _plain(text)


def _plain(text: str) -> str:
    """Text that cannot be taken for a tag or a line break."""
    return text.replace("\\", "∖").replace("{", "(").replace("}", ")").replace("\n", " ")


def _rgb(colour: str) -> tuple[int, int, int]:
    return int(colour[1:3], 16), int(colour[3:5], 16), int(colour[5:7], 16)


def _colour(colour: str) -> pysubs2.Color:
    return pysubs2.Color(*_rgb(colour))


@lru_cache(maxsize=256)
def _tag(colour: str) -> str:
    r, g, b = _rgb(colour)
    return f"\\c&H{b:02X}{g:02X}{r:02X}&"
