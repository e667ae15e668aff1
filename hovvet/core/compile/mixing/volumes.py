"""What a person made louder, softer or mute over some words."""

from hovvet.core.compile.mixing.curve import FLAT, Curve, curve
from hovvet.core.compile.scene import Scene
from hovvet.core.sheet.contents.base import SILENT
from hovvet.core.sheet.contents.volume import Of, Volume
from hovvet.core.time import to_samples

_EDGE = 480  # samples over which it comes and goes, at least


def volumes(scene: Scene, of: Of) -> Curve:
    """The level of some of what is heard."""
    level, sample = FLAT, scene.timeline.rate.sample
    for laid in scene.of(Volume):
        if laid.content.of in (of, "all"):
            db = laid.content.volume
            factor = 10 ** (db / 20) if db > SILENT else 0.0
            first, last = sample(laid.first), sample(laid.last)
            rise, fall = (max(to_samples(edge), _EDGE) for edge in (laid.content.fade_in, laid.content.fade_out))
            share = min((last - first) / (rise + fall), 1.0)  # of both, where there is no room for them
            there, back = first + round(rise * share), last - round(fall * share)
            begins = [(first, 1.0), (there, factor)] if first or laid.content.fade_in else [(0, factor)]
            level = level.times(curve([*begins, (max(back, there), factor), (last, 1.0)]))
    return level
