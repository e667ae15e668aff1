"""What a person made louder, softer or mute over some words."""

from hovvet.core.compile.mixing.curve import FLAT, Curve, curve
from hovvet.core.compile.scene import Scene
from hovvet.core.sheet.contents.base import SILENT
from hovvet.core.sheet.contents.volume import Of, Volume

_EDGE = 480  # samples over which it comes and goes


def volumes(scene: Scene, of: Of) -> Curve:
    """The level of some of what is heard."""
    level, sample = FLAT, scene.timeline.rate.sample
    for laid in scene.of(Volume):
        if laid.content.of in (of, "all"):
            db = laid.content.volume
            factor = 10 ** (db / 20) if db > SILENT else 0.0
            first, last = sample(laid.first), sample(laid.last)
            begins = [(first, 1.0), (first + _EDGE, factor)] if first else [(0, factor)]
            level = level.times(curve([*begins, (max(last - _EDGE, first + _EDGE), factor), (last, 1.0)]))
    return level
