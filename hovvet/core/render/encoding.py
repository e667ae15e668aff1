"""How pictures are encoded."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from fractions import Fraction
from pathlib import Path
from typing import Any, Literal

import av

from hovvet.core.render.compositor import Frame
from hovvet.core.time import Rate

Quality = Literal["small", "good", "best"]

_CRF = {"small": 26, "good": 20, "best": 16}
_CRF_VP9 = {"small": 40, "good": 33, "best": 26}
_PRESET = {"small": "veryfast", "good": "veryfast", "best": "faster"}
_ALWAYS = 4_000_000  # bytes a second that any file may have
# x264 is not reproducible by itself: with AVX-512 its output depends on the contents of fresh memory. Without it the same
# pictures always give the same bytes, which is what makes chunks of a cache as good as new ones.
_X264 = (
    "keyint=120:min-keyint=12:open-gop=0:stitchable=1:threads=1:lookahead-threads=1:"
    "asm=MMX2,SSE2Fast,LZCNT,SSSE3,SSE4.2,AVX,FMA3,BMI2,AVX2"
)


@dataclass(frozen=True)
class Encoding:
    """``bitrate`` in bits a second, where a file has a limit; else the quality alone decides."""

    quality: Quality = "good"
    bitrate: int | None = None
    codec: Literal["h264", "vp9", "ffv1"] = "h264"

    @property
    def options(self) -> dict[str, str]:
        """What the encoder is told."""
        if self.codec == "ffv1":
            return {}
        if self.codec == "vp9":
            return {
                "crf": str(_CRF_VP9[self.quality]), "deadline": "realtime", "cpu-used": "6", "row-mt": "0",
                "lag-in-frames": "0", "b": str(self.bitrate or 0), "g": "120",
            }  # fmt: skip
        made = {"preset": _PRESET[self.quality], "profile": "high", "x264-params": _X264}
        if self.bitrate is None:
            return made | {"crf": str(_CRF[self.quality])}
        # Each chunk keeps within the rate by itself: the whole does then too.
        limit = f"{_X264}:vbv-maxrate={self.bitrate // 1000}:vbv-bufsize={self.bitrate // 1000}"
        return made | {"crf": str(_CRF[self.quality]), "x264-params": limit}

    def largest(self, width: int, height: int, rate: Rate) -> int:
        """Bytes a second that a picture of this size never comes near: as it is for one kept without loss, else a tenth."""
        raw = int(width * height * 1.5 * rate.fps)
        return raw if self.codec == "ffv1" else max(raw // 10, _ALWAYS)

    @property
    def told(self) -> str:
        """All that bears on the bytes that come out."""
        return f"{sorted(self.options.items())} av {av.__version__} {av.library_versions['libavcodec']}"


_CODECS = {"h264": ("libx264", "mp4"), "vp9": ("libvpx-vp9", "matroska"), "ffv1": ("ffv1", "matroska")}


class Encoder:
    """Writes frames to a file of their own, one closed group of pictures after the other."""

    def __init__(self, path: Path, width: int, height: int, rate: Rate, encoding: Encoding) -> None:
        codec, container = _CODECS[encoding.codec]
        options = {"video_track_timescale": str(timescale(rate))} if container == "mp4" else {}
        self._file = av.open(str(path), "w", format=container, options=options)
        stream: Any = self._file.add_stream(codec, rate=Fraction(rate.num, rate.den), options=encoding.options)
        stream.width, stream.height, stream.pix_fmt = width, height, "yuv420p"
        context = stream.codec_context
        context.thread_count = 1
        context.time_base = Fraction(rate.den, rate.num)
        context.color_primaries = context.color_trc = context.colorspace = 1  # BT.709
        context.color_range = 1  # limited
        self._stream, self._count = stream, 0

    def write(self, frame: Frame) -> None:
        """Encode one more frame. Its buffer may be drawn on again two frames later."""
        # Taken as it is where that works: PyAV counts the rows of a buffer in fours, and copies where it is told them.
        exact = len(frame.planes[0]) % 4 == 0
        take = av.VideoFrame.from_numpy_buffer if exact else av.VideoFrame.from_ndarray
        picture = take(frame.buffer, format="yuv420p")
        picture.pts, picture.time_base = self._count, self._stream.codec_context.time_base
        picture.color_range = picture.colorspace = 1
        self._count += 1
        self._file.mux(self._stream.encode(picture))

    def close(self) -> None:
        """Write what is still held back, and the end of the file."""
        self._file.mux(self._stream.encode(None))
        self._file.close()


def timescale(rate: Rate) -> int:
    """Ticks a second in which every frame begins on a whole one."""
    return rate.num * 512


def joined(parts: Sequence[tuple[Path, int]], sound: Path, out: Path, rate: Rate, is_mp4: bool = True) -> None:
    """One file of chunks (file, first frame) and a sound, by copying packets: MP4, or else WebM."""
    options = {"movflags": "+faststart", "video_track_timescale": str(timescale(rate))} if is_mp4 else {}
    with (
        av.open(str(out), "w", format="mp4" if is_mp4 else "webm", options=options) as file,
        av.open(str(sound)) as heard,
    ):
        with av.open(str(parts[0][0])) as first:
            picture = file.add_stream_from_template(first.streams.video[0])
        picture.time_base = Fraction(1, timescale(rate))
        track = file.add_stream_from_template(heard.streams.audio[0])
        packets: Iterator[Any] = (packet for packet in heard.demux(heard.streams.audio[0]) if packet.pts is not None)
        waiting: Any = next(packets, None)
        for packet, at in _pictures(parts, rate):
            while waiting is not None and waiting.pts * waiting.time_base <= at:
                waiting.stream = track
                file.mux(waiting)
                waiting = next(packets, None)
            packet.stream = picture
            file.mux(packet)
        while waiting is not None:
            waiting.stream = track
            file.mux(waiting)
            waiting = next(packets, None)


def _pictures(parts: Sequence[tuple[Path, int]], rate: Rate) -> Iterator[tuple[Any, Fraction]]:
    """The packets of all chunks on the clock of the whole, and when each is decoded, in seconds."""
    base = Fraction(1, timescale(rate))
    for path, begins in parts:
        with av.open(str(path)) as chunk:
            for packet in chunk.demux(chunk.streams.video[0]):
                if packet.pts is None:
                    continue
                # On whole frames, whatever clock the chunk's own container has.
                for name in ("pts", "dts"):
                    frame = round(getattr(packet, name) * packet.time_base * rate.num / rate.den)
                    setattr(packet, name, (frame + begins) * rate.den * 512)
                packet.duration = rate.den * 512
                packet.time_base = base
                yield packet, Fraction(packet.dts or 0) * base
