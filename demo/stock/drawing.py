"""Draw what the stock library of the demo offers: a dozen scenes, as stills and as short films.

``draw_still(scene, out)`` and ``draw_film(scene, seconds, out)`` write a picture and a film; ``frame(scene, t, size)`` is one
picture of a scene, ``t`` seconds after it begins.
"""

import math
import subprocess
from collections.abc import Callable, Iterable
from pathlib import Path

from PIL import Image, ImageDraw

RATE, DRAWN_RATE = 25, 12.5  # a second: frames of a film, and how many of them are drawn anew
STILL, FILM = (1920, 1080), (960, 540)
PAPER, INK, BLUE, RUST, MOSS, OCHRE, WOOD = "#F3EAD7", "#20242B", "#2B5FC7", "#C2412D", "#47713F", "#FFD66B", "#8A6A4A"
Fill = str | tuple[int, int, int, int] | None


class _Scaled:
    """Draws on 178 x 100 units, whatever the size of the picture."""

    def __init__(self, image: Image.Image) -> None:
        self._pen, self._unit = ImageDraw.Draw(image, "RGBA"), image.height / 100

    def _at(self, points: Iterable[float]) -> list[float]:
        return [value * self._unit for value in points]

    def box(self, x0: float, y0: float, x1: float, y1: float, fill: Fill, round_: float = 0.0) -> None:
        self._pen.rounded_rectangle(self._at((x0, y0, x1, y1)), round_ * self._unit, fill)

    def disc(self, x: float, y: float, r: float, fill: Fill, edge: Fill = None, width: float = 1.0) -> None:
        self._pen.ellipse(self._at((x - r, y - r, x + r, y + r)), fill, edge, max(round(width * self._unit), 1))

    def line(self, *points: float, fill: Fill = INK, width: float = 1.0) -> None:
        self._pen.line(self._at(points), fill, max(round(width * self._unit), 1), "curve")

    def shape(self, *points: float, fill: Fill) -> None:
        self._pen.polygon(self._at(points), fill)


def _hand(pen: _Scaled, x: float, y: float, turns: float, long: float, fill: str, width: float) -> None:
    pen.line(
        x, y, x + long * math.sin(2 * math.pi * turns), y - long * math.cos(2 * math.pi * turns), fill=fill, width=width
    )


def _clock(pen: _Scaled, t: float) -> None:
    pen.box(0, 0, 178, 100, "#D9C8A6")
    pen.disc(89, 50, 40, "#FAF6EE", WOOD, 4)
    for n in range(12):
        x, y = math.sin(n * math.pi / 6), -math.cos(n * math.pi / 6)
        pen.line(89 + 31 * x, 50 + 31 * y, 89 + 34 * x, 50 + 34 * y, width=1.6)
    _hand(pen, 89, 50, 0.83 + t / 120, 18, INK, 3)
    _hand(pen, 89, 50, 0.1 + t / 20, 28, INK, 2)
    _hand(pen, 89, 50, math.floor(t * 2) / 12, 30, RUST, 1)
    pen.disc(89, 50, 2, INK)


def _gears(pen: _Scaled, t: float) -> None:
    pen.box(0, 0, 178, 100, INK)
    for x, y, r, colour, way in ((66, 56, 28, OCHRE, 1), (113, 40, 19, RUST, -1.46), (134, 77, 17, "#B9BEC8", 1.6)):
        teeth = round(r * 0.6)
        for n in range(teeth):
            a = 2 * math.pi * n / teeth + way * t * 0.8
            pen.line(x, y, x + (r + 3.5) * math.cos(a), y + (r + 3.5) * math.sin(a), fill=colour, width=4)
        pen.disc(x, y, r, colour)
        pen.disc(x, y, r * 0.35, INK)


def _harbour(pen: _Scaled, t: float) -> None:
    pen.box(0, 0, 178, 60, "#F4C98B")
    pen.disc(132, 44 - t * 0.6, 13, "#FBE7B5")
    pen.shape(0, 60, 0, 46, 30, 38, 62, 50, 90, 42, 122, 55, 178, 47, 178, 60, fill="#7C6A8A")
    pen.box(0, 60, 178, 100, "#31597A")
    for n in range(9):
        y, x = 64 + n * 4, (n * 37 + t * 6) % 200 - 20
        pen.line(x, y, x + 22, y, fill="#5E87A5", width=0.7)
    for x, y, size, colour in ((48, 68, 1.0, RUST), (104, 78, 1.5, MOSS)):
        rock = math.sin(t * 1.6 + x) * 1.2
        pen.line(x, y + rock, x, y - 24 * size + rock, width=1)
        pen.shape(
            x + 1, y - 23 * size + rock, x + 15 * size, y - 5 * size + rock, x + 1, y - 5 * size + rock, fill=PAPER
        )
        pen.shape(x - 14 * size, y + rock, x + 16 * size, y + rock, x + 10 * size, y + 7 * size + rock,
                  x - 9 * size, y + 7 * size + rock, fill=colour)  # fmt: skip


def _kettle(pen: _Scaled, t: float) -> None:
    pen.box(0, 0, 178, 100, "#C7D3CB")
    pen.box(0, 82, 178, 100, WOOD)
    for n in range(4):
        x, up = 128 + n * 4, (t * 14 + n * 9) % 36
        pen.disc(x + 3 * math.sin(t * 2 + n), 40 - up, 3 + up / 8, (255, 255, 255, round(150 - up * 4)))
    pen.line(62, 44, 66, 18, 112, 18, 116, 44, width=3)
    pen.box(52, 40, 124, 82, BLUE, 16)
    pen.shape(118, 60, 138, 42, 142, 46, 122, 74, fill=BLUE)
    pen.disc(88, 38, 5, OCHRE)


def _lamp(pen: _Scaled, t: float) -> None:
    pen.box(0, 0, 178, 100, "#2A2F3A")
    pen.box(0, 80, 178, 100, "#4A3A2C")
    warm = round(70 + 40 * (0.5 + 0.5 * math.sin(t * 2)))
    pen.shape(96, 34, 126, 80, 30, 80, fill=(255, 214, 107, warm))
    pen.line(140, 80, 120, 40, 98, 22, fill="#B9BEC8", width=3)
    pen.box(126, 76, 154, 82, "#B9BEC8", 3)
    pen.shape(88, 18, 112, 28, 104, 44, 72, 34, fill=RUST)
    pen.box(50, 70, 96, 80, PAPER, 2)
    pen.line(56, 75, 90, 75, fill="#B9A98A", width=1)


def _bench(pen: _Scaled, t: float) -> None:
    pen.box(0, 0, 178, 100, "#D9C8A6")
    pen.box(0, 74, 178, 100, WOOD)
    for n, (tall, colour) in enumerate(((40, RUST), (34, BLUE), (46, MOSS), (30, OCHRE), (38, INK))):
        x = 26 + n * 20 + math.sin(t * 1.5 + n) * 1.2
        pen.box(x, 16, x + 7, 16 + tall * 0.45, colour, 3)
        pen.box(x + 2.5, 16 + tall * 0.45, x + 4.5, 16 + tall, "#8D939E")
    pen.box(126, 48, 168, 74, "#7A4B7F", 4)
    pen.line(132, 48, 132, 40, 162, 40, 162, 48, width=2)
    pen.box(30, 66, 96, 74, "#B9BEC8", 2)


def _bicycle(pen: _Scaled, t: float) -> None:
    pen.box(0, 0, 178, 100, "#DCE6D8")
    pen.box(0, 86, 178, 100, "#9AA392")
    for x in (50, 128):
        pen.disc(x, 62, 25, None, INK, 2.4)
        for n in range(8):
            a = n * math.pi / 4 + t * 1.8
            pen.line(x, 62, x + 24 * math.cos(a), 62 + 24 * math.sin(a), fill="#8D939E", width=0.6)
    pen.line(50, 62, 74, 28, 116, 28, 88, 62, 50, 62, fill=RUST, width=3)
    pen.line(74, 28, 88, 62, fill=RUST, width=3)
    pen.line(128, 62, 114, 20, 104, 18, width=2.6)
    pen.line(66, 22, 80, 22, width=3.4)


def _sewing(pen: _Scaled, t: float) -> None:
    pen.box(0, 0, 178, 100, "#EADBC8")
    pen.box(0, 84, 178, 100, WOOD)
    pen.shape(36, 84, 36, 24, 150, 24, 150, 84, 118, 84, 118, 46, 70, 46, 70, 60, 54, 60, 54, 84, fill=MOSS)
    pen.disc(150, 40, 10, INK)
    pen.disc(150 + 6 * math.cos(t * 8), 40 + 6 * math.sin(t * 8), 2, OCHRE)
    down = 6 * abs(math.sin(t * 8))
    pen.line(62, 60, 62, 68 + down, fill="#6A707B", width=1.2)
    pen.shape(10 + t * 3, 80, 96 + t * 3, 80, 104 + t * 3, 84, 4 + t * 3, 84, fill=RUST)


def _radio(pen: _Scaled, t: float) -> None:
    pen.box(0, 0, 178, 100, "#3D4A57")
    pen.box(34, 26, 144, 82, "#A65F3D", 8)
    pen.disc(70, 54, 20, INK)
    for r in (6, 11, 16):
        pen.disc(70, 54, r + math.sin(t * 6 + r) * 0.8, None, "#6A707B", 0.8)
    pen.box(100, 36, 134, 50, PAPER, 2)
    x = 103 + 14 * (1 + math.sin(t * 0.8))
    pen.line(x, 37, x, 49, fill=RUST, width=1)
    for x in (106, 120):
        pen.disc(x, 66, 5, OCHRE)
    pen.line(130, 26, 152, 4, fill="#B9BEC8", width=1)


def _rain(pen: _Scaled, t: float) -> None:
    pen.box(0, 0, 178, 100, "#5A6B78")
    for x, tall, colour in ((14, 40, "#46535E"), (50, 56, "#3D4953"), (96, 46, "#48555F"), (134, 60, "#414D57")):
        pen.box(x, 100 - tall, x + 32, 100, colour)
        pen.box(x + 8, 108 - tall, x + 14, 116 - tall, OCHRE)
    for n in range(60):
        x, y = (n * 53) % 178, (n * 29 + t * 70) % 110 - 5
        pen.line(x, y, x - 1, y + 5, fill=(220, 235, 245, 150), width=0.5)
    pen.box(86, 0, 92, 100, PAPER)
    pen.box(0, 46, 178, 52, PAPER)


def _street(pen: _Scaled, t: float) -> None:
    pen.box(0, 0, 178, 100, "#E7C7A0")
    for n, colour in enumerate((RUST, PAPER, BLUE, OCHRE, MOSS)):
        x = n * 36
        pen.box(x, 18 + (n % 2) * 8, x + 34, 78, colour)
        pen.shape(x, 18 + (n % 2) * 8, x + 17, 4 + (n % 2) * 8, x + 34, 18 + (n % 2) * 8, fill=INK)
        pen.box(x + 8, 34, x + 16, 46, "#D8E6F0")
        pen.box(x + 20, 56, x + 28, 78, WOOD)
    pen.box(0, 78, 178, 100, "#9A938A")
    for n, colour in enumerate((INK, "#7A4B7F", RUST)):
        x = (n * 62 + t * (7 + n * 2)) % 190 - 6
        pen.box(x, 68, x + 7, 84, colour, 3)
        pen.disc(x + 3.5, 64, 3.4, "#D79B7A")
        step = 3 * math.sin(t * 6 + n)
        pen.line(x + 3.5, 83, x + 3.5 + step, 92, width=1.6)
        pen.line(x + 3.5, 83, x + 3.5 - step, 92, width=1.6)


def _toaster(pen: _Scaled, t: float) -> None:
    pen.box(0, 0, 178, 100, "#F0DFC0")
    pen.box(0, 82, 178, 100, "#47713F")
    up = 12 * min(max(math.sin(t * 1.4), 0), 0.8)
    for x in (66, 92):
        pen.box(x, 34 - up, x + 22, 60, "#C98F4E", 5)
        pen.box(x + 3, 37 - up, x + 19, 60, "#E7BE84", 4)
    pen.box(46, 44, 134, 82, "#B9BEC8", 10)
    pen.box(58, 44, 122, 48, INK, 2)
    pen.box(130, 56 + up / 3, 140, 62 + up / 3, INK, 2)
    pen.disc(60, 70, 3, RUST)


def _dots(pen: _Scaled, t: float) -> None:
    pen.box(0, 0, 178, 100, PAPER)
    for row in range(13):
        for n in range(24):
            pen.disc(n * 8 + (row % 2) * 4, row * 8 + 2, 1.3, "#D9C8A6")


def _stripes(pen: _Scaled, t: float) -> None:
    pen.box(0, 0, 178, 100, BLUE)
    for n in range(-8, 24):
        pen.shape(n * 12, 100, n * 12 + 5, 100, n * 12 + 55, 0, n * 12 + 50, 0, fill="#3A6CD0")


def _squares(pen: _Scaled, t: float) -> None:
    pen.box(0, 0, 178, 100, "#F8F2E4")
    for n in range(23):
        pen.line(n * 8, 0, n * 8, 100, fill="#E2D5BA", width=0.35)
        pen.line(0, n * 8, 178, n * 8, fill="#E2D5BA", width=0.35)


def _ripples(pen: _Scaled, t: float) -> None:
    pen.box(0, 0, 178, 100, MOSS)
    for row in range(12):
        points = [value for n in range(90) for value in (n * 2, row * 9 + 3 + 2.2 * math.sin(n / 3 + row))]
        pen.line(*points, fill="#5C8A53", width=1.6)


def _rays(pen: _Scaled, t: float) -> None:
    pen.box(0, 0, 178, 100, OCHRE)
    for n in range(16):
        a, b = (2 * math.pi * (n + part) / 16 for part in (0.0, 0.5))
        pen.shape(
            89,
            50,
            89 + 130 * math.cos(a),
            50 + 130 * math.sin(a),
            89 + 130 * math.cos(b),
            50 + 130 * math.sin(b),
            fill="#FFE08F",
        )


def _cogs(pen: _Scaled, t: float) -> None:
    pen.box(0, 0, 178, 100, INK)
    for row in range(6):
        for n in range(10):
            x, y = n * 20 + (row % 2) * 10, row * 18 + 5
            for k in range(8):
                angle = math.pi * k / 4
                pen.line(x, y, x + 5.5 * math.cos(angle), y + 5.5 * math.sin(angle), fill="#363C46", width=1.6)
            pen.disc(x, y, 4, "#363C46")
            pen.disc(x, y, 1.6, INK)


def _ring(pen: _Scaled, t: float) -> None:
    pen.box(0, 0, 178, 100, "#3CBE50")
    struck = t % 1.6
    swing = 3 * math.sin(40 * struck) * math.exp(-4 * struck)
    down = 4 * math.exp(-18 * struck)
    pen.box(86, 22 + down, 92, 40, "#B8923A", 1)
    pen.disc(89, 22 + down, 6, "#E0B85A")
    pen.shape(*(each for n in range(33) for each in (
        89 + swing + 38 * math.cos(math.pi * n / 32), 74 - 38 * math.sin(math.pi * n / 32))), fill=OCHRE)  # fmt: skip
    pen.line(66 + swing, 60, 72 + swing, 50, 80 + swing, 44, fill="#FFF0C4", width=3)
    pen.box(44, 74, 134, 84, "#6B4A2B", 4)
    for n in range(3):
        if struck < 0.7:
            far = 52 + 8 * n + 30 * struck
            for side in (-1, 1):
                pen.line(89 + side * far, 40 - 6 * n, 89 + side * (far + 5), 36 - 6 * n, fill=RUST, width=2)


SCENES: dict[str, Callable[[_Scaled, float], None]] = {
    "clock": _clock, "gears": _gears, "harbour": _harbour, "kettle": _kettle, "lamp": _lamp, "bench": _bench,
    "bicycle": _bicycle, "sewing": _sewing, "radio": _radio, "rain": _rain, "street": _street, "toaster": _toaster,
    "ring": _ring,
    "dots": _dots, "stripes": _stripes, "squares": _squares, "ripples": _ripples, "rays": _rays, "cogs": _cogs,
}  # fmt: skip


def frame(scene: str, t: float, size: tuple[int, int]) -> Image.Image:
    """A picture of a scene, ``t`` seconds after it begins, with soft edges."""
    large = Image.new("RGB", (size[0] * 2, size[1] * 2))
    SCENES[scene](_Scaled(large), t)
    return large.reduce(2)


def draw_still(scene: str, out: Path) -> None:
    """Write a still as PNG."""
    frame(scene, 1.0, STILL).save(out, "PNG", compress_level=3)


def draw_film(scene: str, seconds: float, out: Path) -> None:
    """Write a film without sound, as H.264 in MP4."""
    width, height = FILM
    command = [
        "ffmpeg", "-v", "error", "-y", "-f", "rawvideo", "-pix_fmt", "rgb24", "-s", f"{width}x{height}", "-r", str(DRAWN_RATE),
        "-i", "-", "-vf", f"scale=out_color_matrix=bt709,format=yuv420p,fps={RATE}", "-c:v", "libx264", "-preset", "ultrafast",
        "-crf", "20", "-g", "50", "-colorspace", "bt709", "-color_primaries", "bt709", "-color_trc", "bt709",
        "-movflags", "+faststart", "-f", "mp4", str(out),
    ]  # fmt: skip
    with subprocess.Popen(command, stdin=subprocess.PIPE) as encoder:
        assert encoder.stdin
        for n in range(round(seconds * DRAWN_RATE)):
            encoder.stdin.write(frame(scene, n / DRAWN_RATE, FILM).tobytes())
        encoder.stdin.close()
    if encoder.returncode:
        raise RuntimeError("drawing a film of the stock library failed")
