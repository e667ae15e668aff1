"""Plan to file: what the plan says, encoded with ffmpeg from the original recordings."""

import subprocess
import tempfile
import time
import wave
from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from pathlib import Path
from typing import Any

import numpy as np

from hovvet.core.captions.ass import for_bt709
from hovvet.core.captions.style import FONTS
from hovvet.core.errors import CoreError
from hovvet.core.media.checked import check_media, published
from hovvet.core.media.ffmpeg import Progress, no_progress
from hovvet.core.media.frames import pick_frames, planes
from hovvet.core.media.info import MediaInfo
from hovvet.core.media.process import limits, running
from hovvet.core.plan.model import Plan
from hovvet.core.render.runs import SoundReader
from hovvet.core.sound.assemble import Stereo, assemble

STAGE = "0x20242B"  # behind a recording without a picture
_BYTES_PER_SECOND = 4_000_000  # a clip never comes near this
_SOUND_PART = 0.08  # of the progress goes to the sound


@dataclass(frozen=True)
class Original:
    """The file a recording was brought in as."""

    path: Path
    media: MediaInfo


def export(
    plan: Plan,
    originals: Mapping[str, Original],
    out: Path,
    progress: Progress = no_progress,
    preset: str = "veryfast",
    crf: int = 20,
) -> None:
    """Write the plan as MP4: H.264 High 4:2:0 in BT.709, AAC at 48 kHz, ready to stream.

    ``out`` appears only when it is complete. Raises CoreError for an empty plan,
    MediaError when a recording cannot be read or the file not written, and
    whatever ``progress`` raises.
    """
    if plan.frames == 0:
        raise CoreError("Nothing is left to export: every word of this clip is cut. Bring some back first.")
    with (
        published(out, lambda made: check_clip(made, plan)) as part,
        tempfile.TemporaryDirectory(dir=out.parent, prefix=".export-") as scratch,
    ):
        mixed = Path(scratch) / "sound.wav"
        files = {key: each.path if each.media.has_sound else None for key, each in originals.items()}
        _write_wav(mixed, assemble(plan, SoundReader(plan, files)), plan)
        progress(_SOUND_PART)
        _encode(plan, originals, Path(scratch), mixed, part, progress, preset, crf)
    progress(1.0)


def check_clip(made: Path, plan: Plan) -> None:
    """Raises MediaError unless a file is a whole clip of the plan."""
    check_media(made, plan.seconds, has_picture=True, has_sound=True)


def _write_wav(path: Path, sound: Stereo, plan: Plan) -> None:
    sound = sound * np.float32(10 ** (plan.gain_db / 20)) * np.float32(0.25)  # room above full scale for the limiter
    with wave.open(str(path), "wb") as wav:
        wav.setnchannels(2)
        wav.setsampwidth(4)
        wav.setframerate(plan.sample_rate)
        for start in range(0, len(sound), plan.sample_rate * 10):
            block = np.clip(sound[start : start + plan.sample_rate * 10], -1, 1).astype(np.float64)
            wav.writeframes((block * (2**31 - 1)).astype("<i4").tobytes())


def _encode(
    plan: Plan, originals: Mapping[str, Original], scratch: Path, sound: Path, out: Path, progress: Progress,
    preset: str, crf: int,
) -> None:  # fmt: skip
    command = ["ffmpeg", "-v", "error", "-y"]
    source = _picture_source(plan, originals)
    stored = None
    if source:
        width, height = stored = _stored_size(originals[source], plan)
        command += ["-f", "rawvideo", "-pix_fmt", "yuv420p", "-s", f"{width}x{height}"]
        command += ["-r", f"{plan.rate.num}/{plan.rate.den}", "-i", "pipe:0"]
    else:
        command += [
            "-f",
            "lavfi",
            "-i",
            f"color=c={STAGE}:s={plan.width}x{plan.height}:r={plan.rate.num}/{plan.rate.den},trim=end_frame={plan.frames}",
        ]
    command += [
        "-i",
        str(sound),
        "-filter_complex",
        f"{picture_filters(plan, originals[source].media if source else None, stored, scratch)};{_sound_filters(plan)}",
    ]
    command += [
        "-map", "[v]", "-map", "[a]", "-fps_mode", "cfr", "-c:v", "libx264", "-preset", preset, "-crf", str(crf),
        "-profile:v", "high", "-pix_fmt", "yuv420p", "-colorspace", "bt709", "-color_primaries", "bt709",
        "-color_trc", "bt709", "-color_range", "tv", "-c:a", "aac", "-b:a", "160k", "-ar", str(plan.sample_rate),
        "-movflags", "+faststart", "-progress", str(scratch / "progress"), "-f", "mp4", str(out),
    ]  # fmt: skip
    limit = limits(plan.seconds, 60, _BYTES_PER_SECOND)
    with running(command, limit, stdin=subprocess.PIPE, stdout=subprocess.DEVNULL) as program:
        report = _Report(plan, scratch / "progress", progress)
        pipe = program.process.stdin
        assert pipe
        try:
            for picture in _pictures(plan, originals) if source else ():
                pipe.write(picture)
                report()
            pipe.close()
        except BrokenPipeError:
            pass  # its log says why
        while program.process.poll() is None:
            report()
            time.sleep(0.1)
        program.finish()


class _Report:
    """Progress by the frames that ffmpeg has written."""

    def __init__(self, plan: Plan, file: Path, progress: Progress) -> None:
        self._plan, self._file, self._progress = plan, file, progress
        self._at = 0.0

    def __call__(self) -> None:
        now = time.monotonic()
        if now - self._at < 0.25:
            return
        self._at = now
        done = 0
        if self._file.exists():
            frames = [line for line in self._file.read_text().splitlines() if line.startswith("frame=")]
            done = int(frames[-1][6:]) if frames else 0
        self._progress(min(_SOUND_PART + (1 - _SOUND_PART) * done / self._plan.frames, 0.999))


def _picture_source(plan: Plan, originals: Mapping[str, Original]) -> str | None:
    """The recording whose picture is shown, if any."""
    if plan.framing is None:
        return None
    return next((s.recording for s in plan.segments if originals[s.recording].media.has_picture), None)


def _stored_size(original: Original, plan: Plan) -> tuple[int, int]:
    frame = next(pick_frames(original.path, plan.rate, [0]))
    return frame.width - frame.width % 2, frame.height - frame.height % 2


def _pictures(plan: Plan, originals: Mapping[str, Original]) -> Iterator[bytes]:
    """The raw picture of every output frame."""
    n = 0
    while n < len(plan.segments):
        recording = plan.segments[n].recording
        wanted: list[int] = []
        while n < len(plan.segments) and plan.segments[n].recording == recording:
            segment = plan.segments[n]
            wanted += range(segment.source_frame, segment.source_frame + segment.frames)
            n += 1
        last: tuple[Any, bytes] = (None, b"")
        for frame in pick_frames(originals[recording].path, plan.rate, wanted):
            if last[0] is not frame:
                last = (frame, planes(frame).tobytes())
            yield last[1]


_TURNS = {90: "transpose=clock,", 180: "hflip,vflip,", 270: "transpose=cclock,", 0: ""}


def picture_filters(plan: Plan, media: MediaInfo | None, stored: tuple[int, int] | None, scratch: Path) -> str:
    """ffmpeg's filter graph from input 0 to ``[v]``: framing, then captions.

    ``stored`` is the size of the frames as they come, before rotation and pixel shape.
    """
    captions = ""
    if plan.script is not None:
        script = scratch / "captions.ass"
        script.write_text(for_bt709(plan.script))
        captions = f",ass=f='{_quoted(script)}':fontsdir='{_quoted(FONTS)}'"
    f = plan.framing
    if f is None or media is None:
        return f"[0:v]format=yuv420p,setsar=1{captions}[v]"
    # Square pixels in the shape shown, so that the framing's source pixels hold.
    upright = _TURNS[media.rotation]
    shown = (media.width - media.width % 2, media.height - media.height % 2)
    if stored != shown:
        upright += f"scale={shown[0]}:{shown[1]}:flags=bicubic,"
    return (
        f"[0:v]{upright}setsar=1,split[a][b];"
        f"[a]crop={f.crop_width}:{f.crop_height}:{f.crop_x}:{f.crop_y},scale={f.fill_width}:{f.fill_height}:flags=area,"
        f"gblur=sigma={f.fill_sigma},scale={plan.width}:{plan.height}:flags=bilinear[fill];"
        f"[b]scale={f.fit_width}:{f.fit_height}[fit];"
        f"[fill][fit]overlay={f.fit_x}:{f.fit_y},setsar=1{captions},format=yuv420p[v]"
    )


def _sound_filters(plan: Plan) -> str:
    # latency=1: without it the limiter delays the sound by its attack time. It keeps its
    # last samples to itself, so there is silence behind for it to keep.
    limit = f"alimiter=limit={plan.peak_db}dB:level=0:attack=5:release=50:latency=1"
    return f"[1:a]volume=4,apad=pad_len={plan.sample_rate},{limit},atrim=end_sample={plan.samples}[a]"


def _quoted(path: Path) -> str:
    return str(path).replace("\\", "\\\\").replace("'", r"'\''").replace(":", r"\:")
