"""Time: seconds of a source, whole frames and whole samples of the output, and the ways between them.

Seconds of a source are floats. Output is counted: frames at an exact fraction of a second, samples at 48 kHz. A time
becomes a count in one place only, here, so that all grids round alike; rounded times are never added up.
"""

from fractions import Fraction
from math import ceil, floor
from typing import NewType

from pydantic import BaseModel, ConfigDict, Field

Frames = NewType("Frames", int)  # of the output, or of a source resampled to its rate
Samples = NewType("Samples", int)  # of the output, or of a source resampled to its rate

SAMPLE_RATE = 48_000  # of all output sound
EPSILON = 1e-6  # seconds: two times nearer than this are the same

_USUAL = tuple(Fraction(n, d) for n, d in ((24000, 1001), (24, 1), (25, 1), (30000, 1001), (30, 1)))


class Rate(BaseModel):
    """Frames per second as ``num / den``."""

    model_config = ConfigDict(frozen=True)

    num: int = Field(default=30, gt=0)
    den: int = Field(default=1, gt=0)

    @property
    def fps(self) -> float:
        """Frames per second."""
        return self.num / self.den

    def frame(self, seconds: float) -> Frames:
        """The whole frame nearest to a time in seconds; halves, to within EPSILON, go up, so every grid rounds alike."""
        return Frames(int(seconds * self.num / self.den + 0.5 + EPSILON))

    def frame_from(self, seconds: float) -> Frames:
        """The first whole frame that begins at or after a time in seconds."""
        return Frames(ceil(seconds * self.num / self.den - EPSILON))

    def frame_at(self, seconds: float) -> Frames:
        """The frame that is seen at a time in seconds."""
        return Frames(floor(seconds * self.num / self.den + EPSILON))

    def sample(self, frame: int) -> Samples:
        """The whole sample nearest to the beginning of a frame: exact, so that frames and samples cannot drift apart."""
        return Samples((2 * frame * SAMPLE_RATE * self.den + self.num) // (2 * self.num))

    def seconds(self, frame: int) -> float:
        """When a frame begins, in seconds."""
        return frame * self.den / self.num


def to_samples(seconds: float) -> Samples:
    """The whole sample nearest to a time in seconds; halves go up."""
    return Samples(int(seconds * SAMPLE_RATE + 0.5))


def to_seconds(samples: int) -> float:
    """When a sample begins, in seconds."""
    return samples / SAMPLE_RATE


def output_rate(source: float) -> Rate:
    """The rate to work in for a source of ``source`` frames per second (0 when it has no picture).

    A usual rate of up to 30 is kept; twice a usual rate is halved; anything else becomes 30.
    """
    for candidate in (source, source / 2):
        for usual in _USUAL:
            if abs(candidate - usual) < 0.004:
                return Rate(num=usual.numerator, den=usual.denominator)
    return Rate()


def clock(seconds: float) -> str:
    """A time as people read it: 4:02, or 1:04:02 from an hour on."""
    minutes, left = divmod(int(seconds), 60)
    return f"{minutes // 60}:{minutes % 60:02}:{left:02}" if minutes >= 60 else f"{minutes}:{left:02}"
