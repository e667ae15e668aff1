"""Bringing the colours of one picture near to those of another, by their statistics.

Means and spreads are compared in Oklab (B. Ottosson, "A perceptual color space for image processing", 2020), where equal
steps look equally large, and what is set is an ordinary grade: a person can go on from it.
"""

from typing import Literal

import numpy as np
from numpy.typing import NDArray

from hovvet.core.colour.grade import Colours, Grade, graded
from hovvet.core.value import with_changes

How = Literal["even out", "match"]
# What is set: exposure and white balance alone, or also how far colours are spread.
SETS: dict[How, tuple[str, ...]] = {
    "even out": ("exposure", "temperature", "tint"),
    "match": ("exposure", "temperature", "tint", "contrast", "saturation"),
}
_LIMITS = {"exposure": 2.0, "temperature": 0.8, "tint": 0.8, "contrast": 0.6, "saturation": 0.8}
_BALANCE = ("temperature", "tint")
_TURN = 12.0  # degrees by which the hue of skin may be turned at most when two recordings are matched
_SKIN = np.array([[0.94, 0.78, 0.69], [0.78, 0.57, 0.46], [0.55, 0.37, 0.28], [0.36, 0.22, 0.16]])
_GAMMA = 2.4  # of the screen (ITU-R BT.1886)
_TO_LMS = np.array([[0.4122214708, 0.5363325363, 0.0514459929], [0.2119034982, 0.6806995451, 0.1073969566],
                    [0.0883024619, 0.2817188376, 0.6299787005]])  # fmt: skip
_TO_LAB = np.array([[0.2104542553, 0.7936177850, -0.0040720468], [1.9779984951, -2.4285922050, 0.4505937099],
                    [0.0259040371, 0.7827717662, -0.8086757660]])  # fmt: skip


def oklab(colours: Colours) -> NDArray[np.float64]:
    """R'G'B' from 0 to 1, shape (n, 3), as lightness and two axes of colour, shape (n, 3)."""
    lms = np.cbrt(np.maximum(colours, 0) ** _GAMMA @ _TO_LMS.T)
    lab: NDArray[np.float64] = lms @ _TO_LAB.T
    return lab


def statistics(colours: Colours) -> NDArray[np.float64]:
    """The means of lightness and the two axes, then their spreads (standard deviations): shape (6,)."""
    lab = oklab(colours)
    return np.concatenate([lab.mean(axis=0), lab.std(axis=0)])


def matched(
    colours: Colours, wanted: Colours, how: How = "even out", strength: float = 1.0, base: Grade | None = None
) -> Grade:
    """The settings that bring the statistics of some ``colours`` (R'G'B', shape (n, 3)) as near to those ``wanted`` as can
    be, or a part (``strength``) of the way there; all others are those of ``base``."""
    start = base or Grade()
    found = _nearest(colours, statistics(wanted), how, start, SETS[how])
    if how == "match" and skin_turn(found) > _TURN:
        # Less of the white balance, and the rest as good as can be with that.
        shares = (
            with_changes(found, **({name: getattr(found, name) * k / 20 for name in _BALANCE}))
            for k in range(19, -1, -1)
        )
        held = next(each for each in shares if skin_turn(each) <= _TURN)
        found = _nearest(
            colours, statistics(wanted), how, held, tuple(name for name in SETS[how] if name not in _BALANCE)
        )
    values = {
        name: getattr(start, name) + strength * (getattr(found, name) - getattr(start, name)) for name in SETS[how]
    }
    return with_changes(start, **({name: round(value, 3) for name, value in values.items()}))


def _nearest(colours: Colours, target: NDArray[np.float64], how: How, base: Grade, names: tuple[str, ...]) -> Grade:
    """The grade whose statistics are nearest, these settings chosen and all others those of ``base``."""
    from scipy.optimize import least_squares  # here: nothing else of the server needs it

    def grade(values: NDArray[np.float64]) -> Grade:
        return with_changes(base, **({name: float(value) for name, value in zip(names, values, strict=True)}))

    def off(values: NDArray[np.float64]) -> NDArray[np.float64]:
        made = statistics(graded(colours, grade(values)))
        if how == "even out":
            return (made - target)[:3]
        chroma = np.hypot(*made[4:]) - np.hypot(*target[4:])
        return np.array([*(made - target)[:4], chroma])

    most = np.array([_LIMITS[name] for name in names])
    return grade(least_squares(off, np.zeros(len(names)), bounds=(-most, most), max_nfev=60).x)


def skin_turn(grade: Grade) -> float:
    """By how many degrees the white balance of a grade turns the hue of skin: of four tones, that which it turns most."""
    without = with_changes(grade, **dict.fromkeys(_BALANCE, 0.0))
    before, after = (oklab(graded(_SKIN, each))[:, 1:] for each in (without, grade))
    turn = np.arctan2(after[:, 1], after[:, 0]) - np.arctan2(before[:, 1], before[:, 0])
    return float(np.degrees(np.abs((turn + np.pi) % (2 * np.pi) - np.pi)).max())
