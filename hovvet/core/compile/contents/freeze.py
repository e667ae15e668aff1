"""Freeze frames in the plan."""

from collections.abc import Iterator

from hovvet.core.compile.contents.base import Placement
from hovvet.core.compile.timing import Stop, Timing
from hovvet.core.sheet.contents.freeze import Freeze
from hovvet.core.sheet.model import Span
from hovvet.core.sheet.places import Places


class FreezePlacement(Placement[Freeze]):
    """Stops the time before its first word."""

    def timing(self, content: Freeze, span: Span, places: Places) -> Iterator[Timing]:
        """A stop where its first kept word begins; a gap cannot be held."""
        kept = places.kept(span)
        if kept is None:
            return
        spot = next((each for each in places.spots[kept[0] : kept[1] + 1] if each.kept and each.word), None)
        if spot is not None:
            at = max(spot.start, spot.piece.start)
            yield Timing(spot.piece.id, Stop(at, content.seconds, content.sound == "room"))
