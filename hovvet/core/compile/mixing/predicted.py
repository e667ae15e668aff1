"""How loud a mix comes to, by what was measured of the sounds in it, without listening to it."""

from collections.abc import Iterable, Mapping, Sequence

import numpy as np
from numpy.typing import NDArray

from hovvet.core.compile.source import Source
from hovvet.core.plan.model import Prepared, SoundLayer
from hovvet.core.sound.energy import STEP, Energy, integrated, lufs
from hovvet.core.time import SAMPLE_RATE

Floats = NDArray[np.float64]
CURVE_STEP = 0.5  # seconds
SILENCE = -70.0  # LUFS: what is told of nothing
_CLOSE = 0.01  # LU: a master that comes so near is found
_TRIES = 12
_MOST_OVER = 6.0  # dB that a master goes beyond what it would be without a limiter


class Predicted:
    """The sum of the layers of a mix: of each 10 ms of the output its power and highest sample. Sounds of different sources
    add up as powers. ``prepared`` says what the sounds are of that are made beforehand."""

    def __init__(
        self, layers: Iterable[SoundLayer], prepared: Sequence[Prepared], sources: Mapping[str, Source], samples: int
    ) -> None:
        count = -(-samples // STEP)
        self._power, self._peak = np.zeros(count), np.zeros(count)  # of the peaks: squares
        self.complete = True  # whether of all that is heard it is known how loud it is
        made = {each.media: each for each in prepared}
        for layer in layers:
            of = made.get(layer.media)
            source = sources.get(of.recording if of else layer.media)
            if source is None or source.energy is None:
                self.complete = False
                continue
            self._add(layer, of, source.energy, count)

    def _add(self, layer: SoundLayer, made: Prepared | None, energy: Energy, count: int) -> None:
        first, last = max(layer.sample // STEP, 0), min(-(-(layer.sample + layer.samples) // STEP), count)
        if first >= last or not len(energy.power):
            return
        at: Floats = (
            np.arange(first, last, dtype=np.float64) + 0.5
        ) * STEP - layer.sample  # the middle of each step, in samples of the layer
        source = at + layer.source_sample
        if made:
            source = np.interp(source, [knot for knot, _ in made.knots], [sample for _, sample in made.knots])
        place = np.clip(source / STEP - 0.5, 0, len(energy.power) - 1)
        low = int(place[0])
        high = min(int(place[-1]) + 2, len(energy.power))
        power = np.interp(place, np.arange(low, high), energy.power[low:high])
        peak = energy.peak[low:high][np.minimum((place + 0.5).astype(np.int64) - low, high - low - 1)]
        factor = factors(layer, at) ** 2
        self._power[first:last] += power * factor
        self._peak[first:last] += peak.astype(np.float64) ** 2 * factor

    @property
    def power(self) -> Floats:
        """Of each 10 ms, before the master."""
        return self._power

    def loudness(self, master: float, ceiling: float) -> float | None:
        """LUFS that it comes to with ``master`` dB on the sum and a limiter that keeps it under ``ceiling`` dBTP; None for
        silence."""
        return integrated(self._power * (10 ** (master / 20) * self._limited(master, ceiling)) ** 2)

    def over_time(self, master: float, ceiling: float) -> list[float]:
        """LUFS of each stretch of ``CURVE_STEP`` seconds, the last may be shorter; ``SILENCE`` for silence."""
        power = self._power * (10 ** (master / 20) * self._limited(master, ceiling)) ** 2
        firsts = np.arange(0, len(power), round(CURVE_STEP * SAMPLE_RATE / STEP))
        sums = np.add.reduceat(power, firsts) if len(power) else np.zeros(0)
        means = sums / np.diff(firsts, append=len(power))
        return [round(max(each, SILENCE), 1) for each in lufs(means).tolist()]

    def _limited(self, master: float, ceiling: float) -> Floats:
        """The factors that a limiter has in the middle: what a step needs, and those beside it a part of that."""
        need = np.minimum(1.0, 10 ** ((ceiling - master) / 20) / np.maximum(np.sqrt(self._peak), 1e-9))
        around = np.pad(need, 1, constant_values=1.0)
        gain: Floats = (around[:-2] + 2 * need + around[2:]) / 4
        return np.minimum(gain, need)

    def master(self, wanted: float, ceiling: float) -> float:
        """dB on the sum that bring it to ``wanted`` LUFS; 0 for silence."""
        came_to = self.loudness(0.0, np.inf)
        if came_to is None:
            return 0.0
        plain = found = wanted - came_to
        for _ in range(_TRIES):
            now = self.loudness(found, ceiling)
            assert now is not None
            if abs(wanted - now) <= _CLOSE:
                break
            found = min(found + wanted - now, plain + _MOST_OVER)
        return round(found, 2)


def factors(layer: SoundLayer, at: Floats) -> Floats:
    """By how much a layer is louder or softer at some of its samples: its gain, its level and its fades."""
    factor = np.full(len(at), 10 ** (layer.gain / 20))
    if layer.level:
        factor *= np.interp(at, [knot.at for knot in layer.level], [knot.value for knot in layer.level])
    if layer.fade_in:
        factor *= np.sin(np.pi / 2 * np.clip(at / layer.fade_in, 0, 1))
    if layer.fade_out:
        factor *= np.sin(np.pi / 2 * np.clip((layer.samples - at) / layer.fade_out, 0, 1))
    return factor
