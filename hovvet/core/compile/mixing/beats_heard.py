"""When the beats of a clip's music are heard."""

from collections.abc import Iterable, Mapping, Sequence

import numpy as np

from hovvet.core.compile.source import Source
from hovvet.core.plan.model import Prepared, SoundLayer
from hovvet.core.time import SAMPLE_RATE

_SAME = 0.06  # seconds: where music goes round, a beat is heard in both


def beats_heard(
    layers: Iterable[SoundLayer], prepared: Sequence[Prepared], sources: Mapping[str, Source]
) -> tuple[float, ...]:
    """Seconds of the output at which beats of its music are, in order."""
    made = {each.media: each for each in prepared}
    found: list[float] = []
    for layer in layers:
        of = made.get(layer.media)
        source = sources.get(of.recording if of else layer.media)
        if layer.bus != "music" or source is None or source.beats is None:
            continue
        at = np.array(source.beats.times) * SAMPLE_RATE
        if of:
            outs, ins = zip(*of.knots, strict=True)
            at = np.interp(at, ins, outs, left=-1, right=-1)
        at = at[(at >= layer.source_sample) & (at < layer.source_sample + layer.samples)]
        found += ((at - layer.source_sample + layer.sample) / SAMPLE_RATE).tolist()
    apart: list[float] = []
    for each in sorted(found):
        if not apart or each - apart[-1] > _SAME:
            apart.append(round(each, 3))
    return tuple(apart)
