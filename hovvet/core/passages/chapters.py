"""Where the chapters of a recording could begin: the person names them."""

from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field, FiniteFloat

from hovvet.core.passages.features import Features

MOST = 200  # chapters of a recording
_USUAL = 150.0  # seconds of a chapter, about
_SHORTEST = 45.0  # seconds between two beginnings
_CHANGES = 0.45  # how much the subject has to change at least
_PAUSE, _OPENS = 0.15, 0.2  # what a second of pause, and words that open a subject, add to that


class Chapter(BaseModel):
    """It goes from ``start``, in seconds of the recording, to the next one."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    start: Annotated[FiniteFloat, Field(ge=0)]
    title: Annotated[str, Field(min_length=1, max_length=120)]


def chapter_times(of: Features, duration: float) -> list[float]:
    """When chapters of a recording of so many seconds could begin, in order, the first with the first word: where the subject
    changes most."""
    said = of.sentences
    if not said:
        return []
    changes = {
        n: float(of.depth[n]) + _PAUSE * min(said[n].before, 2.0) + _OPENS * ("opens a subject" in of.signs[n])
        for n in range(1, len(said))
        if of.depth[n] >= _CHANGES
    }
    times = [said[0].start]
    most = max(round(duration / _USUAL), 1)
    for n in sorted(changes, key=lambda n: -changes[n]):
        if len(times) == most:
            break
        if all(abs(said[n].start - at) >= _SHORTEST for at in times) and duration - said[n].start >= _SHORTEST:
            times.append(said[n].start)
    return sorted(times)
