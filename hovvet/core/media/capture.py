"""What a camera and a microphone are recorded with, and when something about them is wrong."""

from typing import Literal

from hovvet.core.value import Value

Shows = Literal["camera", "sound", "screen", "screen and camera"]
SHOWS: dict[Shows, str] = {
    "camera": "Camera and sound",
    "sound": "Sound alone",
    "screen": "Screen",
    "screen and camera": "Screen, with the camera in its corner",
}
HEIGHTS = (480, 720, 1080)  # lines of a picture that is as wide as a camera's, 16 to 9
RATES = (24, 25, 30, 60)  # frames a second
_SOUND_BITS = 192_000  # a second
_PICTURE_BITS = 0.14  # a pixel of each frame


class DeviceLimits(Value):
    """From where on something is said of a device: levels as peaks of samples (full scale is 1), picture in shares of white."""

    silent: float = 0.001
    """Peak below which nothing is heard."""
    silent_after: float = 4.0
    """Seconds of that after which it is told."""
    faint: float = 0.03
    """Peak below which speech is too faint."""
    clipped: float = 0.99
    """Peak from which it is distorted."""
    hum: float = 0.5
    """Part of the sound's energy at the mains' frequency (50 or 60 Hz and twice that), while nobody speaks, that is hum."""
    hum_heard: float = 0.0005
    """Root mean square under which hum is no matter."""
    dark: float = 0.16
    """Mean brightness below which a picture is too dark."""
    flat: float = 0.02
    """Standard deviation of brightness below which there is nothing to be seen: a covered lens."""
    short: float = 600.0
    """Seconds left on the disk under which it is told."""


class CaptureChoices(Value):
    """What one chooses from before recording."""

    shows: dict[Shows, str] = SHOWS
    heights: tuple[int, ...] = HEIGHTS
    rates: tuple[int, ...] = RATES
    height: int = 720
    """Lines at first."""
    rate: int = 30
    """Frames a second at first."""
    countdown: int = 3
    """Seconds."""
    test_seconds: int = 4
    """How long one speaks to hear oneself back."""
    sound_bits: int = _SOUND_BITS
    """A second."""
    picture_bits: float = _PICTURE_BITS
    """A pixel."""
    limits: DeviceLimits = DeviceLimits()
