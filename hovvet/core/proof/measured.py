"""What was measured of a finished file: seen in its frames, heard in its samples."""

from hovvet.core.value import Value

Span = tuple[float, float]  # seconds of the output


class Measured(Value):
    """Nothing of it can be known before a clip is drawn and mixed."""

    lufs: float | None = None
    """Integrated loudness; None for silence."""
    peak: float | None = None
    """True peak in dBTP."""
    bytes: int = 0
    """Of the file."""
    black: tuple[Span, ...] = ()
    """From and to which second it is black."""
    still: tuple[Span, ...] = ()
    """From and to which second nothing moves in it."""
    flashes: tuple[Span, ...] = ()
    """From and to which second it flashes more than it may."""
    red_flashes: tuple[Span, ...] = ()
    """The same in saturated red."""
    clicks: tuple[float, ...] = ()
    """Seconds of joins at which it clicks."""
