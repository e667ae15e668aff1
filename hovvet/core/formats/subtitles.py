"""A plan's captions as files: SRT, VTT, ASS, TXT."""

from html import escape
from typing import Literal

import pysubs2

from hovvet.core.plan.model import Caption, Plan

SubtitleKind = Literal["srt", "vtt", "ass", "txt"]
SUBTITLE_TYPES: dict[SubtitleKind, str] = {
    "srt": "application/x-subrip",
    "vtt": "text/vtt",
    "ass": "text/x-ssa",
    "txt": "text/plain",
}
SUBTITLES = {"srt": "SRT", "vtt": "VTT", "ass": "ASS", "txt": "TXT"}  # by what they are called


def subtitles(plan: Plan, kind: str) -> str | None:
    """The captions of a plan as ``"srt"``, ``"vtt"``, ``"ass"`` or ``"txt"``, timed to the plan's frames.

    VTT has a time for each word, and the plan's markers as comments; ASS is what is drawn on the picture, with its style,
    and None where the picture is plain. TXT has a caption a line.
    """
    match kind:
        case "srt":
            return _srt(plan)
        case "vtt":
            return _vtt(plan)
        case "ass":
            return plan.script
        case "txt":
            return "".join(f"{' '.join(_texts(plan, caption))}\n" for caption in plan.captions)
    raise ValueError(f"no such kind: {kind}")


def _texts(plan: Plan, caption: Caption) -> list[str]:
    return [" ".join(plan.words[n].written for n in line) for line in caption.lines]


def _srt(plan: Plan) -> str:
    file = pysubs2.SSAFile()
    for caption in plan.captions:
        lines = (line.replace("\\", "∖").replace("{", "(").replace("}", ")") for line in _texts(plan, caption))
        event = pysubs2.SSAEvent(text=r"\N".join(lines))
        event.start = round(plan.rate.seconds(caption.first) * 1000)
        event.end = round(plan.rate.seconds(caption.last) * 1000)
        file.events.append(event)
    return str(file.to_string("srt"))


def _vtt(plan: Plan) -> str:
    """WebVTT, written here: the library knows no times inside a cue."""
    blocks = ["WEBVTT"]
    for mark in plan.markers:
        note = " ".join(mark.note.replace("-->", "→").split())
        blocks.append(f"NOTE {_clock(plan.rate.seconds(mark.first))} {note}")
    for caption in plan.captions:
        begins, ends = (plan.rate.seconds(frame) for frame in (caption.first, caption.last))
        lines = [" ".join(_timed(plan, n, begins, ends) for n in line) for line in caption.lines]
        blocks.append("\n".join([f"{_clock(begins)} --> {_clock(ends)}", *lines]))
    return "\n\n".join(blocks) + "\n"


def _timed(plan: Plan, n: int, begins: float, ends: float) -> str:
    """A word with the time at which it is said, where that is inside its caption."""
    word = plan.words[n]
    text = escape(word.written, quote=False).replace("\n", " ")
    return f"<{_clock(word.start)}>{text}" if begins + 0.001 <= word.start < ends else text


def _clock(seconds: float) -> str:
    milliseconds = round(seconds * 1000)
    minutes, milliseconds = divmod(milliseconds, 60_000)
    return f"{minutes // 60:02}:{minutes % 60:02}:{milliseconds // 1000:02}.{milliseconds % 1000:03}"
