"""A level over the whole output: what speakers, ducking and volumes come to, before it is given to layers."""

from collections.abc import Iterable
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from hovvet.core.plan.model import Knot, SoundLayer
from hovvet.core.value import with_changes

_ROUND = 5  # decimals of a factor


@dataclass(frozen=True)
class Curve:
    """Factors at output samples (rising), straight lines between them; as at the first before it, as at the last after it."""

    at: NDArray[np.int64]
    value: NDArray[np.float64]

    def times(self, other: "Curve") -> "Curve":
        """Both at once."""
        if not self.moves:
            return Curve(other.at, other.value * self.value[0])
        if not other.moves:
            return Curve(self.at, self.value * other.value[0])
        at = np.union1d(self.at, other.at)
        return Curve(at, self.over(at) * other.over(at))

    @property
    def moves(self) -> bool:
        """Whether it is anything but one factor all the time."""
        return bool(np.any(self.value != self.value[0]))

    def over(self, at: NDArray[np.int64]) -> NDArray[np.float64]:
        """The factors at some samples."""
        return np.interp(at, self.at, self.value)

    def given_to(self, layer: SoundLayer) -> SoundLayer:
        """A layer at this level: as its gain where that stays the same all through it."""
        first, last = layer.sample, layer.sample + layer.samples
        a, b = np.searchsorted(self.at, (first, last), side="right")
        at = np.concatenate([[first], self.at[a:b][self.at[a:b] < last], [last]])
        value = self.over(at).round(_ROUND)
        if np.all(value == value[0]) and value[0] > 0:
            return with_changes(layer, gain=round(layer.gain + 20 * float(np.log10(value[0])), 2))
        knots = tuple(Knot(at=int(sample - first), value=float(one)) for sample, one in zip(at, value, strict=True))
        return with_changes(layer, level=knots)


FLAT = Curve(np.zeros(1, np.int64), np.ones(1))


def curve(knots: Iterable[tuple[int, float]]) -> Curve:
    """A curve through (sample, factor), none before the one before it; of several at one sample the last counts."""
    made: dict[int, float] = {}
    last = 0
    for at, value in knots:
        last = max(at, last)
        made[last] = value
    return Curve(np.array(list(made), np.int64), np.array(list(made.values()))) if made else FLAT
