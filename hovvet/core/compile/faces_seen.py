"""Where faces are in the output, so that nothing is written over them."""

from bisect import bisect_left
from collections import defaultdict
from collections.abc import Iterator, Sequence
from typing import NamedTuple

from hovvet.core.compile.scene import Band, Scene
from hovvet.core.picture.faces import Faces, Track
from hovvet.core.plan.knots import place_at, source_frame
from hovvet.core.plan.model import PictureLayer, Video

_EVERY = 0.5  # seconds between two looks, as faces were looked for
_HAIR, _CHIN = 1.0, 0.6  # times the side of a face, from its centre up and down: what nothing is to lie over
_LARGE = 0.08  # of the output's width: a smaller face is one of a crowd, or far away
_STRETCH = 256  # frames: by these layers are found


class FacesSeen:
    """The faces of the base picture in the output. What lies over the base hides them."""

    def __init__(self, base: Sequence[PictureLayer], scene: Scene) -> None:
        self._scene = scene
        self._step = max(round(_EVERY * scene.timeline.rate.fps), 1)
        self._looks: dict[int, list[Band]] = {}
        known = any(source.faces and source.faces.tracks for source in scene.sources.values())
        self._base, self._over = (_by_stretch(layers if known else ()) for layers in (base, scene.picture))

    def between(self, first: int, last: int) -> list[Band]:
        """What faces take up from top to bottom of the output between two frames, in pixels, one after the other."""
        if not self._base:
            return []
        looks = range(first - first % self._step, last, self._step)
        return [band for frame in looks for band in self._at(max(frame, first), frame)]

    def _at(self, frame: int, look: int) -> list[Band]:
        """Those of a frame; one look serves all that ask for what is near it."""
        if frame != look:
            return self._seen(frame)
        if look not in self._looks:
            self._looks[look] = self._seen(look)
        return self._looks[look]

    def _seen(self, frame: int) -> list[Band]:
        if any(over.first <= frame < over.last for over in self._over[frame // _STRETCH]):
            return []
        shown = (layer for layer in self._base[frame // _STRETCH] if layer.first <= frame < layer.last)
        return [band for layer in shown for band in _in_layer(layer, self._scene, frame)]


def _by_stretch(layers: Sequence[PictureLayer]) -> defaultdict[int, list[PictureLayer]]:
    """Layers by the stretches of frames in which they are seen."""
    found: defaultdict[int, list[PictureLayer]] = defaultdict(list)
    for layer in layers:
        for n in range(layer.first // _STRETCH, (layer.last - 1) // _STRETCH + 1):
            found[n].append(layer)
    return found


class FaceSeen(NamedTuple):
    """A face in the output: its middle, and the side of it, in pixels."""

    across: float
    down: float
    size: float


def faces_in(layer: PictureLayer, scene: Scene, frame: int) -> Iterator[FaceSeen]:
    """The faces of one layer at a frame, also those that are outside of the output."""
    video = layer.source
    if not isinstance(video, Video) or not layer.crop or not layer.place or layer.place[0].turn:
        return
    source = scene.sources.get(video.media)
    if source is None or source.faces is None or not source.media.width:
        return
    at = source_frame(video.knots, frame) / scene.timeline.rate.fps
    place, crop = place_at(layer.place, frame), layer.crop
    scale = place.width / crop.width
    for x, y, side in _at(source.faces, at):
        across = place.x + (x * source.media.width - crop.x - crop.width / 2) * scale
        down = place.y + (y * source.media.height - crop.y - crop.height / 2) * scale
        yield FaceSeen(across, down, side * source.media.width * scale)


def _in_layer(layer: PictureLayer, scene: Scene, frame: int) -> Iterator[Band]:
    """The bands of the faces of one layer at a frame."""
    for across, down, size in faces_in(layer, scene, frame):
        if size >= _LARGE * scene.outlet.width and 0 <= across <= scene.outlet.width:
            yield down - _HAIR * size, down + _CHIN * size


def _at(faces: Faces, seconds: float) -> Iterator[tuple[float, float, float]]:
    """The faces at a moment of the recording: centre and side, in shares."""
    for track in faces.tracks:
        start, end = faces.span(track)
        if start - _EVERY <= seconds <= end + _EVERY:
            yield _nearest(faces, track, seconds)


def _nearest(faces: Faces, track: Track, seconds: float) -> tuple[float, float, float]:
    after = min(max(bisect_left(faces.times, seconds) - track.first, 0), len(track.x) - 1)
    n = min((max(after - 1, 0), after), key=lambda look: abs(faces.times[track.first + look] - seconds))
    return track.x[n], track.y[n], track.side[n]
