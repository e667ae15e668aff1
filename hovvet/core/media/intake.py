"""Taking a file in: looked into, held against the limits, and its clock put right."""

from dataclasses import dataclass
from pathlib import Path

from hovvet.core.errors import CoreError
from hovvet.core.media.checked import published
from hovvet.core.media.clock import Clock, bridge, read_clock
from hovvet.core.media.info import MediaInfo
from hovvet.core.media.probe import probe
from hovvet.core.value import with_changes

LONGEST = 4 * 3600.0  # seconds: the longest recording taken, unless a setting says otherwise
_BELIEVED = 0.5  # of the length a file claims must be in it for the claim to be believed
ENDS_EARLY = 2.0  # seconds that may be missing before the person is told


@dataclass(frozen=True)
class Intake:
    """``path`` is the file to read from now on: the original, or its copy without gaps and with a true length. ``told`` is for the
    person."""

    path: Path
    media: MediaInfo
    told: str = ""


def take_in(original: Path, bridged: Path, longest: float = LONGEST) -> Intake:
    """Look into a file without decoding it; where its clock jumps, or it does not say how long it is (what a browser recorded does
    not, and cannot be sought), write a copy without the gaps to ``bridged``.

    Raises MediaError for what is no recording, CoreError for one longer than ``longest`` seconds.
    """
    media, clock = probe(original), read_clock(original)
    claimed, held = media.duration, clock.held
    believed = claimed > 0 and not clock.gaps and held >= _BELIEVED * claimed
    media = with_changes(media, duration=claimed if believed else held or claimed)
    _check_length(max(media.duration, held), longest)
    if clock.gaps or (claimed == 0 and held > 0):
        if not bridged.exists():
            with published(bridged) as part:
                bridge(original, part)
        return Intake(bridged, media, _told_of(clock) if clock.gaps else "")
    early = not believed and 0 < held < claimed - ENDS_EARLY and clock.start < ENDS_EARLY
    return Intake(original, media, ends_early(claimed, held) if early else "")


def _check_length(seconds: float, longest: float) -> None:
    if seconds > longest:
        raise CoreError(
            f"This recording is {seconds / 3600:.1f} hours long. The longest Hovvet takes is {longest / 3600:g}."
        )


def _told_of(clock: Clock) -> str:
    missing = sum(end - start for start, end in clock.gaps)
    count = len(clock.gaps)
    places = "a place where its clock jumps" if count == 1 else f"{count} places where its clock jumps"
    return f"This file has {places}, by {missing:.0f} s in all, with nothing in between. What is there was joined."


def ends_early(claimed: float, heard: float) -> str:
    """What to tell of a file that holds less than it says."""
    return (
        f"The file says it is {claimed:.0f} s long, but its sound ends after {heard:.0f} s. "
        "You can work with what there is, or bring in a complete copy."
    )
