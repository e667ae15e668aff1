"""The fades at the ends of the clip, in the plan."""

from hovvet.core.compile.contents.base import Placement
from hovvet.core.compile.picture import filled
from hovvet.core.compile.scene import Laid, Scene
from hovvet.core.plan.model import Knot
from hovvet.core.sheet.contents.fades import Fades


class FadesPlacement(Placement[Fades]):
    """Holds for the whole clip, whatever it lies over. The speech fades with it (``compile/speech``)."""

    def place(self, laid: Laid[Fades], scene: Scene) -> None:
        """The colour that the clip begins from and ends in, over all else."""
        ends, rate, frames = laid.content, scene.timeline.rate, scene.timeline.frames
        if scene.of(Fades)[-1] is not laid:
            return
        rise, fall = (min(rate.frame(each), frames // 2) for each in (ends.fade_in, ends.fade_out))
        if rise:
            scene.last.append(filled(0, rise, ends.colour, (Knot(at=0, value=1.0), Knot(at=rise, value=0.0))))
        if fall:
            knots = (Knot(at=frames - fall, value=0.0), Knot(at=frames - 1, value=1.0))
            scene.last.append(filled(frames - fall, frames, ends.colour, knots))
