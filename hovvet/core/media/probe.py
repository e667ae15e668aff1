"""What is in a media file."""

import json
import re
from fractions import Fraction
from pathlib import Path
from typing import Any

from hovvet.core.media.ffmpeg import GUARD, source
from hovvet.core.media.info import MediaInfo
from hovvet.core.media.process import Limits, MediaError, run
from hovvet.core.time import output_rate

_LIMITS = Limits(seconds=60, cpu=60, output=0, memory=2 * 1024**3)
_LARGEST_SIDE = 8192  # pixels
_LOWEST_RATE = 4000  # samples a second
_TIMECODE = re.compile(r"\d\d:\d\d:\d\d[:;.]\d\d")


def probe(path: Path) -> MediaInfo:
    """Look into a file without decoding it. Raises MediaError with a message for people."""
    if path.stat().st_size == 0:
        raise MediaError("The file is empty. Choose the recording again.")
    command = ["ffprobe", "-v", "error", *GUARD, "-show_format", "-show_streams", "-of", "json", source(path)]
    try:
        found = json.loads(run(command, _LIMITS))
    except MediaError as error:
        if "moov atom not found" in error.detail and _begins_like_mp4(path):
            message = "The file is not complete: its end is missing. Copy it again from where it was recorded."
            raise MediaError(message, error.detail) from None
        raise
    streams = found.get("streams", [])
    video = next((s for s in streams if s.get("codec_type") == "video" and not _is_cover(s)), None)
    audio = next((s for s in streams if s.get("codec_type") == "audio" and int(s.get("sample_rate") or 0) > 0), None)
    if video is None and audio is None:
        raise MediaError("There is neither sound nor picture in this file. Choose a video or audio recording.")
    if audio and int(audio["sample_rate"]) < _LOWEST_RATE:
        raise MediaError(f"The sound has {audio['sample_rate']} samples a second, too few for speech. Record it again.")
    duration = _duration(found, video, audio)
    width, height, rotation = _shape(video) if video else (0, 0, 0)
    if max(width, height) > _LARGEST_SIDE:
        raise MediaError(f"The picture is {width}x{height}. The largest side Hovvet takes is {_LARGEST_SIDE} pixels.")
    return MediaInfo(
        duration=duration,
        has_picture=video is not None,
        has_sound=audio is not None,
        width=width,
        height=height,
        rotation=rotation,
        rate=output_rate(_rate(video) if video else 0.0),
        container=found.get("format", {}).get("format_name", ""),
        video_codec=video.get("codec_name", "") if video else "",
        audio_codec=audio.get("codec_name", "") if audio else "",
        channels=int(audio.get("channels") or 0) if audio else 0,
        timecode=_timecode(found, streams),
    )


def _timecode(found: dict[str, Any], streams: list[dict[str, Any]]) -> str:
    """The timecode with which the file begins, as its camera wrote it; "" for none."""
    tags = [each.get("tags", {}) for each in (found.get("format", {}), *streams)]
    told = next((str(each["timecode"]) for each in tags if "timecode" in each), "")
    return told if _TIMECODE.fullmatch(told) else ""


def _begins_like_mp4(path: Path) -> bool:
    with path.open("rb") as file:
        return b"ftyp" in file.read(64)


def _is_cover(stream: dict[str, Any]) -> bool:
    return bool(stream.get("disposition", {}).get("attached_pic"))


def _number(value: Any) -> float:
    try:
        return float(value)
    except (TypeError, ValueError):
        return 0.0


def _duration(found: dict[str, Any], *streams: dict[str, Any] | None) -> float:
    """Seconds; 0 where the file does not say (a browser's recording often does not)."""
    whole = _number(found.get("format", {}).get("duration"))
    return whole or max((_number(stream.get("duration")) for stream in streams if stream), default=0.0)


def _rate(video: dict[str, Any]) -> float:
    for key in ("avg_frame_rate", "r_frame_rate"):
        try:
            rate = float(Fraction(video.get(key, "0/1")))
        except (ValueError, ZeroDivisionError):
            continue
        if 0 < rate <= 1000:
            return rate
    return 0.0


def _shape(picture: dict[str, Any]) -> tuple[int, int, int]:
    """Width and height as shown, and the clockwise rotation in degrees."""
    width, height = int(picture.get("width") or 0), int(picture.get("height") or 0)
    if width < 2 or height < 2:
        raise MediaError("The picture in this file has no size. Export it again from where it was recorded.")
    across, _, down = (picture.get("sample_aspect_ratio") or "1:1").partition(":")
    if across.isdigit() and down.isdigit() and int(across) > 0 and int(down) > 0:
        width = round(width * int(across) / int(down))
    turned = 0.0
    for side in picture.get("side_data_list", []):
        turned = _number(side.get("rotation")) or turned
    rotation = round(-turned / 90) * 90 % 360
    if rotation in (90, 270):
        width, height = height, width
    return width, height, rotation
