"""Speed in the plan."""

from collections.abc import Iterator
from itertools import groupby

from hovvet.core.compile.contents.base import Placement
from hovvet.core.compile.timing import Pace, Timing
from hovvet.core.sheet.contents.speed import Speed
from hovvet.core.sheet.model import Span
from hovvet.core.sheet.places import Places


class SpeedPlacement(Placement[Speed]):
    """Changes the passing of time in each piece that it lies over."""

    def timing(self, content: Speed, span: Span, places: Places) -> Iterator[Timing]:
        """A pace for each piece."""
        kept = places.kept(span)
        if kept is None:
            return
        own = range(kept[0], kept[1] + 1)
        for _, group in groupby(own, key=lambda place: places.spots[place].piece.id):
            members = list(group)
            piece = places.spots[members[0]].piece
            if not piece.is_gap:
                start, end = places.times(members[0])[0], places.times(members[-1])[1]
                yield Timing(piece.id, Pace(start, end, content.rate, content.ramp, content.sound == "muted"))
