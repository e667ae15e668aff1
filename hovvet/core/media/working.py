"""The working copy, and the thumbnails of a recording: what the page plays and draws."""

from pathlib import Path

from hovvet.core.media.ffmpeg import GUARD, Progress, encode, no_progress, source
from hovvet.core.media.info import MediaInfo
from hovvet.core.media.process import limits, run

WORKING_HEIGHT = 540  # pixels
MONO_ON_BOTH_SIDES = (
    -3.0103
)  # dB: so much lower ffmpeg brings one channel to two in an export; the page plays it as loud
KEY_SECONDS = 0.5  # a key frame this often keeps seeking quick
THUMB_WIDTH, THUMB_HEIGHT = 96, 54  # pixels
THUMBS_ACROSS, THUMBS_DOWN = 10, 6
_BYTES_PER_SECOND = 2_000_000  # a working copy never comes near this


def working_size(media: MediaInfo) -> tuple[int, int]:
    """Width and height of the working copy, in pixels."""
    width = max(2, round(media.width * min(1, WORKING_HEIGHT / media.height) / 2) * 2)
    return width, max(2, round(min(media.height, WORKING_HEIGHT) / 2) * 2)


def working_copy(path: Path, media: MediaInfo, out: Path, progress: Progress = no_progress) -> None:
    """A small MP4 for the page: 540 lines at a constant rate, a key frame every half second, AAC at 48 kHz, mono
    where the source is.

    Frame n of it is frame n of the source resampled to ``media.rate``.
    """
    arguments = [*GUARD, "-i", source(path), "-sn", "-dn", "-map_metadata", "-1"]
    if media.has_picture:
        rate = f"{media.rate.num}/{media.rate.den}"
        width, height = working_size(media)
        gop = str(max(1, round(media.rate.fps * KEY_SECONDS)))
        arguments += [
            "-map", "0:v:0",
            "-vf", f"fps={rate}:start_time=0,scale={width}:{height}:out_color_matrix=bt709:out_range=tv,setsar=1,format=yuv420p",
            "-c:v", "libx264", "-preset", "superfast", "-crf", "24", "-g", gop, "-keyint_min", gop,
            "-sc_threshold", "0", "-bf", "0",
            "-colorspace", "bt709", "-color_primaries", "bt709", "-color_trc", "bt709", "-color_range", "tv",
        ]  # fmt: skip
    if media.has_sound:
        heard = "aresample=async=1:first_pts=0"
        mono = media.channels == 1
        if mono:
            heard += f",volume={MONO_ON_BOTH_SIDES}dB"
        arguments += [
            "-map", "0:a:0", "-af", heard, "-c:a", "aac", "-aac_coder", "fast",
            "-b:a", "80k" if mono else "128k", "-ar", "48000", "-ac", "1" if mono else "2",
        ]  # fmt: skip
    encode(
        [*arguments, "-movflags", "+faststart", "-f", "mp4", str(out)],
        media.duration,
        progress,
        limits(media.duration, 8, _BYTES_PER_SECOND),
    )


def thumbnails(path: Path, media: MediaInfo, out: Path) -> None:
    """Sixty thumbnails over the whole length in one JPEG, ten across and six down, from key frames only;
    the last one stands for what comes after it."""
    every = max(media.duration / (THUMBS_ACROSS * THUMBS_DOWN), 0.04)
    scale = (
        f"scale={THUMB_WIDTH}:{THUMB_HEIGHT}:force_original_aspect_ratio=increase,crop={THUMB_WIDTH}:{THUMB_HEIGHT},"
        f"fps=1/{every:.6f}:round=up,tpad=stop=-1:stop_mode=clone,tile={THUMBS_ACROSS}x{THUMBS_DOWN}"
    )
    command = [
        "ffmpeg", "-v", "error", "-nostdin", "-y", "-skip_frame", "nokey", *GUARD, "-i", source(path), "-map", "0:v:0",
        "-an", "-vf", scale, "-frames:v", "1", "-q:v", "5", "-f", "mjpeg", str(out),
    ]  # fmt: skip
    run(command, limits(media.duration, 1))
