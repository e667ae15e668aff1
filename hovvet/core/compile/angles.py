"""Other cameras and microphones of a talk, and what of them is seen at which moment."""

from dataclasses import dataclass
from functools import lru_cache

from hovvet.core.compile.same import Same
from hovvet.core.time import EPSILON
from hovvet.core.value import with_changes
from hovvet.core.words.transcript import Transcript

MAIN = 1  # the camera that the recording itself is
MOST = 4  # cameras of one talk
LONGEST_NUDGE = 5.0  # seconds by which a person may move one from where it was found to belong
FARTHEST = 4 * 3600.0  # seconds by which one may begin before or after the talk


@dataclass(frozen=True)
class Angle:
    """Another camera or microphone of a talk, ``number`` 2 and up. Second ``t`` of ``media`` is second ``offset + (1 + drift) * t`` of
    the recording."""

    number: int
    name: str
    media: str
    offset: float
    drift: float = 0.0

    def at(self, seconds: float) -> float:
        """The second of it at a second of the recording."""
        return (seconds - self.offset) / (1 + self.drift)

    def span(self, duration: float) -> tuple[float, float]:
        """From which to which second of the recording it was running, when it is so many seconds long itself."""
        return self.offset, self.offset + (1 + self.drift) * duration

    def covers(self, start: float, end: float, duration: float) -> bool:
        """Whether it was running all the time from one second of the recording to another."""
        begins, ends = self.span(duration)
        return start >= begins - EPSILON and end <= ends + EPSILON


def said_in(transcript: Transcript, angle: Angle, duration: float) -> Transcript:
    """What is said while a camera was running, on its own clock; it is so many seconds long."""
    return _said_in(Same(transcript), angle, duration)


@lru_cache(maxsize=32)
def _said_in(transcript: Same, angle: Angle, duration: float) -> Transcript:
    """Kept: in a long recording it takes longer than an edit."""
    said: Transcript = transcript.value
    words = tuple(
        with_changes(word, start=start, end=end)
        for word in said.words
        if (start := round(angle.at(word.start), 3)) >= 0 and start < (end := round(angle.at(word.end), 3)) <= duration
    )
    return with_changes(said, words=words, duration=duration)
