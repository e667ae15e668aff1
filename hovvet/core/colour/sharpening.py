"""Making edges stand out: a picture less its own blur, added to it (unsharp masking)."""

from typing import Any

import cv2
import numpy as np
from numpy.typing import NDArray


def sharpened(luma: NDArray[Any], amount: float, sigma: float) -> NDArray[np.uint8]:
    """A plane of 8-bit luma with its edges stronger by ``amount``; ``sigma`` in pixels."""
    return stronger(luma, cv2.GaussianBlur(luma, (0, 0), sigma, borderType=cv2.BORDER_REPLICATE), amount)


def stronger(luma: NDArray[Any], soft: NDArray[Any], amount: float) -> NDArray[np.uint8]:
    """What a plane has more than its blur, added to it ``amount`` times."""
    made: NDArray[np.uint8] = cv2.addWeighted(luma, 1 + amount, soft, -amount, 0)  # type: ignore[assignment]
    return np.clip(made, 16, 235)
