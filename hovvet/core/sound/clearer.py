"""Clearer speech: how strongly, what the clearer sound of a recording is called, and clipping mended."""

import re
from typing import Literal, get_args

import numpy as np
from numpy.typing import NDArray

Strength = Literal["off", "light", "medium", "strong"]
STRENGTHS: tuple[Strength, ...] = get_args(Strength)
LOWER: dict[Strength, float] = {
    "light": 9.0,
    "medium": 18.0,
    "strong": 100.0,
}  # dB: how much lower what is no speech comes
CLEARED_BY = 1  # grows whenever the same recording would be cleared otherwise
_NAMED = re.compile(r"clearer(\d+)-(light|medium|strong)-([\w-]+)")
_FLAT, _SHORTEST, _LONGEST = 0.99, 2, 96  # of the highest sample; samples in a row so high that are mended
_CLIPS = 4  # such places in a sound that is clipped
_LOUD = 0.4  # what is never this high is not clipped
_BEYOND = 2.5  # times the highest sample that what is mended goes to, at most


def strength_of(name: str) -> Strength:
    """The strength of a name; "off" for one that there is not."""
    return next((each for each in STRENGTHS if each == name), "off")


def clearer_media(recording: str, strength: Strength) -> str:
    """The name that the clearer sound of a recording has in plans."""
    return f"clearer{CLEARED_BY}-{strength}-{recording}"


def told_by(media: str) -> tuple[str, Strength] | None:
    """(recording, strength) of such a name, as it is made today; None for another one."""
    found = _NAMED.fullmatch(media)
    if found is None or int(found[1]) != CLEARED_BY:
        return None
    return found[3], strength_of(found[2])


def declipped(sound: NDArray[np.float32]) -> NDArray[np.float32]:
    """A sound with short clipping mended, shape (samples, channels): where it stands still at its highest, it goes on as it came
    and comes back as it goes on (cubic Hermite curves), beyond 1 if need be. Any other is left as it is.

    ffmpeg's ``adeclip`` (Janssen 1986) comes less near to what was recorded at the settings that it is fast with, and takes
    over a second for one where much is clipped.
    """
    return np.stack([_declipped(side) for side in sound.T], axis=1) if len(sound) else sound


def _declipped(side: NDArray[np.float32]) -> NDArray[np.float32]:
    peak = float(np.abs(side).max())
    high = np.abs(side) >= _FLAT * peak
    edges = np.flatnonzero(np.diff(np.concatenate([[False], high, [False]]).astype(np.int8)))
    begin, end = edges[::2], edges[1::2]
    lasts = end - begin
    mends = (lasts >= _SHORTEST) & (lasts <= _LONGEST) & (begin >= 2) & (end < len(side) - 1)
    if peak < _LOUD or mends.sum() < _CLIPS:
        return side
    left, right = begin[mends] - 1, end[mends]
    steps = right - left
    inside = steps - 1

    def each(values: NDArray[np.number]) -> NDArray[np.float64]:
        return np.repeat(values.astype(np.float64), inside)

    nth = np.arange(inside.sum()) - np.repeat(np.cumsum(inside) - inside, inside) + 1
    at, t = np.repeat(left, inside) + nth, nth / each(steps)
    came, goes = (side[left] - side[left - 1]) * steps, (side[right + 1] - side[right]) * steps
    curve = (2 * t**3 - 3 * t**2 + 1) * each(side[left]) + (t**3 - 2 * t**2 + t) * each(came)
    curve += (3 * t**2 - 2 * t**3) * each(side[right]) + (t**3 - t**2) * each(goes)
    sign = np.sign(side[at])
    made = side.copy()
    made[at] = sign * np.clip(curve * sign, np.abs(side[at]), _BEYOND * peak)
    return made
