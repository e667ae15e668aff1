"""Framing in the plan."""

from hovvet.core.compile.contents.base import Placement
from hovvet.core.compile.scene import Laid, Scene
from hovvet.core.sheet.contents.framing import Framing

_GONE = "What it stood over was deleted, or is still being prepared: choose another one, or none."
_ALONE = "There are not two faces at once in this picture, so both parts show the same one."
_LOOKING = "Faces have not been looked for to the end yet. Until they are, it fills from the middle."
_NOBODY = "No face was found in the picture, so it fills from the middle. Choose “Fill” to set what stays in view."


class FramingPlacement(Placement[Framing]):
    """Holds for the base picture of its frames (``compile/picture``)."""

    def note(self, laid: Laid[Framing], scene: Scene) -> str:
        """Where no speaker can be kept in view, or what it stands over is gone."""
        if laid.content.has_picture and laid.content.picture not in {*scene.pictures, *scene.sources}:
            return _GONE
        if not laid.content.follows_faces:
            return ""
        places = scene.places.spots[laid.reach.begin : laid.reach.end + 1]
        shown = dict.fromkeys(spot.piece.recording for spot in places if spot.piece.recording is not None)
        seen = [scene.sources[key] for key in shown if key in scene.sources and scene.sources[key].media.has_picture]
        if any(source.faces is None for source in seen):
            return _LOOKING
        if any(source.faces and not source.faces.tracks for source in seen):
            return _NOBODY
        alone = laid.content.mode == "two" and any(source.faces and not source.faces.together for source in seen)
        return _ALONE if alone else ""
