"""Colours in the numbers of video: BT.709, limited range."""

Yuv = tuple[float, float, float]


def to_yuv(red: int, green: int, blue: int) -> Yuv:
    """8-bit R'G'B' as Y', Cb, Cr (ITU-R BT.709, 16 to 235 and 16 to 240)."""
    y = 0.2126 * red + 0.7152 * green + 0.0722 * blue
    return (
        16 + y * 219 / 255,
        128 + (blue - y) / 1.8556 * 224 / 255,
        128 + (red - y) / 1.5748 * 224 / 255,
    )


def yuv_of(colour: str) -> tuple[int, int, int]:
    """The same of a colour written as ``#rrggbb``, in whole numbers."""
    y, u, v = to_yuv(int(colour[1:3], 16), int(colour[3:5], 16), int(colour[5:7], 16))
    return int(y + 0.5), int(u + 0.5), int(v + 0.5)
