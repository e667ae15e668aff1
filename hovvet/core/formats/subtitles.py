"""SRT and VTT from a plan's captions."""

import pysubs2

from hovvet.core.plan.model import Plan


def subtitles(plan: Plan, kind: str) -> str:
    """The captions of a plan as ``"srt"`` or ``"vtt"`` text, timed to the plan's frames."""
    file = pysubs2.SSAFile()
    for caption in plan.captions:
        lines = (" ".join(plan.words[n].text for n in line) for line in caption.lines)
        event = pysubs2.SSAEvent(
            text=r"\N".join(line.replace("\\", "∖").replace("{", "(").replace("}", ")") for line in lines)
        )
        event.start = round(plan.rate.seconds(caption.first) * 1000)
        event.end = round(plan.rate.seconds(caption.last) * 1000)
        file.events.append(event)
    return file.to_string(kind)
