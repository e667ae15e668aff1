"""Frame rates as exact fractions."""

from fractions import Fraction

from pydantic import BaseModel, ConfigDict, Field

SAMPLE_RATE = 48_000  # of all output sound

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

    def frame(self, seconds: float) -> int:
        """The whole frame nearest to a time in seconds; halves go up, so every grid rounds alike."""
        return int(seconds * self.num / self.den + 0.5)

    def seconds(self, frame: int) -> float:
        """When a frame begins, in seconds."""
        return frame * self.den / self.num


def output_rate(source: float) -> Rate:
    """The rate to work in for a source of ``source`` frames per second (0 when it has no picture).

    A usual rate of up to 30 is kept; twice a usual rate is halved; anything else becomes 30.
    """
    for candidate in (source, source / 2):
        for usual in _USUAL:
            if abs(candidate - usual) < 0.004:
                return Rate(num=usual.numerator, den=usual.denominator)
    return Rate()
