"""Somebody before a green or blue screen, made by code, with the truth of what covers it."""

from pathlib import Path
from typing import NamedTuple

import cv2
import numpy as np

from hovvet.core.colour.keying import Planes
from tests.media import ffmpeg

WIDTH, HEIGHT = 640, 360
COLOURS = {"green": (60, 190, 80), "blue": (40, 80, 200)}
_FINER = 4  # drawn so many times as large
_SHUTTER = 8  # moments while it is open


class Filmed(NamedTuple):
    """What a camera gives; how much of each pixel (0 to 1) somebody covers; and themselves, R'G'B' times that."""

    planes: Planes
    matte: np.ndarray
    before: np.ndarray


def person(moved: float) -> tuple[np.ndarray, np.ndarray]:
    """Somebody with hair in the air, moved sideways by so many pixels while the shutter was open: R'G'B', and the matte."""
    moments = [_drawn(moved * step / _SHUTTER) for step in range(_SHUTTER if moved else 1)]
    colour, matte = (np.mean(each, axis=0) for each in zip(*moments, strict=True))
    size = (WIDTH, HEIGHT)
    return cv2.resize(colour, size, interpolation=cv2.INTER_AREA), cv2.resize(matte, size, interpolation=cv2.INTER_AREA)


def _drawn(aside: float) -> tuple[np.ndarray, np.ndarray]:
    colour = np.zeros((HEIGHT * _FINER, WIDTH * _FINER, 3), np.uint8)
    matte = np.zeros(colour.shape[:2], np.uint8)
    x = round((WIDTH / 2 + aside) * _FINER)
    for to, suit, skin, hair in ((colour, (70, 74, 92), (205, 160, 130), (74, 52, 40)), (matte, 255, 255, 255)):
        cv2.ellipse(to, (x, 380 * _FINER), (130 * _FINER, 120 * _FINER), 0, 0, 360, suit, -1)
        cv2.ellipse(to, (x, 190 * _FINER), (60 * _FINER, 78 * _FINER), 0, 0, 360, skin, -1)
        chance = np.random.default_rng(5)
        for _ in range(220):
            angle, length = chance.uniform(np.pi, 2 * np.pi), chance.uniform(70, 118)
            ends = angle + chance.normal(0, 0.15)
            start = (x + int(45 * _FINER * np.cos(angle)), int((180 + 60 * np.sin(angle)) * _FINER))
            end = (x + int(length * _FINER * np.cos(ends)), int((180 + length * np.sin(angle)) * _FINER))
            cv2.line(to, start, end, hair, _FINER)
    return colour.astype(np.float32) * (matte[..., None] / 255), matte.astype(np.float32) / 255


def filmed(screen: str, moved: float = 0.0) -> Filmed:
    """As a camera gives it: lit unevenly, with grain, chroma of half the size."""
    before, matte = person(moved)
    light = np.linspace(0.94, 1.06, WIDTH, dtype=np.float32)[None, :, None]
    picture = before + (1 - matte[..., None]) * np.array(COLOURS[screen], np.float32) * light
    picture = np.clip(picture + np.random.default_rng(2).normal(0, 2.0, picture.shape), 0, 255).astype(np.uint8)
    return Filmed(planes_of(picture), matte, before)


def planes_of(picture: np.ndarray) -> Planes:
    """R'G'B' of 8 bits as planes of 4:2:0: BT.709, limited range."""
    r, g, b = (picture[..., k].astype(np.float32) / 255 for k in range(3))
    luma = 0.2126 * r + 0.7152 * g + 0.0722 * b
    planes = 16 + 219 * luma, 128 + 224 * (b - luma) / 1.8556, 128 + 224 * (r - luma) / 1.5748
    half = (picture.shape[1] // 2, picture.shape[0] // 2)
    light, blue, red = (
        plane if k == 0 else cv2.resize(plane, half, interpolation=cv2.INTER_AREA) for k, plane in enumerate(planes)
    )
    return tuple(np.clip(np.round(each), 0, 255).astype(np.uint8) for each in (light, blue, red))  # type: ignore[return-value]


def film(out: Path, seconds: float = 4.0, screen: str = "green", sound: Path | None = None) -> Path:
    """A film of somebody before a screen who moves from side to side; what ``sound`` holds is heard."""
    stills = []
    for n in range(8):
        before, matte = person(0.0)
        shift = np.float32([[1, 0, 30 * np.sin(n / 8 * 2 * np.pi)], [0, 1, 0]])
        before, matte = (cv2.warpAffine(each, shift, (WIDTH, HEIGHT)) for each in (before, matte))
        picture = before + (1 - matte[..., None]) * np.array(COLOURS[screen], np.float32)
        stills.append(np.clip(picture, 0, 255).astype(np.uint8))
    raw = out.with_suffix(".rgb")
    raw.write_bytes(b"".join(stills[n // 4 % 8].tobytes() for n in range(round(seconds * 25))))
    heard = ("-i", sound, "-t", seconds) if sound else ("-f", "lavfi", "-i", f"sine=220:d={seconds}")
    ffmpeg(
        "-f", "rawvideo", "-pix_fmt", "rgb24", "-s", f"{WIDTH}x{HEIGHT}", "-r", 25, "-i", raw, *heard,
        "-vf", "scale=out_color_matrix=bt709:out_range=tv", "-c:v", "libx264", "-preset", "veryfast", "-crf", 16, "-pix_fmt", "yuv420p",
        "-colorspace", "bt709", "-color_primaries", "bt709", "-color_trc", "bt709", "-c:a", "aac", "-shortest", out,
    )  # fmt: skip
    raw.unlink()
    return out
