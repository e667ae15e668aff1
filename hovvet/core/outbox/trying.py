"""When a post is tried again that an outlet did not take at once."""

WAITS = (60.0, 300.0, 900.0, 3_600.0, 10_800.0)  # seconds after the first, second … try
_LONGEST = 86_400.0  # seconds that an outlet may ask to be left alone


def wait_after(tries: int, asked: float | None = None) -> float | None:
    """Seconds until the next try after so many; None where there are to be no more. An outlet that ``asked`` for longer gets
    it, up to a day."""
    if tries > len(WAITS):
        return None
    return max(WAITS[max(tries, 1) - 1], min(asked or 0.0, _LONGEST))
