"""What plans are drawn from: their files, decoded, at the sizes and in the colours they are shown in."""

from collections import OrderedDict
from collections.abc import Callable, Mapping
from dataclasses import dataclass
from pathlib import Path
from typing import Any, NamedTuple, TypeVar

import cv2
import numpy as np
from av import VideoFrame
from av.video.reformatter import ColorRange, Colorspace
from numpy.typing import NDArray
from PIL import Image

from hovvet.core.colour.grade import Grade
from hovvet.core.colour.keying import Left, laid_over, taken_out
from hovvet.core.colour.lut import regraded
from hovvet.core.colour.sharpening import sharpened
from hovvet.core.media.frames import Picker
from hovvet.core.media.info import MediaInfo
from hovvet.core.media.process import MediaError
from hovvet.core.plan.model import GROUND, Crop, Fill, Keyed, Sharpening, Video
from hovvet.core.render.colour import yuv_of
from hovvet.core.render.visible import even
from hovvet.core.time import Rate

Plane = NDArray[Any]  # of uint8
Planes = tuple[Plane, Plane, Plane]
_PICKERS = 2  # decoders for one file: both sides of a crossfade may show it
_STILLS = 6  # decoded frames that are kept: what stands still beside what moves is not sought anew for each frame
_WHOLE = 2  # still pictures that are kept as they are: what moves is read once
_SOFT = 2.0  # pixels: a blur that is wider is made of a smaller picture
_PICTURES = 8  # still pictures that are kept at a size: they would be read anew for each frame
_SHOWN = 6  # pictures at their size that are kept: plans drawn side by side show the same


@dataclass(frozen=True)
class Original:
    """The file a recording was brought in as. ``digest`` tells its bytes from others."""

    path: Path
    media: MediaInfo
    digest: str = ""


class Seen(NamedTuple):
    """A part of a frame (of a still: None) of a medium, and how it is seen; ``behind`` is the frame of what is in the place of a screen."""

    media: str
    frame: int | None
    crop: Crop
    look: Grade | None = None
    sharpening: Sharpening | None = None
    keyed: Keyed | None = None
    behind: int | None = None

    @property
    def is_still(self) -> bool:
        """Whether it is the same whenever it is seen."""
        return self.frame is None and self.behind is None


class Sources:
    """The files of plans, decoded. What was shown last is kept: it is not made anew for the next plan."""

    def __init__(self, rate: Rate, originals: Mapping[str, Original]) -> None:
        self._rate, self._originals = rate, originals
        self._pickers: dict[str, list[Picker]] = {}
        self._decoded: OrderedDict[tuple[str, int], Any] = OrderedDict()
        self._shown: OrderedDict[object, Planes] = OrderedDict()
        self._whole: OrderedDict[object, Image.Image] = OrderedDict()
        self._stills: OrderedDict[object, Planes] = OrderedDict()
        self._clear: OrderedDict[object, Left] = OrderedDict()

    def close(self) -> None:
        """Let go of all files."""
        for pickers in self._pickers.values():
            for picker in pickers:
                picker.close()

    def scaled(self, seen: Seen, width: int, height: int) -> Planes:
        """What is seen of a medium at a size."""

        def make() -> Planes:
            keyed = seen.keyed
            if keyed is None:
                return self._finished(self._sized(seen.media, seen.frame, seen.crop, width, height), width, seen)
            # Taken out where there are fewer pixels: enlarged ones tell nothing more.
            if (width, height) != (least := _least(seen.crop, width, height)):
                return _resized(self.scaled(seen, *least), width, height)
            left, behind = self._left(seen, keyed, width, height), self._ground(seen, keyed, width, height)
            return self._finished(laid_over(left, behind), width, seen)

        most = _PICTURES if seen.is_still else _SHOWN
        return _remembered(self._stills if seen.is_still else self._shown, (seen, width, height), most, make)

    def cropped(self, seen: Seen) -> Planes:
        """What is seen of a medium at the size that it has."""
        return self.scaled(seen, seen.crop.width, seen.crop.height)

    def clear(self, seen: Seen, width: int, height: int) -> Left:
        """What may be seen through at a size, and how much it covers of what is behind it (0 to 255)."""

        def make() -> Left:
            if seen.keyed is not None:
                if (width, height) != (least := _least(seen.crop, width, height)):
                    return _resized(self.clear(seen, *least), width, height)
                return self._coloured(self._left(seen, seen.keyed, width, height), seen)
            pixels = self._pixels(seen.media, seen.crop, width, height).convert("RGBA")
            before_black = Image.new("RGB", pixels.size)
            before_black.paste(pixels, mask=pixels)
            covers: Plane = np.ascontiguousarray(np.asarray(pixels.getchannel("A")))
            half: Plane = cv2.resize(covers, (width // 2, height // 2), interpolation=cv2.INTER_AREA)
            y, u, v = _planes_of(before_black)
            # In limited range black is 16, 128, 128: what is not covered has none of it.
            return Left(_less(y, 16, covers), _less(u, 128, half), _less(v, 128, half), covers, half)

        return _remembered(self._clear, (seen, width, height), _PICTURES, make)

    def _left(self, seen: Seen, keyed: Keyed, width: int, height: int) -> Left:
        """What stands before a screen."""
        planes, screen, crop = self._sized(seen.media, seen.frame, seen.crop, width, height), keyed.screen, seen.crop
        whole = self.size(seen.media)
        edges = (
            (screen.left * whole[0] - crop.x) * width / crop.width,
            (screen.top * whole[1] - crop.y) * height / crop.height,
            (screen.right * whole[0] - crop.x) * width / crop.width,
            (screen.bottom * whole[1] - crop.y) * height / crop.height,
        )
        x0, y0, x1, y1 = (max(even(each), 0) for each in edges)
        return taken_out(planes, screen, (x0, y0, x1, y1))

    def _coloured(self, left: Left, seen: Seen) -> Left:
        """What stands before a screen in the colours of a look: those it would have by itself."""
        if seen.look is None:
            return left
        covers = (left.covers, left.covers_half, left.covers_half)
        alone: list[Plane] = [cv2.divide(own, part, scale=255) for own, part in zip(left[:3], covers, strict=True)]
        made = regraded((alone[0], alone[1], alone[2]), seen.look, self._table(seen.look))
        light, blue, red = (cv2.multiply(own, part, scale=1 / 255) for own, part in zip(made, covers, strict=True))
        return Left(light, blue, red, left.covers, left.covers_half)

    def _ground(self, seen: Seen, keyed: Keyed, width: int, height: int) -> Planes:
        """What is seen in the place of a screen, as much of it as is behind what is seen."""
        ground, crop, whole = keyed.ground, seen.crop, self.size(seen.media)
        assert ground is not None
        source, covered = ground.source, ground.crop
        if isinstance(source, Fill) or covered is None:
            return _filled(source.colour if isinstance(source, Fill) else GROUND, width, height)
        sx, sy = covered.width / whole[0], covered.height / whole[1]
        part = Crop(
            x=covered.x + even(crop.x * sx),
            y=covered.y + even(crop.y * sy),
            width=max(even(crop.width * sx), 2),
            height=max(even(crop.height * sy), 2),
        )
        place = seen.behind if isinstance(source, Video) else None

        def make() -> Planes:
            planes = self._sized(source.media, place, part, width, height)
            return _blurred(planes, ground.sigma * width / crop.width)

        key = ground, place, part, width, height
        return _remembered(self._stills, key, _PICTURES, make) if place is None else make()

    def size(self, media: str) -> tuple[int, int]:
        """Width and height of a picture or film, as crops speak of it."""
        if media in self._originals and self._originals[media].media.has_picture:
            shown = self._originals[media].media
            return shown.width, shown.height
        return self._opened(media).size

    def _sized(self, media: str, place: int | None, crop: Crop, width: int, height: int) -> Planes:
        """A part of a frame (of a still: None) at a size, as it is."""
        if place is None:
            return _planes_of(self._pixels(media, crop, width, height).convert("RGB"))
        if (width, height) == (crop.width, crop.height):
            return self._cropped(media, place, crop)
        return self._scaled(media, place, crop, width, height)

    def _opened(self, media: str) -> Image.Image:
        def opened() -> Image.Image:
            with Image.open(self._file(media)) as picture:
                return picture.convert("RGBA" if picture.has_transparency_data else "RGB")

        return _remembered(self._whole, media, _WHOLE, opened)

    def _pixels(self, media: str, crop: Crop, width: int, height: int) -> Image.Image:
        box = (crop.x, crop.y, crop.x + crop.width, crop.y + crop.height)
        return self._opened(media).crop(box).resize((width, height), Image.Resampling.LANCZOS)

    def _finished(self, made: Planes, width: int, seen: Seen) -> Planes:
        """In the colours of a look, and sharpened; ``width`` is that of ``made``."""
        look, sharpening = seen.look, seen.sharpening
        if look is not None:
            made = regraded(made, look, self._table(look))
        if sharpening is not None:
            made = sharpened(made[0], sharpening.amount, sharpening.sigma * width / seen.crop.width), made[1], made[2]
        return made

    def _table(self, look: Grade) -> Path | None:
        """The file of the table that a look names."""
        return self._file(look.table) if look.has_table else None

    def _file(self, asset: str) -> Path:
        """Where something is that the workspace brought in."""
        if asset not in self._originals:
            raise MediaError("A picture or a table of colours of this clip is gone. Choose another one.", asset)
        return self._originals[asset].path

    def _scaled(self, media: str, place: int, crop: Crop, width: int, height: int) -> Planes:
        shown = self._originals[media].media
        if crop == Crop(x=0, y=0, width=shown.width, height=shown.height):
            turned = shown.rotation in (90, 270)
            size = (height, width) if turned else (width, height)
            return _turned(_reformatted(self._frame(media, place), *size), shown.rotation)
        return _resized(self._cropped(media, place, crop), width, height)

    def _cropped(self, media: str, place: int, crop: Crop) -> Planes:
        shown = self._originals[media].media
        width, height = shown.width - shown.width % 2, shown.height - shown.height % 2
        turned = shown.rotation in (90, 270)
        frame = _reformatted(self._frame(media, place), *((height, width) if turned else (width, height)))
        planes = _turned(frame, shown.rotation)
        return tuple(  # type: ignore[return-value]
            plane[
                crop.y // part : (crop.y + crop.height) // part,
                crop.x // part : (crop.x + crop.width) // part,
            ]
            for plane, part in zip(planes, (1, 2, 2), strict=True)
        )

    def _frame(self, media: str, place: int) -> Any:
        """A decoded frame, by the decoder that comes to it soonest."""
        if media not in self._originals:
            raise MediaError(
                "A recording that this clip shows is gone. Take its words out, or bring it in again.", media
            )
        if (media, place) in self._decoded:
            self._decoded.move_to_end((media, place))
            return self._decoded[media, place]
        pickers = self._pickers.setdefault(media, [])
        ready = next((each for each in pickers if each.reaches(place)), None)
        if ready is None:
            ready = Picker(self._originals[media].path, self._rate) if len(pickers) < _PICKERS else pickers.pop(0)
            pickers.append(ready)
        frame = self._decoded[media, place] = ready.at(place)
        if len(self._decoded) > _STILLS:
            self._decoded.popitem(last=False)
        return frame


_Sized = TypeVar("_Sized", Planes, Left)


def _resized(planes: _Sized, width: int, height: int) -> _Sized:
    """Planes of 4:2:0 at another size, with what they cover where that is told."""
    way = cv2.INTER_CUBIC if width > planes[0].shape[1] else cv2.INTER_AREA
    sizes = [(width, height) if k in (0, 3) else (width // 2, height // 2) for k in range(len(planes))]
    made: list[Plane] = [cv2.resize(plane, size, interpolation=way) for plane, size in zip(planes, sizes, strict=True)]
    return Left(*made) if isinstance(planes, Left) else tuple(made)  # type: ignore[return-value]


def _filled(colour: str, width: int, height: int) -> Planes:
    """Planes of one colour."""
    y, u, v = yuv_of(colour)
    half = (height // 2, width // 2)
    return np.full((height, width), y, np.uint8), np.full(half, u, np.uint8), np.full(half, v, np.uint8)


def _blurred(planes: Planes, sigma: float) -> Planes:
    """Planes blurred by a Gaussian of ``sigma`` pixels of the light, made of smaller ones where that is wide."""
    if sigma < _SOFT:
        return planes
    made = []
    for k, plane in enumerate(planes):
        times = max(sigma / (1 if k == 0 else 2) / _SOFT, 1)
        size = max(round(plane.shape[1] / times), 2), max(round(plane.shape[0] / times), 2)
        small = cv2.resize(plane, size, interpolation=cv2.INTER_AREA)
        soft = cv2.GaussianBlur(small, (0, 0), sigma / (1 if k == 0 else 2) / times, borderType=cv2.BORDER_REPLICATE)
        made.append(cv2.resize(soft, plane.shape[::-1], interpolation=cv2.INTER_LINEAR))
    return made[0], made[1], made[2]


def _least(crop: Crop, width: int, height: int) -> tuple[int, int]:
    """The smaller of a crop's size and another one, even: planes of 4:2:0 have half of it."""
    wide, high = (crop.width, crop.height) if width > crop.width else (width, height)
    return max(wide - wide % 2, 2), max(high - high % 2, 2)


def _less(plane: Plane, black: int, covers: Plane) -> Plane:
    """A plane of what stands before black, without the black."""
    made: Plane = np.clip(plane - black * (1 - covers / 255) + 0.5, 0, 255).astype(np.uint8)
    return made


_Made = TypeVar("_Made")


def _remembered(known: OrderedDict[object, _Made], key: object, most: int, make: Callable[[], _Made]) -> _Made:
    """What is known by a key, or made now; ``most`` are kept."""
    if key in known:
        known.move_to_end(key)
        return known[key]
    made = known[key] = make()
    if len(known) > most:
        known.popitem(last=False)
    return made


def _planes_of(picture: Image.Image) -> Planes:
    """An RGB picture as video has it: BT.709, limited range, 4:2:0."""
    frame = VideoFrame.from_ndarray(np.ascontiguousarray(np.asarray(picture)), "rgb24")
    made = frame.reformat(format="yuv420p", dst_colorspace=Colorspace.ITU709, dst_color_range=ColorRange.MPEG)
    return tuple(_plane(plane).copy() for plane in made.planes)  # type: ignore[return-value]


def _reformatted(frame: Any, width: int, height: int) -> Planes:
    """A frame as 8-bit 4:2:0 of a size."""
    if frame.format.name != "yuv420p" or (frame.width, frame.height) != (width, height):
        frame = frame.reformat(width, height, format="yuv420p", interpolation="BICUBIC")
    return tuple(_plane(plane) for plane in frame.planes)  # type: ignore[return-value]


def _plane(plane: Any) -> Plane:
    """A plane without its padding; the frame's own memory."""
    lines = np.frombuffer(plane, np.uint8)[: plane.line_size * plane.height]
    return lines.reshape(plane.height, plane.line_size)[:, : plane.width]


def _turned(planes: Planes, rotation: int) -> Planes:
    """The planes as shown: turned clockwise by so many degrees."""
    quarters = rotation // 90 % 4
    if not quarters:
        return planes
    return tuple(np.ascontiguousarray(np.rot90(plane, -quarters)) for plane in planes)  # type: ignore[return-value]
