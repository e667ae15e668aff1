"""Measuring a finished file: its frames are looked at and its samples listened to, once, when it is made."""

import math
import subprocess
from collections.abc import Iterator
from pathlib import Path

import numpy as np
from numpy.typing import NDArray

from hovvet.core.media.decode import sound
from hovvet.core.media.ffmpeg import GUARD, source
from hovvet.core.media.process import limits, running
from hovvet.core.picture.flashes import LINEAR, flashes, luminance
from hovvet.core.plan.model import Plan
from hovvet.core.proof.measured import Measured, Span
from hovvet.core.proof.thresholds import BLACK, CLICK, FROZEN
from hovvet.core.sound.judging import judged
from hovvet.core.time import SAMPLE_RATE

_SMALL = 64  # pixels of the longer side: enough for what takes up a quarter of a ninth
_CLICK_HALF, _AROUND = 96, 4_800  # samples on either side: of a click, and of what it is heard in
_LEAST_CLICK = 0.02  # of full scale: what is less steep is not heard


def measured(path: Path, plan: Plan, has_picture: bool = True, has_sound: bool = True) -> Measured:
    """What is seen and heard in the file of a plan. Raises MediaError."""
    heard = judged(path, plan.seconds) if has_sound else None
    black: list[Span] = []
    still: list[Span] = []
    seen: tuple[list[Span], list[Span]] = ([], [])
    if has_picture:
        seen = flashes(_watched(_frames(path, plan), plan.rate.fps, black, still), plan.rate.fps)
    return Measured(
        lufs=round(heard.lufs, 2) if heard else None,
        peak=heard.peak if heard else None,
        bytes=path.stat().st_size,
        black=tuple(black),
        still=tuple(still),
        flashes=tuple(seen[0]),
        red_flashes=tuple(seen[1]),
        clicks=tuple(_clicks(path, plan)) if heard else (),
    )


def _frames(path: Path, plan: Plan) -> Iterator[NDArray[np.uint8]]:
    """All frames, small, in RGB."""
    times = _SMALL / max(plan.width, plan.height)
    width, height = (max(round(side * times), 8) for side in (plan.width, plan.height))
    command = [
        "ffmpeg", "-v", "error", "-nostdin", *GUARD, "-i", source(path), "-map", "0:v:0", "-an",
        "-vf", f"scale={width}:{height}:flags=area,format=rgb24", "-f", "rawvideo", "-",
    ]  # fmt: skip
    with running(command, limits(plan.seconds, 2), stdout=subprocess.PIPE) as program:
        assert program.process.stdout
        while len(raw := program.process.stdout.read(width * height * 3)) == width * height * 3:
            yield np.frombuffer(raw, np.uint8).reshape(height, width, 3)
        program.finish()


def _watched(
    frames: Iterator[NDArray[np.uint8]], fps: float, black: list[Span], still: list[Span]
) -> Iterator[NDArray[np.uint8]]:
    """The same frames; those that are black, and that nothing has moved in, are noted as they come."""
    before = None
    for n, frame in enumerate(frames):
        seen = luminance(LINEAR[frame])
        if seen.max() < BLACK:
            _note(black, n / fps, (n + 1) / fps)
        elif before is not None and np.abs(seen - before).max() < FROZEN:
            _note(still, (n - 1) / fps, (n + 1) / fps)
        before = seen
        yield frame


def _note(spans: list[Span], start: float, end: float) -> None:
    """A span more, or the last one longer."""
    if spans and spans[-1][1] >= start - 1e-6:
        spans[-1] = (spans[-1][0], end)
    else:
        spans.append((start, end))


def _clicks(path: Path, plan: Plan) -> Iterator[float]:
    """Seconds of joins at which samples are much steeper than around them."""
    joins = sorted({each.frame for each in plan.stretches if each.frame})
    if not joins:
        return
    heard = sound(path, 0.0, plan.seconds, SAMPLE_RATE, 1)[:, 0]
    for frame in joins:
        at = plan.rate.sample(frame)
        if is_click(heard, at):
            yield at / SAMPLE_RATE


def is_click(heard: NDArray[np.float32], at: int) -> bool:
    """Whether samples are much steeper around one of them than in the tenth of a second on either side."""
    low, high = max(at - _AROUND, 0), min(at + _AROUND, len(heard))
    steep = np.abs(np.diff(heard[low:high], 2))
    first, last = max(at - _CLICK_HALF - low, 0), at + _CLICK_HALF - low
    here, around = steep[first:last], np.concatenate([steep[:first], steep[last:]])
    if not len(here) or not len(around) or here.max() < _LEAST_CLICK:
        return False
    return bool(here.max() > CLICK * max(math.sqrt(float(np.mean(around**2))), 1e-6))
