"""Where faces are in the output, so that nothing is written over them."""

from collections.abc import Iterator, Sequence

from hovvet.core.compile.scene import Band, Scene
from hovvet.core.picture.faces import Faces, Track
from hovvet.core.plan.knots import place_at, source_frame
from hovvet.core.plan.model import PictureLayer, Video

_EVERY = 0.5  # seconds between two looks, as faces were looked for
_HAIR, _CHIN = 1.0, 0.6  # times the side of a face, from its centre up and down: what nothing is to lie over
_LARGE = 0.08  # of the output's width: a smaller face is one of a crowd, or far away


def faces_seen(base: Sequence[PictureLayer], scene: Scene, first: int, last: int) -> list[Band]:
    """What faces of the base picture take up from top to bottom of the output between two frames, in pixels. What lies over
    the base hides them."""
    step = max(round(_EVERY * scene.timeline.rate.fps), 1)
    found = []
    for frame in range(first, last, step):
        if any(over.first <= frame < over.last for over in scene.picture):
            continue
        shown = (layer for layer in base if layer.first <= frame < layer.last)
        found += [band for layer in shown for band in _in_layer(layer, scene, frame)]
    return found


def _in_layer(layer: PictureLayer, scene: Scene, frame: int) -> Iterator[Band]:
    """The bands of the faces of one layer at a frame."""
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
        size = side * source.media.width * scale
        if size >= _LARGE * scene.outlet.width and 0 <= across <= scene.outlet.width:
            yield down - _HAIR * size, down + _CHIN * size


def _at(faces: Faces, seconds: float) -> Iterator[tuple[float, float, float]]:
    """The faces at a moment of the recording: centre and side, in shares."""
    for track in faces.tracks:
        start, end = faces.span(track)
        if start - _EVERY <= seconds <= end + _EVERY:
            yield _nearest(faces, track, seconds)


def _nearest(faces: Faces, track: Track, seconds: float) -> tuple[float, float, float]:
    looks = range(len(track.x))
    n = min(looks, key=lambda look: abs(faces.times[track.first + look] - seconds))
    return track.x[n], track.y[n], track.side[n]
