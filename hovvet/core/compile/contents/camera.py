"""Cameras in the plan."""

from hovvet.core.compile.angles import MAIN
from hovvet.core.compile.contents.base import Placement
from hovvet.core.compile.scene import Laid, Scene
from hovvet.core.sheet.contents.camera import Camera

_GONE = "This talk has no camera {}. Bring it in on the desk of the recording, under Cameras, or choose another one."


class CameraPlacement(Placement[Camera]):
    """Holds for the base picture (``compile/picture.py``)."""

    def note(self, laid: Laid[Camera], scene: Scene) -> str:
        """Which camera is not there."""
        wanted = {laid.content.camera} | ({laid.content.second} if laid.content.arrange != "alone" else set())
        missing = sorted(number for number in wanted - {MAIN} if not has_angle(laid, scene, number))
        return _GONE.format(missing[0]) if missing else ""


def has_angle(laid: Laid[Camera], scene: Scene, number: int) -> bool:
    """Whether some talk under a layer has a camera or microphone of this number."""
    spots = scene.places.spots[laid.reach.begin : laid.reach.end + 1]
    talks = {spot.piece.recording for spot in spots if spot.piece.recording in scene.sources}
    return any(scene.sources[talk].angle(number) for talk in talks if talk)
