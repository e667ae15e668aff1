"""Corners that are darker than the middle."""

import numpy as np
from numpy.typing import NDArray


def darkening(width: int, height: int, begin: float, dark: float) -> NDArray[np.float32]:
    """What is left of the light, shape (height, width): all of it from the middle to ``begin`` of the way to the corners,
    from there on evenly less, by ``dark`` in the corners themselves."""
    y, x = np.mgrid[0:height, 0:width].astype(np.float32)
    far = np.hypot((x + 0.5) / width - 0.5, (y + 0.5) / height - 0.5) / np.hypot(0.5, 0.5)
    left: NDArray[np.float32] = 1 - dark * np.clip((far - begin) / (1 - begin), 0, 1)
    return left.astype(np.float32)
