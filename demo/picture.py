"""Draw the picture of the demo talk: a speaker at the bench of the Mending Room.

The speaker's mouth and hands follow the loudness of the speech, the clock on
the wall runs, and the board changes slowly, so that a cut can be seen.
"""

import math
import subprocess
from pathlib import Path

import numpy as np
from PIL import Image, ImageDraw, ImageFont

from hovvet.core.captions.style import FONTS

WIDTH, HEIGHT, RATE = 1280, 720, 30
DRAWN_RATE = 15  # the figure is drawn anew this often; the picture runs at RATE
_BOARD = ["Nobody throws away\na clock", "96 evenings", "2,140 objects", "We have all\ndone worse", "A table, a lamp,\na kettle"]
_FIGURE = (470, 150, 870, 640)  # the part of the picture that moves


def draw_talk(speech: Path, out: Path) -> None:
    """Write the talk as H.264/AAC MP4 from its speech; about 40 s of work for 6 minutes."""
    level = _levels(speech)
    frames = math.ceil(len(level) / DRAWN_RATE * RATE)
    command = [
        "ffmpeg", "-v", "error", "-y", "-f", "rawvideo", "-pix_fmt", "rgb24", "-s", f"{WIDTH}x{HEIGHT}",
        "-r", str(DRAWN_RATE), "-i", "-", "-i", str(speech), "-vf", f"fps={RATE},scale=out_color_matrix=bt709,format=yuv420p",
        "-c:v", "libx264", "-preset", "superfast", "-crf", "23", "-g", "60", "-colorspace", "bt709",
        "-color_primaries", "bt709", "-color_trc", "bt709", "-c:a", "aac", "-b:a", "128k", "-ar", "48000",
        "-frames:v", str(frames), "-movflags", "+faststart", "-f", "mp4", str(out),
    ]  # fmt: skip
    boards = [np.asarray(_room(text)) for text in _BOARD]
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
    decode = ["ffmpeg", "-v", "error", "-i", str(speech), "-ac", "1", "-ar", "15000", "-f", "f32le", "-"]
    sound = np.frombuffer(subprocess.run(decode, capture_output=True, check=True).stdout, np.float32)
    sound = sound[: len(sound) // 1000 * 1000].reshape(-1, 1000)
    return np.clip(np.sqrt((sound**2).mean(axis=1)) * 6, 0, 1)


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


def _frame(room: np.ndarray, seconds: float, loud: float) -> np.ndarray:
    frame = room.copy()
    x0, y0, x1, y1 = _FIGURE
    part = Image.fromarray(room[y0:y1, x0:x1]).resize(((x1 - x0) * 2, (y1 - y0) * 2))
    d = ImageDraw.Draw(part)
    sway = 14 * math.sin(seconds * 1.1)
    nod = 8 * math.sin(seconds * 2.3) + 10 * loud
    d.rounded_rectangle((190 + sway / 2, 400, 610 + sway / 2, 980), 90, fill="#2b5fc7")  # coat
    d.rectangle((360 + sway / 2, 400, 440 + sway / 2, 980), fill="#f1eadc")
    for side, x in ((-1, 200), (1, 600)):  # arms
        hand = (x + side * 60 + sway, 700 - 190 * loud * (0.6 + 0.4 * math.sin(seconds * 3 + side)))
        d.line((x + sway / 2, 470, *hand), fill="#244fa6", width=76)
        d.ellipse((hand[0] - 44, hand[1] - 44, hand[0] + 44, hand[1] + 44), fill="#c98f6b")
    cx, cy = 400 + sway, 250 + nod
    d.rectangle((cx - 48, cy + 90, cx + 48, 430), fill="#b97f5c")
    d.ellipse((cx - 135, cy - 170, cx + 135, cy + 160), fill="#d7a07a")
    d.pieslice((cx - 145, cy - 190, cx + 145, cy + 80), 180, 360, fill="#4a3527")
    for side in (-1, 1):
        blink = 3 if seconds % 4.1 < 0.15 else 15
        d.ellipse((cx + side * 55 - 14, cy - 30 - blink, cx + side * 55 + 14, cy - 30 + blink), fill="#20242b")
    mouth = 5 + 42 * loud
    d.ellipse((cx - 46, cy + 75 - mouth, cx + 46, cy + 75 + mouth), fill="#7c2f2a")
    frame[y0:y1, x0:x1] = np.asarray(part.resize((x1 - x0, y1 - y0), Image.Resampling.BILINEAR))
    # The clock on the wall.
    clock = Image.fromarray(frame[40:200, 1010:1170])
    d = ImageDraw.Draw(clock)
    d.ellipse((10, 10, 150, 150), fill="#faf6ee", outline="#6b4d33", width=8)
    for turn, length, width in ((seconds / 60, 55, 2), (seconds / 3600 + 0.3, 48, 4), (seconds / 43200 + 0.7, 34, 6)):
        angle = turn * 2 * math.pi - math.pi / 2
        d.line((80, 80, 80 + length * math.cos(angle), 80 + length * math.sin(angle)), fill="#20242b", width=width)
    frame[40:200, 1010:1170] = np.asarray(clock)
    return frame
