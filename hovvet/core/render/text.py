"""Drawing an ASS script on 4:2:0 pictures with libass, the renderer of the page as well."""

import ctypes as c
from collections.abc import Sequence
from functools import cache
from pathlib import Path
from typing import Any

import cv2
import numpy as np
from numpy.typing import NDArray

from hovvet.core.captions.fonts import FONTS
from hovvet.core.errors import CoreError
from hovvet.core.render.colour import to_yuv

Plane = NDArray[np.uint8]


class _Image(c.Structure):
    pass


_Image._fields_ = [
    ("w", c.c_int), ("h", c.c_int), ("stride", c.c_int), ("bitmap", c.POINTER(c.c_ubyte)), ("color", c.c_uint32),
    ("dst_x", c.c_int), ("dst_y", c.c_int), ("next", c.POINTER(_Image)),
]  # fmt: skip

_Message = c.CFUNCTYPE(None, c.c_int, c.c_char_p, c.c_void_p, c.c_void_p)
_silent = _Message(lambda *_: None)


@cache
def _library() -> Any:
    try:
        lib = c.CDLL("libass.so.9")
    except OSError as error:
        raise CoreError("Captions cannot be drawn: libass is not installed.", str(error)) from None
    for name in ("ass_library_init", "ass_renderer_init", "ass_read_memory"):
        getattr(lib, name).restype = c.c_void_p
    lib.ass_render_frame.restype = c.POINTER(_Image)
    lib.ass_renderer_init.argtypes = [c.c_void_p]
    lib.ass_set_fonts_dir.argtypes = [c.c_void_p, c.c_char_p]
    lib.ass_add_font.argtypes = [c.c_void_p, c.c_char_p, c.c_char_p, c.c_int]
    lib.ass_add_font.restype = None
    lib.ass_set_message_cb.argtypes = [c.c_void_p, _Message, c.c_void_p]
    lib.ass_set_fonts.argtypes = [c.c_void_p, c.c_char_p, c.c_char_p, c.c_int, c.c_char_p, c.c_int]
    lib.ass_set_frame_size.argtypes = lib.ass_set_storage_size.argtypes = [c.c_void_p, c.c_int, c.c_int]
    lib.ass_read_memory.argtypes = [c.c_void_p, c.c_char_p, c.c_size_t, c.c_char_p]
    lib.ass_render_frame.argtypes = [c.c_void_p, c.c_void_p, c.c_longlong, c.POINTER(c.c_int)]
    for name in ("ass_free_track", "ass_renderer_done", "ass_library_done"):
        getattr(lib, name).argtypes = [c.c_void_p]
    return lib


class Text:
    """A script, ready to be drawn on pictures of one size, with ``fonts`` besides those that ship."""

    def __init__(self, script: str, width: int, height: int, fonts: Sequence[Path] = ()) -> None:
        lib = _library()
        self._lib = lib
        self._library = lib.ass_library_init()
        lib.ass_set_message_cb(self._library, _silent, None)
        lib.ass_set_fonts_dir(self._library, str(FONTS).encode())
        for path in fonts:
            file = path.read_bytes()
            lib.ass_add_font(self._library, path.name.encode(), file, len(file))
        self._renderer = lib.ass_renderer_init(self._library)
        lib.ass_set_frame_size(self._renderer, width, height)
        lib.ass_set_storage_size(self._renderer, width, height)
        lib.ass_set_fonts(self._renderer, None, None, 0, None, 1)
        data = script.encode()
        self._track = lib.ass_read_memory(self._library, data, len(data), None)
        self._size = (width, height)
        self._overlay: _Overlay | None = None

    def draw(self, planes: tuple[Plane, Plane, Plane], milliseconds: int) -> None:
        """Draw what is shown at a time of the script."""
        changed = c.c_int(0)
        image = self._lib.ass_render_frame(self._renderer, self._track, milliseconds, c.byref(changed))
        if changed.value:
            self._overlay = _Overlay.of(image, *self._size)
        if self._overlay is not None:
            self._overlay.blend(planes)

    def close(self) -> None:
        """Let go of it."""
        self._lib.ass_free_track(self._track)
        self._lib.ass_renderer_done(self._renderer)
        self._lib.ass_library_done(self._library)


class _Overlay:
    """Letters as 4:2:0 planes, premultiplied, with what they leave of the picture behind them (0 to 255)."""

    def __init__(self, x: int, y: int, planes: list[Plane], left: list[Plane]) -> None:
        self._x, self._y, self._planes, self._left = x, y, planes, left

    @classmethod
    def of(cls, image: Any, width: int, height: int) -> "_Overlay | None":
        images = []
        while image:
            each = image.contents
            if each.w and each.h:
                images.append(each)
            image = each.next
        if not images:
            return None
        # Even edges, so that chroma has whole samples.
        x0 = max(min(each.dst_x for each in images), 0) // 2 * 2
        y0 = max(min(each.dst_y for each in images), 0) // 2 * 2
        x1 = min((max(each.dst_x + each.w for each in images) + 1) // 2 * 2, width)
        y1 = min((max(each.dst_y + each.h for each in images) + 1) // 2 * 2, height)
        if x1 <= x0 or y1 <= y0:
            return None
        mixed = np.zeros((y1 - y0, x1 - x0, 4), np.float32)  # Y, U, V premultiplied, and alpha
        for each in images:
            _mix(mixed, each, x0, y0)
        half = cv2.resize(mixed, None, fx=0.5, fy=0.5, interpolation=cv2.INTER_AREA)
        planes = [_bytes(mixed[:, :, 0]), _bytes(half[:, :, 1]), _bytes(half[:, :, 2])]
        left = [_bytes(255 - 255 * mixed[:, :, 3]), *[_bytes(255 - 255 * half[:, :, 3])] * 2]
        return cls(x0, y0, planes, left)

    def blend(self, planes: tuple[Plane, Plane, Plane]) -> None:
        for n, plane in enumerate(planes):
            x, y = (self._x, self._y) if n == 0 else (self._x // 2, self._y // 2)
            own = self._planes[n]
            part = plane[y : y + own.shape[0], x : x + own.shape[1]]
            cv2.add(cv2.multiply(part, self._left[n], scale=1 / 255), own, dst=part)


def _mix(mixed: NDArray[np.float32], image: Any, x0: int, y0: int) -> None:
    """Lay one bitmap of libass over what is there."""
    bitmap = np.ctypeslib.as_array(image.bitmap, shape=((image.h - 1) * image.stride + image.w,))
    rows = np.lib.stride_tricks.as_strided(bitmap, (image.h, image.w), (image.stride, 1))
    x, y = image.dst_x - x0, image.dst_y - y0
    cut = mixed[max(y, 0) : y + image.h, max(x, 0) : x + image.w]
    rows = rows[max(-y, 0) : max(-y, 0) + cut.shape[0], max(-x, 0) : max(-x, 0) + cut.shape[1]]
    opaque = (255 - (image.color & 0xFF)) / 255
    alpha = rows.astype(np.float32)[:, :, None] * np.float32(opaque / 255)
    colour = to_yuv(image.color >> 24, image.color >> 16 & 0xFF, image.color >> 8 & 0xFF)
    cut *= 1 - alpha
    cut += alpha * np.array([*colour, 1.0], np.float32)


def _bytes(values: NDArray[Any]) -> Plane:
    return np.ascontiguousarray(np.clip(values + 0.5, 0, 255).astype(np.uint8))
