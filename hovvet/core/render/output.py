"""What kind of file an export is."""

from typing import Annotated, Literal, get_args

from pydantic import BaseModel, ConfigDict, Field

from hovvet.core.media.info import MediaInfo
from hovvet.core.media.working import working_size
from hovvet.core.plan.outlets import LARGEST, Outlet
from hovvet.core.render.encoding import Encoding, Quality
from hovvet.core.value import with_changes

Kind = Literal["mp4", "webm", "m4a", "mp3", "wav", "png", "gif", "webp"]
Lines = Literal[720, 1080, 2160]
LINES: tuple[Lines, ...] = get_args(Lines)
PICTURES: tuple[Kind, ...] = ("mp4", "webm", "gif", "webp", "png")
FILMS: tuple[Kind, ...] = ("mp4", "webm")
SHORTEST_LOOP, LONGEST_LOOP = 0.5, 15.0  # seconds
TYPES: dict[str, str] = {
    "mp4": "video/mp4", "webm": "video/webm", "m4a": "audio/mp4", "mp3": "audio/mpeg", "wav": "audio/wav",
    "png": "image/png", "gif": "image/gif", "webp": "image/webp", "srt": "application/x-subrip", "vtt": "text/vtt",
    "ass": "text/x-ssa", "txt": "text/plain; charset=utf-8",
}  # fmt: skip
KINDS: dict[str, str] = {
    "mp4": "Video, MP4", "webm": "Video, WebM", "m4a": "Sound only, M4A", "mp3": "Sound only, MP3",
    "wav": "Sound only, WAV", "png": "Still, PNG", "gif": "Short loop, GIF", "webp": "Short loop, WebP",
}  # fmt: skip
QUALITIES: dict[str, str] = {"small": "Smaller file", "good": "Good", "best": "Best"}
# Bits for a million pixels, before anything of a clip is known: a talk filmed by a camera.
_EXPECTED = {"small": 22_000, "good": 44_000, "best": 78_000}
_OF_WORKING = 0.42  # of what a working copy takes for its pixels (measured on the demo: .42 for each of two shapes)
_WORKING_SOUND = 128_000
_SOUND_BITS = {"mp4": 160_000, "webm": 128_000, "m4a": 160_000, "mp3": 192_000, "wav": 1_536_000}


class Output(BaseModel):
    """``lines``: the shorter side in pixels, None for that of the outlet. ``start`` and ``seconds``: where a still or a short
    loop is taken from, in seconds of the clip."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    kind: Kind = "mp4"
    quality: Quality = "good"
    lines: Lines | None = None
    start: Annotated[float, Field(ge=0, le=4 * 3600)] = 0.0
    seconds: Annotated[float, Field(ge=SHORTEST_LOOP, le=LONGEST_LOOP)] = 3.0

    @property
    def has_picture(self) -> bool:
        """Whether it is more than sound."""
        return self.kind in PICTURES

    @property
    def has_sound(self) -> bool:
        """Whether it is heard."""
        return self.is_film or not self.has_picture

    @property
    def is_film(self) -> bool:
        """Whether it is picture and sound from beginning to end."""
        return self.kind in FILMS


def sized(outlet: Outlet, lines: int | None) -> Outlet:
    """An outlet with another size and the same shape: ``lines`` pixels on its shorter side."""
    shorter = min(outlet.width, outlet.height)
    if lines is None or lines == shorter:
        return outlet
    times = min(lines / shorter, LARGEST / max(outlet.width, outlet.height))
    width, height = (max(int(side * times / 2 + 0.5) * 2, 64) for side in (outlet.width, outlet.height))
    left, top, right, bottom = (int(margin * times) for margin in outlet.safe)
    return with_changes(outlet, width=width, height=height, safe=(left, top, right, bottom))


def encoding_of(output: Output, outlet: Outlet, seconds: float) -> Encoding:
    """How the picture is encoded, so that the file stays within the outlet's limit."""
    codec: Literal["vp9", "h264"] = "vp9" if output.kind == "webm" else "h264"
    if outlet.file_limit is None or seconds <= 0:
        return Encoding(output.quality, codec=codec)
    whole = outlet.file_limit * 8 * _KEPT / seconds - _SOUND_BITS.get(output.kind, 0)
    return Encoding(output.quality, max(int(whole), _LEAST), codec)


_KEPT = 0.94  # of a file's limit goes to picture and sound; the rest is room
_LEAST = 100_000  # bits a second, under which nothing can be seen


def bits_for_pixels(output: Output, size: int, pixels: int, seconds: float) -> float | None:
    """What a file of ``size`` bytes took for each million of its pixels, its sound left out; None for sound alone."""
    if not output.has_picture or not pixels:
        return None
    return max(size * 8 - _SOUND_BITS.get(output.kind, 0) * seconds, 0.0) / pixels * 1e6


def bits_like(output: Output, working: int, media: MediaInfo) -> float | None:
    """What a file is likely to take for each million of its pixels, by the bytes of the working copy of what it shows: a film
    that was easy to make small is so again."""
    width, height = working_size(media) if media.has_picture and media.height else (0, 0)
    pixels = width * height * media.rate.fps * media.duration
    if not output.has_picture or not pixels:
        return None
    own = max(working * 8 - _WORKING_SOUND * media.duration, 0.0) / pixels * 1e6
    return own * _OF_WORKING * _EXPECTED[output.quality] / _EXPECTED["good"]


def expected_bytes(output: Output, outlet: Outlet, fps: float, seconds: float, known: float | None = None) -> int:
    """About how large a file will be; ``known`` is what the same clip took before, in bits for a million pixels."""
    if output.kind in ("png", "gif", "webp"):
        frames = 1 if output.kind == "png" else output.seconds * 12
        return int(outlet.width * outlet.height * frames * (1.2 if output.kind == "png" else 0.1))
    bits = _SOUND_BITS[output.kind] * seconds
    if output.has_picture:
        encoding = encoding_of(output, outlet, seconds)
        rate = (known or _EXPECTED[output.quality]) * outlet.width * outlet.height * fps / 1e6
        bits += min(rate, encoding.bitrate or rate) * seconds
    return int(bits / 8)
