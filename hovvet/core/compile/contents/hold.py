"""Hold in the plan."""

from collections.abc import Iterator

from hovvet.core.compile.contents.base import Placement
from hovvet.core.compile.timing import Stop, Timing
from hovvet.core.sheet.contents.hold import Hold
from hovvet.core.sheet.model import Span
from hovvet.core.sheet.places import Places


class HoldPlacement(Placement[Hold]):
    """Stops the time before its first word."""

    def timing(self, content: Hold, span: Span, places: Places) -> Iterator[Timing]:
        """A stop where its first kept word begins; a gap cannot be held."""
        kept = places.kept(span)
        if kept is None:
            return
        stand = next((each for each in places.stands[kept[0] : kept[1] + 1] if each.kept and each.word), None)
        if stand is not None:
            at = max(stand.start, stand.piece.start)
            yield Timing(stand.piece.id, Stop(at, content.seconds, content.sound == "room"))
