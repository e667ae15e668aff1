"""What plans are drawn from: their files, decoded, at the sizes and in the colours they are shown in."""

from collections import OrderedDict
from collections.abc import Callable, Mapping
from dataclasses import dataclass
from pathlib import Path
from typing import Any, TypeVar

import cv2
import numpy as np
from av import VideoFrame
from av.video.reformatter import ColorRange, Colorspace
from numpy.typing import NDArray
from PIL import Image

from hovvet.core.colour.grade import Grade
from hovvet.core.colour.lut import regraded
from hovvet.core.colour.sharpening import sharpened
from hovvet.core.media.frames import Picker
from hovvet.core.media.info import MediaInfo
from hovvet.core.media.process import MediaError
from hovvet.core.plan.model import Crop, Sharpening
from hovvet.core.time import Rate

Plane = NDArray[Any]  # of uint8
Planes = tuple[Plane, Plane, Plane]
Clear = tuple[Plane, Plane, Plane, Plane, Plane]  # Y, U, V times what they cover of it; that, for Y and for U and V
_PICKERS = 2  # decoders for one file: both sides of a crossfade may show it
_STILLS = 6  # decoded frames that are kept: what stands still beside what moves is not sought anew for each frame
_WHOLE = 2  # still pictures that are kept as they are: what moves is read once
_PICTURES = 8  # still pictures that are kept at a size: they would be read anew for each frame
_SHOWN = 6  # pictures at their size that are kept: plans drawn side by side show the same


@dataclass(frozen=True)
class Original:
    """The file a recording was brought in as. ``digest`` tells its bytes from others."""

    path: Path
    media: MediaInfo
    digest: str = ""


class Sources:
    """The files of plans, decoded. What was shown last is kept: it is not made anew for the next plan."""

    def __init__(self, rate: Rate, originals: Mapping[str, Original]) -> None:
        self._rate, self._originals = rate, originals
        self._pickers: dict[str, list[Picker]] = {}
        self._decoded: OrderedDict[tuple[str, int], Any] = OrderedDict()
        self._shown: OrderedDict[object, Planes] = OrderedDict()
        self._whole: OrderedDict[object, Image.Image] = OrderedDict()
        self._stills: OrderedDict[object, Planes] = OrderedDict()
        self._clear: OrderedDict[object, Clear] = OrderedDict()

    def close(self) -> None:
        """Let go of all files."""
        for pickers in self._pickers.values():
            for picker in pickers:
                picker.close()

    def scaled(
        self,
        media: str,
        place: int | None,
        crop: Crop,
        width: int,
        height: int,
        look: Grade | None = None,
        sharpening: Sharpening | None = None,
    ) -> Planes:
        """A part of a frame (of a still: None) at a size, in the colours of a look, sharpened."""
        if place is None:
            return self.still(media, crop, width, height, look, sharpening)

        def make() -> Planes:
            return self._finished(self._scaled(media, place, crop, width, height), width / crop.width, look, sharpening)

        return _remembered(self._shown, (media, place, crop, width, height, look, sharpening), _SHOWN, make)

    def cropped(
        self, media: str, place: int | None, crop: Crop, look: Grade | None = None, sharpening: Sharpening | None = None
    ) -> Planes:
        """A part of a frame (of a still: None) as it is, in the colours of a look, sharpened."""
        if place is None:
            return self.still(media, crop, crop.width, crop.height, look, sharpening)

        def make() -> Planes:
            return self._finished(self._cropped(media, place, crop), 1.0, look, sharpening)

        return _remembered(self._shown, (media, place, crop, look, sharpening), _SHOWN, make)

    def still(
        self,
        media: str,
        crop: Crop,
        width: int,
        height: int,
        look: Grade | None = None,
        sharpening: Sharpening | None = None,
    ) -> Planes:
        """A part of a still picture at a size, in the colours of a look, sharpened."""

        def make() -> Planes:
            made = _planes_of(self._pixels(media, crop, width, height).convert("RGB"))
            return self._finished(made, width / crop.width, look, sharpening)

        return _remembered(self._stills, (media, crop, width, height, look, sharpening), _PICTURES, make)

    def clear(self, media: str, crop: Crop, width: int, height: int) -> Clear:
        """A part of a still picture at a size, and how much it covers of what is behind it (0 to 255)."""

        def make() -> Clear:
            pixels = self._pixels(media, crop, width, height).convert("RGBA")
            before_black = Image.new("RGB", pixels.size)
            before_black.paste(pixels, mask=pixels)
            covers = np.ascontiguousarray(np.asarray(pixels.getchannel("A")))
            half = cv2.resize(covers, (width // 2, height // 2), interpolation=cv2.INTER_AREA)
            y, u, v = _planes_of(before_black)
            # In limited range black is 16, 128, 128: what is not covered has none of it.
            return _less(y, 16, covers), _less(u, 128, half), _less(v, 128, half), covers, half

        return _remembered(self._clear, (media, crop, width, height), _PICTURES, make)

    def _pixels(self, media: str, crop: Crop, width: int, height: int) -> Image.Image:
        def opened() -> Image.Image:
            with Image.open(self._file(media)) as picture:
                return picture.convert("RGBA" if picture.has_transparency_data else "RGB")

        whole = _remembered(self._whole, media, _WHOLE, opened)
        box = (crop.x, crop.y, crop.x + crop.width, crop.y + crop.height)
        return whole.crop(box).resize((width, height), Image.Resampling.LANCZOS)

    def _finished(self, made: Planes, scale: float, look: Grade | None, sharpening: Sharpening | None) -> Planes:
        """``scale`` is how many pixels of ``made`` one of the source is."""
        if look is not None:
            made = regraded(made, look, self._file(look.table) if look.has_table else None)
        if sharpening is not None:
            made = sharpened(made[0], sharpening.amount, sharpening.sigma * scale), made[1], made[2]
        return made

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
        planes = self._cropped(media, place, crop)
        grows = width > crop.width
        return tuple(  # type: ignore[return-value]
            cv2.resize(
                plane,
                (width, height) if k == 0 else (width // 2, height // 2),
                interpolation=cv2.INTER_CUBIC if grows else cv2.INTER_AREA,
            )
            for k, plane in enumerate(planes)
        )

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
