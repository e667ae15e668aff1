"""Draw the picture of the demo talk, a speaker at the bench of the Mending Room: ``python demo/picture.py``.

The speaker's mouth and hands follow the loudness of the speech, the clock on
the wall runs, and the board changes slowly, so that a cut can be seen.
"""

import math
import subprocess
from pathlib import Path

import numpy as np
from PIL import Image, ImageDraw, ImageFont

from hovvet.core.captions.fonts import FONTS

WIDTH, HEIGHT, RATE = 1280, 720, 25
SMALL = (960, 540)  # pixels of the film: enough for a demo, and quick to make
DRAWN_RATE = 10  # the figure is drawn anew this often; the picture runs at RATE
QUICK = ("-preset", "ultrafast", "-crf", "21", "-g", "60", "-c:a", "aac", "-b:a", "128k", "-ar", "48000")
SMALL_FILE = ("-preset", "veryslow", "-tune", "animation", "-crf", "25", "-g", "250", "-c:a", "copy")
_BOARD = [
    "Nobody throws away\na clock",
    "96 evenings",
    "2,140 objects",
    "We have all\ndone worse",
    "A table, a lamp,\na kettle",
]
# The parts of the picture that move. Three quarters of each is whole pixels: so much smaller the film is.
_FIGURE, _CLOCK = (468, 148, 872, 640), (720, 20, 880, 180)


def draw_talk(speech: Path, out: Path, coding: tuple[str, ...] = QUICK) -> None:
    """Write the talk as MP4 from its speech."""
    level = _levels(speech)
    frames = math.ceil(len(level) / DRAWN_RATE * RATE)
    colours = f"scale=out_color_matrix=bt709,format=yuv420p,fps={RATE}"
    command = [
        "ffmpeg", "-v", "error", "-y", "-f", "rawvideo", "-pix_fmt", "rgb24", "-s", f"{SMALL[0]}x{SMALL[1]}",
        "-r", str(DRAWN_RATE), "-i", "-", "-i", str(speech), "-vf", colours,
        "-c:v", "libx264", *coding, "-colorspace", "bt709", "-color_primaries", "bt709", "-color_trc", "bt709",
        "-frames:v", str(frames), "-movflags", "+faststart", "-f", "mp4", str(out),
    ]  # fmt: skip
    boards = [_Board(_room(text)) for text in _BOARD]
    with subprocess.Popen(command, stdin=subprocess.PIPE) as encoder:
        assert encoder.stdin
        for n, loud in enumerate(level):
            board = boards[int(n / DRAWN_RATE / 24) % len(boards)]
            encoder.stdin.write(_frame(board, n / DRAWN_RATE, float(loud)).tobytes())
        encoder.stdin.close()
    if encoder.returncode:
        raise RuntimeError("drawing the demo talk failed")


def _levels(speech: Path) -> np.ndarray:
    """Loudness of the speech for each drawn frame, 0 to 1."""
    decode = ["ffmpeg", "-v", "error", "-i", str(speech), "-ac", "1", "-ar", "10000", "-f", "f32le", "-"]
    sound = np.frombuffer(subprocess.run(decode, capture_output=True, check=True).stdout, np.float32)
    sound = sound[: len(sound) // 1000 * 1000].reshape(-1, 1000)
    return np.clip(np.sqrt((sound**2).mean(axis=1)) * 3.2, 0, 1)


def _font(size: int) -> ImageFont.FreeTypeFont:
    return ImageFont.truetype(str(FONTS / "bold.ttf"), size)


def _room(board: str) -> Image.Image:
    """The room without the speaker, drawn at twice the size and reduced."""
    image = Image.new("RGB", (WIDTH * 2, HEIGHT * 2), "#d9c8a6")
    d = ImageDraw.Draw(image)
    for x in range(0, WIDTH * 2, 160):  # wall boards
        d.line((x, 0, x, 1040), fill="#cfbd99", width=4)
    d.rectangle((0, 1040, WIDTH * 2, HEIGHT * 2), fill="#8a6a4a")  # bench
    d.rectangle((0, 1040, WIDTH * 2, 1064), fill="#a5825c")
    d.rectangle((120, 150, 900, 620), fill="#2f4a42", outline="#6b4d33", width=20)  # board
    d.multiline_text((510, 385), board, font=_font(92), fill="#f3ead7", anchor="mm", align="center", spacing=12)
    d.rectangle((1860, 470, 2480, 494), fill="#6b4d33")  # shelf
    for n, (size, colour) in enumerate(((130, "#7a4b7f"), (170, "#b4572f"), (110, "#4f7a4b"))):
        x = 1900 + n * 200
        d.rounded_rectangle((x, 470 - size, x + 150, 470), 26, fill=colour)
        d.ellipse((x + 25, 480 - size, x + 125, 580 - size), fill="#f1eadc")
    for x, tall in ((200, 150), (300, 110), (390, 180), (2100, 120), (2230, 160)):  # tools on the bench
        d.rectangle((x, 1060 - tall, x + 26, 1060), fill="#b4572f")
        d.rectangle((x + 9, 1010 - tall, x + 17, 1060 - tall), fill="#5b6270")
    d.polygon(((1740, 700), (1900, 700), (1860, 600), (1780, 600)), fill="#ffd66b")  # lamp
    d.rectangle((1814, 700, 1826, 1040), fill="#20242b")
    return image.resize((WIDTH, HEIGHT), Image.Resampling.LANCZOS)


class _Board:
    """The room with one text on its board: small, and the parts that move as they are drawn."""

    def __init__(self, room: Image.Image) -> None:
        self.small = np.asarray(room.resize(SMALL, Image.Resampling.LANCZOS))
        self.figure, self.clock = room.crop(_FIGURE), room.crop(_CLOCK)


def _put(frame: np.ndarray, part: Image.Image, place: tuple[int, int, int, int]) -> None:
    """Put a part that was drawn into the small frame."""
    x0, y0, x1, y1 = (edge * SMALL[0] // WIDTH for edge in place)
    frame[y0:y1, x0:x1] = np.asarray(part.resize((x1 - x0, y1 - y0), Image.Resampling.BILINEAR, reducing_gap=2))


def _frame(room: _Board, seconds: float, loud: float) -> np.ndarray:
    frame = room.small.copy()
    part = room.figure.copy()
    d = ImageDraw.Draw(part)
    sway = 7 * math.sin(seconds * 1.1)
    nod = 4 * math.sin(seconds * 2.3) + 5 * loud
    d.rounded_rectangle((95 + sway / 2, 200, 305 + sway / 2, 500), 45, fill="#2b5fc7")  # coat
    d.rectangle((180 + sway / 2, 200, 220 + sway / 2, 490), fill="#f1eadc")
    for side, x in ((-1, 112), (1, 288)):  # arms
        hand = (x + side * 50 + sway, 360 - 110 * loud * (0.6 + 0.4 * math.sin(seconds * 3 + side)))
        d.line((x + sway / 2, 240, *hand), fill="#244fa6", width=38)
        d.ellipse((hand[0] - 22, hand[1] - 22, hand[0] + 22, hand[1] + 22), fill="#c98f6b")
    cx, cy = 200 + sway, 125 + nod
    d.rectangle((cx - 24, cy + 45, cx + 24, 215), fill="#b97f5c")
    d.ellipse((cx - 67, cy - 85, cx + 67, cy + 80), fill="#d7a07a")
    d.pieslice((cx - 72, cy - 95, cx + 72, cy + 40), 180, 360, fill="#4a3527")
    for side in (-1, 1):
        blink = 2 if seconds % 4.1 < 0.2 else 7
        d.ellipse((cx + side * 27 - 7, cy - 2 - blink, cx + side * 27 + 7, cy - 2 + blink), fill="#20242b")
    mouth = 2 + 17 * loud
    d.ellipse((cx - 23, cy + 42 - mouth, cx + 23, cy + 42 + mouth), fill="#7c2f2a")
    _put(frame, part, _FIGURE)
    # The clock on the wall.
    clock = room.clock.copy()
    d = ImageDraw.Draw(clock)
    d.ellipse((10, 10, 150, 150), fill="#faf6ee", outline="#6b4d33", width=8)
    for turn, length, width in ((seconds / 60, 55, 2), (seconds / 3600 + 0.3, 48, 4), (seconds / 43200 + 0.7, 34, 6)):
        angle = turn * 2 * math.pi - math.pi / 2
        d.line((80, 80, 80 + length * math.cos(angle), 80 + length * math.sin(angle)), fill="#20242b", width=width)
    _put(frame, clock, _CLOCK)
    return frame


if __name__ == "__main__":
    HERE = Path(__file__).parent
    draw_talk(HERE / "speech" / "talk.opus", HERE / "speech" / "talk.mp4", SMALL_FILE)
