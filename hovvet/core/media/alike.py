"""How alike two recordings are from outside: whether they may be of the same talk is worth hearing."""

from rapidfuzz import fuzz

_DAY = 24 * 3600.0  # seconds: what was brought in longer apart is no more unlike for that
_APART = 0.5  # what a day counts, beside a name and a length of its own


def unlike(names: tuple[str, str], apart: float, lengths: tuple[float, float]) -> float:
    """How unlike two recordings are, 0 to 2.5, by the names of their files, the seconds between their being brought in, and their
    lengths in seconds."""
    name = 1 - fuzz.token_set_ratio(names[0].lower(), names[1].lower()) / 100
    length = abs(lengths[0] - lengths[1]) / max(*lengths, 1.0)
    return name + _APART * min(apart / _DAY, 1.0) + length
