"""SRT and VTT from a plan's captions."""

import pysubs2

from hovvet.core.plan.model import Plan


def subtitles(plan: Plan, kind: str) -> str:
    """The captions of a plan as ``"srt"`` or ``"vtt"`` text, timed to the plan's frames; with its markers as comments, where
    the format has them (VTT)."""
    file = pysubs2.SSAFile()
    for caption in plan.captions:
        lines = (" ".join(plan.words[n].text for n in line) for line in caption.lines)
        event = pysubs2.SSAEvent(
            text=r"\N".join(line.replace("\\", "∖").replace("{", "(").replace("}", ")") for line in lines)
        )
        event.start = round(plan.rate.seconds(caption.first) * 1000)
        event.end = round(plan.rate.seconds(caption.last) * 1000)
        file.events.append(event)
    text = str(file.to_string(kind))
    return _with_notes(text, plan) if kind == "vtt" else text


def _with_notes(text: str, plan: Plan) -> str:
    """Markers as comments of a VTT file, at its head; SRT has none."""
    head, _, rest = text.partition("\n\n")
    notes = []
    for mark in plan.markers:
        at = pysubs2.time.ms_to_str(round(plan.rate.seconds(mark.first) * 1000), fractions=True)
        note = " ".join(mark.note.replace("-->", "→").split())
        notes.append(f"NOTE {at} {note}")
    return "\n\n".join([head, *notes, rest])
