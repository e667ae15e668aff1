"""Chosen frames out of a video file."""

from collections.abc import Iterator, Sequence
from pathlib import Path
from typing import Any

import av
import numpy as np
from numpy.typing import NDArray

from hovvet.core.media.ffmpeg import GUARD_OPTIONS
from hovvet.core.media.process import MediaError
from hovvet.core.time import Rate

_UNREAD = "The picture could not be read to its end."
_SEEK_BEYOND = 8.0  # seconds: a shorter way forward is decoded through, a longer one is sought


def pick_frames(path: Path, rate: Rate, wanted: Sequence[int]) -> Iterator[av.VideoFrame]:
    """The frames at wanted places of a source, in the order wanted: see ``Picker``. Raises MediaError."""
    with Picker(path, rate, threads=0) as picker:
        for place in wanted:
            yield picker.at(place)


class Picker:
    """The frame shown at each place of a source resampled to ``rate``.

    Place n shows the last source frame whose time, rounded to the grid, is at or
    before n; a variable frame rate or a late start is no matter. Places before
    the first frame show the first, places after the last show the last.
    Frames come as stored: the caller applies rotation. Raises MediaError.
    """

    def __init__(self, path: Path, rate: Rate, threads: int = 1) -> None:
        self._rate = rate
        try:
            self._container = av.open(str(path.resolve()), options=dict(GUARD_OPTIONS))
            streams = self._container.streams.video
            self._stream: Any = next(s for s in streams if not s.disposition & av.stream.Disposition.attached_pic)
        except StopIteration:
            raise MediaError("There is no picture in this file.") from None
        except av.FFmpegError as error:
            raise MediaError(_UNREAD, str(error)) from None
        self._stream.thread_type = "AUTO"
        self._stream.codec_context.thread_count = threads
        self._start = (self._container.start_time or 0) / av.time_base
        self._shown: Any = None  # the last decoded frame at or before the place looked for
        self._next: Any = None  # the frame after it
        self._decoded: Iterator[Any] = iter(())
        self._sought = False

    def __enter__(self) -> "Picker":
        return self

    def __exit__(self, *_: object) -> None:
        self.close()

    def close(self) -> None:
        """Let go of the file."""
        self._container.close()

    def at(self, place: int) -> Any:
        """The frame shown at a place. Going on forwards is cheap, going back is a search."""
        try:
            if not self._sought or not self.reaches(place):
                self._seek(place)
            while self._next is not None and self._place(self._next) <= place:
                self._shown, self._next = self._next, next(self._decoded, None)
        except av.FFmpegError as error:
            raise MediaError(_UNREAD, str(error)) from None
        if self._shown is None:
            self._shown = self._next
        if self._shown is None:
            raise MediaError("The picture could not be read.", f"no frame at or before place {place}")
        return self._shown

    def reaches(self, place: int) -> bool:
        """Whether decoding on comes to a place, and soon."""
        if not self._sought or (self._shown is not None and self._place(self._shown) > place):
            return False
        return self._next is None or self._place(self._next) + _SEEK_BEYOND * self._rate.fps >= place

    def _place(self, frame: Any) -> int:
        return self._rate.frame(max(float(frame.pts * frame.time_base) - self._start, 0.0))

    def _seek(self, place: int) -> None:
        at = self._rate.seconds(place) + self._start
        # A variable rate may hold a frame for long: go back further until one at or before the place is found.
        for back in (0.5 / self._rate.fps, 2.0, 10.0, at + 1.0):
            target = max(at - back, min(self._start, 0.0))
            self._container.seek(int(target / self._stream.time_base), stream=self._stream, backward=True)
            self._decoded = self._frames()
            self._shown, self._next = None, next(self._decoded, None)
            if self._next is not None and (self._place(self._next) <= place or target <= self._start):
                break
        self._sought = True

    def _frames(self) -> Iterator[Any]:
        for frame in self._container.decode(self._stream):
            if frame.pts is not None:
                yield frame


def planes(frame: Any) -> NDArray[np.uint8]:
    """The frame as 8-bit 4:2:0, limited range, with even sides: shape (height * 3 / 2, width)."""
    width, height = frame.width - frame.width % 2, frame.height - frame.height % 2
    if frame.format.name != "yuv420p" or (width, height) != (frame.width, frame.height):
        frame = frame.reformat(width=width, height=height, format="yuv420p")
    array: NDArray[np.uint8] = frame.to_ndarray()
    return array
