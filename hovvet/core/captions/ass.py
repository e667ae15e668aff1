"""Captions as an ASS script, the one form both preview and export draw."""

from collections.abc import Iterator, Sequence
from functools import lru_cache

import pysubs2

from hovvet.core.captions.metrics import covers, width
from hovvet.core.captions.style import FALLBACK_FAMILY, FALLBACK_FILE, CaptionStyle
from hovvet.core.plan.model import Caption, PlanWord
from hovvet.core.plan.outlets import Outlet
from hovvet.core.time import EPSILON, Rate


def caption_script(
    captions: Sequence[Caption], words: Sequence[PlanWord], rate: Rate, outlet: Outlet, style: CaptionStyle
) -> str:
    """The whole script. Each caption is drawn once for each of its words, with that word marked."""
    script = pysubs2.SSAFile()
    script.info.update(
        {
            "PlayResX": str(outlet.width),
            "PlayResY": str(outlet.height),
            "LayoutResX": str(outlet.width),
            "LayoutResY": str(outlet.height),
            "ScaledBorderAndShadow": "yes",
            "YCbCr Matrix": "None",
            "WrapStyle": "2",
        }
    )
    scale = min(outlet.width, outlet.height) / 1080
    left, _, right, bottom = outlet.safe
    room = outlet.width - left - right - 2 * style.outline_width * scale
    size = fitting_size(captions, words, style, scale, room)
    script.styles = {
        "Caption": pysubs2.SSAStyle(
            fontname=style.family,
            fontsize=round(size, 1),
            primarycolor=_colour(style.colour),
            outlinecolor=_colour(style.outline),
            backcolor=_colour(style.outline),
            bold=False,
            outline=round(style.outline_width * scale, 2),
            shadow=round(style.shadow * scale, 2),
            alignment=pysubs2.Alignment.BOTTOM_CENTER,
            marginl=left,
            marginr=right,
            marginv=bottom,
        )
    }
    # The lines of a long clip are thousands: each written as it is, for the library would take most of an edit's time.
    lines = (line for caption in captions for line in _lines(caption, words, rate, style))
    return script.to_string("ass") + "".join(lines)


def fitting_size(
    captions: Sequence[Caption], words: Sequence[PlanWord], style: CaptionStyle, scale: float, room: float
) -> float:
    """One size for the whole clip at which its widest line fits into ``room`` pixels, within the style's limits."""
    size = style.size * scale
    widest = 0.0
    for caption in captions:
        for line in caption.lines:
            widest = max(widest, sum(_width(words[n].text, style) for n in line) + _width(" ", style) * (len(line) - 1))
    if widest * size > room:
        size = room / widest
    return max(size, style.smallest * scale)


def _width(text: str, style: CaptionStyle) -> float:
    """Width of a text at size 1."""
    return width(text, style.file if covers(text, style.file) else FALLBACK_FILE, 1.0)


def _lines(caption: Caption, words: Sequence[PlanWord], rate: Rate, style: CaptionStyle) -> Iterator[str]:
    """The events of a caption: one for each word, from the frame in which that begins until the next one begins."""
    positions = [n for line in caption.lines for n in line]
    marks = [caption.first]
    for n in positions[1:]:
        marks.append(min(max(rate.frame(words[n].start), marks[-1]), caption.last))
    marks.append(caption.last)
    times = [_time(mark, rate) for mark in marks]
    plain = [[_word(words[n].text, False, style) for n in line] for line in caption.lines]
    k = 0
    for line in plain:
        for at, quiet in enumerate(line):
            if marks[k + 1] > marks[k]:
                line[at] = _word(words[positions[k]].text, True, style)
                text = r"\N".join(" ".join(each) for each in plain)
                yield f"Dialogue: 0,{times[k]},{times[k + 1]},Caption,,0,0,0,,{text}\n"
                line[at] = quiet
            k += 1


def _time(frame: int, rate: Rate) -> str:
    """When a frame begins, in the hours to hundredths of a second that ASS knows, never after the frame itself."""
    hundredths = int(rate.seconds(frame) * 100 + EPSILON)
    minutes, hundredths = divmod(hundredths, 6000)
    return f"{minutes // 60}:{minutes % 60:02}:{hundredths // 100:02}.{hundredths % 100:02}"


@lru_cache(maxsize=50_000)
def _word(text: str, spoken: bool, style: CaptionStyle) -> str:
    text = _plain(text)
    if not covers(text, style.file):
        text = rf"{{\fn{FALLBACK_FAMILY}}}{text}{{\fn{style.family}}}"
    if spoken:
        text = rf"{{\c{_tag(style.spoken)}}}{text}{{\c{_tag(style.colour)}}}"
    return text


def _plain(text: str) -> str:
    """Text that cannot be taken for a tag or a line break."""
    return text.replace("\\", "∖").replace("{", "(").replace("}", ")").replace("\n", " ")


def _rgb(colour: str) -> tuple[int, int, int]:
    return int(colour[1:3], 16), int(colour[3:5], 16), int(colour[5:7], 16)


def _colour(colour: str) -> pysubs2.Color:
    return pysubs2.Color(*_rgb(colour))


def _tag(colour: str) -> str:
    r, g, b = _rgb(colour)
    return f"&H{b:02X}{g:02X}{r:02X}&"
