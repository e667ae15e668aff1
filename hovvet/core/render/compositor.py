"""Drawing the frames of a plan: layers over one another, in planes of 4:2:0."""

from collections.abc import Mapping
from functools import lru_cache
from typing import Any, TypeVar

import cv2
import numpy as np

from hovvet.core.colour.keying import Left
from hovvet.core.colour.vignette import darkening
from hovvet.core.plan.knots import place_at, source_frame, value_at
from hovvet.core.plan.model import (
    Blur,
    Crop,
    Fill,
    Pictured,
    PictureLayer,
    PlaceKnot,
    Plan,
    Video,
    Vignette,
    Window,
)
from hovvet.core.render.colour import yuv_of
from hovvet.core.render.sources import Original, Plane, Planes, Seen, Sources
from hovvet.core.render.visible import Box, box_of, covers, even, visible
from hovvet.core.value import with_changes

_CHROMA_SIGMA = 0.5  # of the luma's, for planes of half the size


class Frame:
    """A picture of 4:2:0 planes in one buffer, as the encoder takes it."""

    def __init__(self, width: int, height: int) -> None:
        self.buffer = np.zeros((height * 3 // 2, width), np.uint8)
        flat = self.buffer.reshape(-1)
        size, quarter = width * height, width * height // 4
        self.planes: Planes = (
            flat[:size].reshape(height, width),
            flat[size : size + quarter].reshape(height // 2, width // 2),
            flat[size + quarter :].reshape(height // 2, width // 2),
        )


class Compositor:
    """Draws the layers of a plan, frame by frame; forwards is cheap.

    Plans of one rate that are drawn side by side share ``sources``: what both show is decoded once.
    """

    def __init__(self, plan: Plan, originals: Mapping[str, Original], sources: Sources | None = None) -> None:
        self._plan = plan
        self._sources = sources or Sources(plan.rate, originals)
        self._base, self._over = Frame(plan.width, plan.height), Frame(plan.width, plan.height)
        self._drawn: object = None
        self._vignettes: dict[Vignette, tuple[Any, Any]] = {}  # what they leave of the light

    def frame(self, n: int) -> Planes:
        """The picture of output frame ``n``, without its texts. It is drawn over by the next one."""
        shown = visible(self._plan, n)
        state = tuple(self._state(layer, n) for layer in shown)
        if state != self._drawn:
            self._drawn = None
            if not shown or not covers(self._plan, shown[0], n):
                _fill(self._base.planes, self._plan.ground)
            for layer in shown:
                self._lay(layer, n)
            self._drawn = state
        return self._base.planes

    def close(self) -> None:
        """Let go of all files."""
        self._sources.close()

    def _state(self, layer: PictureLayer, n: int) -> object:
        what = tuple(source_frame(each.knots, n) for each in layer.shown if isinstance(each, Video))
        moving = len(layer.place) > 1 or len(layer.opacity) > 0
        where = (place_at(layer.place, n), value_at(layer.opacity, n)) if moving and layer.place else ()
        return id(layer), what, where, value_at(layer.opacity, n)

    def _lay(self, layer: PictureLayer, n: int) -> None:
        opacity = value_at(layer.opacity, n)
        base = self._base.planes
        if isinstance(layer.source, Fill) and opacity >= 1 and layer.window is None:
            _fill(base, layer.source.colour)
            return
        if layer.is_clear and layer.window is None:
            self._stick(layer, n, (0, 0), opacity, base)
            return
        if opacity >= 1:
            self._draw(layer, n, base)
            self._darken(layer, base)
        else:
            target = self._over.planes
            if layer.backdrop is None:
                for plane, own in zip(target, base, strict=True):
                    np.copyto(plane, own)
            self._draw(layer, n, target)
            self._darken(layer, target)
            _blend(base, target, opacity)

    def _stick(self, layer: PictureLayer, n: int, corner: tuple[int, int], opacity: float, target: Planes) -> None:
        """Draw what may be seen through on the part of the output whose top left is at ``corner``."""
        assert layer.crop
        crop, place, seen = layer.crop, _place(layer, n, corner), _seen(layer, n)
        if len(layer.place) == 1 and not place.turn:
            box = box_of(place, crop)
            _through(target, _mirrored(self._sources.clear(seen, box[2], box[3]), layer), box, opacity)
            return
        # It is made as large as it gets, once; each frame is then drawn from that.
        width = max(even(max(knot.width for knot in layer.place)), 2)
        height = max(even(width * crop.height / crop.width), 2)
        radius = float(np.hypot(place.width, place.width * height / width)) / 2
        x0, x1 = (even(place.x + side * (radius + 1)) for side in (-1, 1))
        y0, y1 = (even(place.y + side * (radius + 1)) for side in (-1, 1))
        largest = _mirrored(self._sources.clear(seen, width, height), layer)
        drawn = []
        for k, plane in enumerate(largest):
            part = 1 if k in (0, 3) else 2
            canvas = np.zeros(((y1 - y0) // part, (x1 - x0) // part), np.uint8)
            own = with_changes(place, x=place.x - x0, y=place.y - y0)
            _warp(canvas, plane, own, Crop(x=0, y=0, width=width, height=height), part, alone=True)
            drawn.append(canvas)
        _through(target, Left(*drawn), (x0, y0, x1 - x0, y1 - y0), opacity)

    def _darken(self, layer: PictureLayer, target: Planes) -> None:
        """The corners of the output, as a layer has them."""
        vignette = layer.vignette
        if vignette is None:
            return
        if vignette not in self._vignettes:
            full = darkening(self._plan.width, self._plan.height, vignette.begin, vignette.dark)
            self._vignettes[vignette] = full, cv2.resize(full, None, fx=0.5, fy=0.5, interpolation=cv2.INTER_AREA)
        full, half = self._vignettes[vignette]
        for k, plane in enumerate(target):
            black = 128 if k else 16
            left = half if k else full
            made = cv2.multiply(plane, left, dtype=cv2.CV_32F) + (1 - left) * black
            np.copyto(plane, (made + 0.5).astype(np.uint8))

    def _draw(self, layer: PictureLayer, n: int, target: Planes) -> None:
        """Draw a layer at full strength, and what is behind it."""
        window = layer.window
        if window is None:
            self._show(layer, n, target, (0, 0), layer.backdrop is not None)
            return
        if layer.backdrop is not None:
            self._backdrop(layer, n, target, None)
        inside = _part(target, window)
        if not window.radius:
            self._show(layer, n, inside, (window.x, window.y), False)
            return
        drawn: Planes = tuple(plane.copy() for plane in inside)  # type: ignore[assignment]
        self._show(layer, n, drawn, (window.x, window.y), False)
        for k, (plane, own) in enumerate(zip(inside, drawn, strict=True)):
            mask = _rounded(plane.shape[1], plane.shape[0], window.radius / (1 if k == 0 else 2))
            made = plane + (own.astype(np.float32) - plane) * mask
            np.copyto(plane, (made + 0.5).astype(np.uint8))

    def _show(self, layer: PictureLayer, n: int, target: Planes, corner: tuple[int, int], behind: bool) -> None:
        """Draw a layer on the part of the output whose top left is at ``corner``; ``behind``, its backdrop too."""
        if isinstance(layer.source, Fill):
            _fill(target, layer.source.colour)
            return
        if layer.is_clear:
            self._stick(layer, n, corner, 1.0, target)
            return
        assert layer.crop
        crop, place, seen = layer.crop, _place(layer, n, corner), _seen(layer, n)
        box = box_of(place, crop)
        if len(layer.place) > 1 or place.turn != 0:
            if behind:
                self._backdrop(layer, n, target, None)
            source = _mirrored(self._sources.cropped(seen), layer)
            way = _slide if _slides(layer.place) else _warp
            for k, (plane, own) in enumerate(zip(target, source, strict=True)):
                way(plane, own, place, crop, 1 if k == 0 else 2)
            return
        picture = self._sources.scaled(seen, box[2], box[3])
        if behind:
            self._backdrop(layer, n, target, (picture, crop, box))
        _put(target, _mirrored(picture, layer), box)

    def _backdrop(
        self,
        layer: PictureLayer,
        n: int,
        target: Planes,
        front: "tuple[Planes, Crop, Box] | None",
    ) -> None:
        """Draw what is behind a layer; what ``front`` covers may be left as it is."""
        backdrop = layer.backdrop
        if backdrop is None:
            return
        if not isinstance(backdrop, Blur):
            _fill(target, backdrop.colour)
            if isinstance(backdrop, Pictured):
                still = Seen(backdrop.media, None, backdrop.crop)
                _blend(target, self._sources.scaled(still, self._plan.width, self._plan.height), backdrop.strength)
            return
        if front is not None and front[1].x <= backdrop.crop.x and front[1].y <= backdrop.crop.y:
            own = _inside(front[0], front[1], backdrop.crop)  # the smaller picture is there already
        else:
            own = self._sources.cropped(_seen(layer, n)._replace(crop=backdrop.crop, sharpening=None))
        for k, (plane, source) in enumerate(zip(target, _mirrored(own, layer), strict=True)):
            part = 1 if k == 0 else 2
            size = (backdrop.width // part, backdrop.height // part)
            small = cv2.resize(source, size, interpolation=cv2.INTER_AREA)
            sigma = backdrop.sigma * (1 if k == 0 else _CHROMA_SIGMA)
            kernel = 2 * int(2 * sigma + 0.5) + 1
            soft = cv2.GaussianBlur(small, (kernel, kernel), sigma, borderType=cv2.BORDER_REPLICATE)
            _enlarge(plane, soft, front[2] if front else None, part)


def _seen(layer: PictureLayer, n: int) -> Seen:
    """What of its source a layer shows at a frame."""
    assert not isinstance(layer.source, Fill) and layer.crop
    frame, behind = (
        source_frame(each.knots, n) if isinstance(each, Video) else None for each in (*layer.shown, None)[:2]
    )
    return Seen(layer.source.media, frame, layer.crop, layer.look, layer.sharpening, layer.keyed, behind)


def _place(layer: PictureLayer, n: int, corner: tuple[int, int]) -> PlaceKnot:
    """Where a layer stands at a frame, counted from a ``corner`` of the output."""
    place = place_at(layer.place, n)
    return with_changes(place, x=place.x - corner[0], y=place.y - corner[1]) if any(corner) else place


_Planes = TypeVar("_Planes", Planes, Left)


def _mirrored(planes: _Planes, layer: PictureLayer) -> _Planes:
    """What is shown, left for right where the layer has it so."""
    if not layer.mirrored:
        return planes
    made: list[Plane] = [cv2.flip(plane, 1) for plane in planes]
    return Left(*made) if isinstance(planes, Left) else tuple(made)  # type: ignore[return-value]


def _part(planes: Planes, window: Window) -> Planes:
    """What of the planes is inside a window; their own memory."""
    return tuple(  # type: ignore[return-value]
        plane[
            window.y // part : (window.y + window.height) // part, window.x // part : (window.x + window.width) // part
        ]
        for plane, part in zip(planes, (1, 2, 2), strict=True)
    )


@lru_cache(maxsize=16)
def _rounded(width: int, height: int, radius: float) -> Plane:
    """How much of each pixel is inside a rectangle with round corners, 0 to 1: shape (height, width)."""
    x = np.abs(np.arange(width) + 0.5 - width / 2) - (width / 2 - radius)
    y = np.abs(np.arange(height) + 0.5 - height / 2) - (height / 2 - radius)
    far = np.hypot(np.maximum(x, 0)[None, :], np.maximum(y, 0)[:, None])
    mask: Plane = np.clip(radius + 0.5 - far, 0, 1).astype(np.float32)
    return mask


def _fill(planes: Planes, colour: str) -> None:
    for plane, value in zip(planes, yuv_of(colour), strict=True):
        plane[:] = value


def _blend(base: Planes, over: Planes, opacity: float) -> None:
    for below, above in zip(base, over, strict=True):
        cv2.addWeighted(above, opacity, below, 1 - opacity, 0, dst=below)


def _put(target: Planes, picture: Planes, box: Box) -> None:
    """Copy a picture to its box, as far as that is inside."""
    for k, (plane, own) in enumerate(zip(target, picture, strict=True)):
        part = 1 if k == 0 else 2
        x, y = box[0] // part, box[1] // part
        height, width = own.shape
        x0, y0, x1, y1 = max(x, 0), max(y, 0), min(x + width, plane.shape[1]), min(y + height, plane.shape[0])
        if x0 < x1 and y0 < y1:
            plane[y0:y1, x0:x1] = own[y0 - y : y1 - y, x0 - x : x1 - x]


def _through(target: Planes, picture: Left, box: Box, opacity: float) -> None:
    """Lay a picture on its box, as far as that is inside, so that what is behind it is seen through it."""
    for k, plane in enumerate(target):
        own, covers = picture[k], picture[3 if k == 0 else 4]
        part = 1 if k == 0 else 2
        x, y = box[0] // part, box[1] // part
        height, width = own.shape
        x0, y0, x1, y1 = max(x, 0), max(y, 0), min(x + width, plane.shape[1]), min(y + height, plane.shape[0])
        if x0 < x1 and y0 < y1:
            seen = slice(y0 - y, y1 - y), slice(x0 - x, x1 - x)
            behind = plane[y0:y1, x0:x1]
            left = 1 - covers[seen] * np.float32(opacity / 255)
            made = behind * left + own[seen] * np.float32(opacity)
            np.copyto(behind, (made + np.float32(0.5)).astype(np.uint8))


def _inside(picture: Planes, whole: Crop, part: Crop) -> Planes:
    """Of a scaled picture of ``whole`` the part that shows ``part``."""
    made = []
    for plane in picture:
        fx, fy = plane.shape[1] / whole.width, plane.shape[0] / whole.height
        x0, y0 = round((part.x - whole.x) * fx), round((part.y - whole.y) * fy)
        made.append(plane[y0 : y0 + max(round(part.height * fy), 1), x0 : x0 + max(round(part.width * fx), 1)])
    return made[0], made[1], made[2]


def _enlarge(plane: Plane, small: Plane, front: Box | None, part: int) -> None:
    """Enlarge a small picture to the whole plane; where the front covers its full width, only above and below it."""
    height, width = plane.shape
    times = height // small.shape[0]
    if front is None or front[0] > 0 or front[0] + front[2] < width * part or times * small.shape[0] < height:
        cv2.resize(small, (width, height), dst=plane, interpolation=cv2.INTER_LINEAR)
        return
    # Whole lines of the small picture become whole bands, with one more line than is seen to lean on.
    above, below = front[1] // part, height - (front[1] + front[3]) // part
    if above > 0:
        lines = min(-(-above // times) + 1, small.shape[0])
        plane[:above] = cv2.resize(small[:lines], (width, lines * times), interpolation=cv2.INTER_LINEAR)[:above]
    if below > 0:
        lines = min(-(-below // times) + 1, small.shape[0])
        plane[-below:] = cv2.resize(small[-lines:], (width, lines * times), interpolation=cv2.INTER_LINEAR)[-below:]


@lru_cache(maxsize=64)
def _slides(places: tuple[PlaceKnot, ...]) -> bool:
    """Whether a layer moves and does nothing else."""
    return len({(place.width, place.turn) for place in places}) == 1 and places[0].turn == 0


def _slide(plane: Plane, source: Plane, place: PlaceKnot, crop: Crop, part: int) -> None:
    """Draw a source plane at a place of one size, to a fraction of a pixel: what is seen of it is cut out there and then
    enlarged, which takes a third of the time that ``_warp`` does."""
    scale = place.width / crop.width
    high = crop.height * scale
    x0, x1 = (round((place.x + side * place.width / 2) / part) for side in (-1, 1))
    y0, y1 = (round((place.y + side * high / 2) / part) for side in (-1, 1))
    x0, y0, x1, y1 = max(x0, 0), max(y0, 0), min(x1, plane.shape[1]), min(y1, plane.shape[0])
    if x0 >= x1 or y0 >= y1:
        return
    size = max(round((x1 - x0) / scale), 1), max(round((y1 - y0) / scale), 1)
    # Centres of pixels: the first one is at half a pixel of its own.
    x = ((x0 + x1) / 2 - place.x / part) / scale + crop.width / 2 / part - 0.5
    y = ((y0 + y1) / 2 - place.y / part) / scale + crop.height / 2 / part - 0.5
    seen = cv2.getRectSubPix(source, size, (x, y))
    how = cv2.INTER_LINEAR if scale >= 1 else cv2.INTER_AREA
    plane[y0:y1, x0:x1] = cv2.resize(seen, (x1 - x0, y1 - y0), interpolation=how)


def _warp(plane: Plane, source: Plane, place: PlaceKnot, crop: Crop, part: int, alone: bool = False) -> None:
    """Draw a source plane at a place of any size and turn, to a fraction of a pixel; what is around it stays, or is
    0 where it stands ``alone``."""
    scale = place.width / crop.width
    turn = np.deg2rad(place.turn)
    cos, sin = float(np.cos(turn)) * scale, float(np.sin(turn)) * scale
    # Centres of pixels: a plane of half the size has its first centre at half a pixel of its own.
    cx, cy = crop.width / 2 / part - 0.5, crop.height / 2 / part - 0.5
    x, y = place.x / part - 0.5, place.y / part - 0.5
    matrix = np.array([[cos, -sin, x - cos * cx + sin * cy], [sin, cos, y - sin * cx - cos * cy]])
    size = (plane.shape[1], plane.shape[0])
    around = cv2.BORDER_CONSTANT if alone else cv2.BORDER_TRANSPARENT
    cv2.warpAffine(source, matrix, size, dst=plane, flags=cv2.INTER_LINEAR, borderMode=around)
