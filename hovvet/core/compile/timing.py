"""What changes how time passes in a recording: stretches at another speed, frames that are held."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

KNOT_FRAMES = 5  # of the output between two knots of a time map: straight lines that are a frame off nowhere
_FINE = 0.005  # seconds between the moments at which a changing speed is summed up


@dataclass(frozen=True)
class Pace:
    """From ``start`` to ``end`` seconds of a recording at ``rate`` times its speed, reached and left over ``ramp`` seconds."""

    start: float
    end: float
    rate: float
    ramp: float
    muted: bool

    def speed(self, seconds: NDArray[np.float64]) -> NDArray[np.float64]:
        """The speed at moments of the recording: eased (3 t^2 - 2 t^3) from 1 to ``rate`` and back."""
        ramp = min(self.ramp, (self.end - self.start) / 2)
        if ramp <= 0:
            return np.full(len(seconds), self.rate)
        part = np.clip(np.minimum(seconds - self.start, self.end - seconds) / ramp, 0, 1)
        return 1 + (self.rate - 1) * part**2 * (3 - 2 * part)

    def lasts(self, start: float, end: float) -> float:
        """How many seconds of the output a part of it takes."""
        return float(self._passed(start, end)[1][-1])

    def knots(self, start: float, end: float, frames: int) -> tuple[tuple[int, float], ...]:
        """(frame, seconds of the recording) every few frames, so that the part takes exactly ``frames`` frames."""
        moments, passed = self._passed(start, end)
        at = sorted({*range(0, frames, KNOT_FRAMES), frames})
        seconds = np.interp(np.array(at) * passed[-1] / frames, passed, moments)
        return tuple(zip(at, map(float, seconds), strict=True))

    def _passed(self, start: float, end: float) -> tuple[NDArray[np.float64], NDArray[np.float64]]:
        """Moments of the recording, and the output seconds that have passed by then."""
        moments = np.linspace(start, end, max(int((end - start) / _FINE), 1) + 1)
        slow = 1 / self.speed((moments[:-1] + moments[1:]) / 2)
        return moments, np.concatenate(([0.0], np.cumsum(slow * np.diff(moments))))


@dataclass(frozen=True)
class Stop:
    """At ``at`` seconds of a recording its frame is held for ``seconds``, in silence or with the sound of the room."""

    at: float
    seconds: float
    room: bool


@dataclass(frozen=True)
class Timing:
    """What changes time in one piece."""

    piece: str
    what: Pace | Stop
