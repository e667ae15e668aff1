"""Which frames of a clip would make a good cover: sharp, with somebody whose eyes are open, not within a crossfade."""

from collections.abc import Callable, Iterator
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from hovvet.core.compile.faces_seen import FaceSeen, faces_in
from hovvet.core.compile.scene import Scene
from hovvet.core.plan.knots import place_at, source_frame
from hovvet.core.plan.model import PictureLayer, Plan, Video
from hovvet.core.render.visible import film_of

Gray = NDArray[np.uint8]
Read = Callable[
    [str, int], Gray | None
]  # the frame of a recording (counted at the plan's rate), in greys; None: not there

OFFERED = 5
_LOOKED_AT = 36  # frames of a clip, at most
_EDGE = 0.15  # seconds at the beginning and end that are left out
_APART = 0.08  # of the clip, between two that are offered
_EYES = (-0.38, 0.02, 0.42)  # of a face's side: above and below its middle, and to either side of it
_FACE, _SHARP, _OPEN = 1.0, 1.0, 1.0  # what counts, each against the best of the clip


class Frame(NamedTuple):
    """A frame that is offered, in seconds of the output, and whether somebody's face is in it."""

    seconds: float
    face: bool


class _Seen(NamedTuple):
    frame: int
    sharp: float
    face: float
    eyes: float


def best_frames(plan: Plan, scene: Scene, read: Read) -> list[Frame]:
    """The best ones, in the order of the clip."""
    seen = list(_looks(plan, scene, read))
    if not seen:
        return []
    most = [max((getattr(each, name) for each in seen), default=0.0) or 1.0 for name in ("sharp", "face", "eyes")]

    def worth(each: _Seen) -> float:
        return _SHARP * each.sharp / most[0] + _FACE * min(each.face / most[1], 1.0) + _OPEN * each.eyes / most[2]

    chosen: list[_Seen] = []
    for each in sorted(seen, key=worth, reverse=True):
        if len(chosen) < OFFERED and all(abs(each.frame - other.frame) > _APART * plan.frames for other in chosen):
            chosen.append(each)
    return [Frame(plan.rate.seconds(each.frame), each.face > 0) for each in sorted(chosen)]


def _looks(plan: Plan, scene: Scene, read: Read) -> Iterator[_Seen]:
    edge = plan.rate.frame(_EDGE)
    count = min(_LOOKED_AT, max(plan.frames - 2 * edge, 1))
    for frame in np.linspace(min(edge, plan.frames - 1), max(plan.frames - 1 - edge, 0), count).astype(int).tolist():
        layer = film_of(plan, frame)
        if layer is None or not isinstance(layer.source, Video) or not layer.crop or not layer.place:
            continue
        picture = read(layer.source.media, source_frame(layer.source.knots, frame))
        source = scene.sources.get(layer.source.media)
        if picture is None or source is None or not source.media.width:
            continue
        scale = picture.shape[1] / source.media.width
        own = layer.crop
        part = picture[
            int(own.y * scale) : int((own.y + own.height) * scale),
            int(own.x * scale) : int((own.x + own.width) * scale),
        ]
        faces = [each for each in faces_in(layer, scene, frame) if _inside(each, plan)]
        largest = max(faces, key=lambda each: each.size, default=None)
        eyes = _eyes(picture, largest, layer, frame, scale) if largest else None
        yield _Seen(
            frame,
            sharpness(part),
            largest.size / plan.width if largest else 0.0,
            sharpness(eyes) if eyes is not None else 0.0,
        )


def _inside(face: FaceSeen, plan: Plan) -> bool:
    half = face.size / 2
    return half <= face.across <= plan.width - half and half <= face.down <= plan.height - half


def _eyes(picture: Gray, face: FaceSeen, layer: PictureLayer, frame: int, scale: float) -> Gray | None:
    """The part of a recording's frame in which the eyes of a face are."""
    assert layer.crop
    place, crop = place_at(layer.place, frame), layer.crop
    back = crop.width / place.width
    x = ((face.across - place.x) * back + crop.x + crop.width / 2) * scale
    y = ((face.down - place.y) * back + crop.y + crop.height / 2) * scale
    side = face.size * back * scale
    top, bottom, beside = (part * side for part in _EYES)
    eyes = picture[max(int(y + top), 0) : int(y + bottom), max(int(x - beside), 0) : int(x + beside)]
    return eyes if min(eyes.shape) > 3 else None


def sharpness(picture: Gray) -> float:
    """How sharp a picture is: the spread of its second differences (the variance of the Laplacian; Pech-Pacheco et al., 2000)."""
    if min(picture.shape) < 3:
        return 0.0
    own = picture.astype(np.float32)
    laplacian = own[:-2, 1:-1] + own[2:, 1:-1] + own[1:-1, :-2] + own[1:-1, 2:] - 4 * own[1:-1, 1:-1]
    return float(laplacian.std())
