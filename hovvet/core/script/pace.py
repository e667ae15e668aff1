"""How fast a script is read."""

SLOWEST, USUAL, FASTEST = 60, 140, 260  # words a minute


def pace_of(words: int, seconds: float) -> int:
    """The pace of somebody who read so many words in that time, in words a minute."""
    return round(min(max(60 * words / max(seconds, 0.1), SLOWEST), FASTEST))


def seconds_of(words: int, pace: float) -> float:
    """How long so many words take."""
    return 60 * words / pace
