"""Finds as a person goes through them: in context, with what each would save."""

from collections.abc import Iterable, Sequence

from pydantic import BaseModel, ConfigDict

from hovvet.core.sheet.cutting import kept_spans
from hovvet.core.sheet.model import Piece
from hovvet.core.spans import intersect, merge
from hovvet.core.sweep.finds import Find, FindKind, Finds
from hovvet.core.sweep.settings import SweepSettings
from hovvet.core.sweep.sweep import pause_cuts, struck_in
from hovvet.core.time import EPSILON
from hovvet.core.value import with_changes
from hovvet.core.words.transcript import Transcript, plain_text

_CONTEXT = 4  # words on each side
_LEAST_SAVED = 0.03  # seconds: a pause that would lose less is left alone


class Reviewed(BaseModel):
    """One find. ``key`` names it as long as the words do not change; ``saves`` in seconds."""

    model_config = ConfigDict(frozen=True)

    key: str
    find: Find
    before: str
    after: str
    saves: float


def key_of(find: Find) -> str:
    """A name for a find: its kind and when it begins, in milliseconds."""
    return f"{find.kind}-{round(find.start * 1000)}"


def still_open(finds: Finds, piece: Piece) -> Finds:
    """The finds inside a piece that are not cut yet."""
    struck = struck_in(piece)
    cut = sorted((each.start, each.end) for each in piece.pause_cuts)

    def is_open(find: Find) -> bool:
        if find.start < piece.start or find.end > piece.end + EPSILON:
            return False
        if find.words:
            return not struck.issuperset(find.words)
        return not any(start < find.end and find.start < end for start, end in cut)

    return with_changes(finds, finds=tuple(find for find in finds.finds if is_open(find)))


def worth_taking(finds: Finds, piece: Piece, transcript: Transcript, settings: SweepSettings) -> Finds:
    """The finds without those pauses of which nothing would be taken out that is still heard."""
    kept = kept_spans(transcript, piece)
    gone = intersect(kept, merge(pause_cuts(transcript, finds.finds, settings, struck_in(piece))))

    def saves(find: Find) -> bool:
        return find.kind != "pause" or sum(b - a for a, b in intersect([(find.start, find.end)], gone)) >= _LEAST_SAVED

    return with_changes(finds, finds=tuple(find for find in finds.finds if saves(find)))


def with_earlier_kept(finds: Finds, keys: frozenset[str]) -> Finds:
    """The finds, those retakes named turned round: the later take goes and the earlier one stays."""

    def turned(find: Find) -> Find:
        if not find.instead or key_of(find) not in keys:
            return find
        return with_changes(find, words=find.instead, instead=find.words)

    return with_changes(finds, finds=tuple(turned(find) for find in finds.finds))


def counted(finds: Finds, kinds: Iterable[FindKind]) -> dict[FindKind, int]:
    """How many finds there are of each of these kinds."""
    return {kind: sum(find.kind == kind for find in finds.finds) for kind in kinds}


def review(finds: Finds, piece: Piece, transcript: Transcript, settings: SweepSettings) -> list[Reviewed]:
    """Every find with the words around it."""
    cuts = pause_cuts(transcript, finds.finds, settings, struck_in(piece))
    return [_reviewed(find, transcript, cuts) for find in finds.finds]


def _reviewed(find: Find, transcript: Transcript, cuts: Sequence[tuple[float, float]]) -> Reviewed:
    if find.kind == "pause":
        gone = intersect([(find.start, find.end)], cuts)
        saves = sum(end - start for start, end in gone)
    else:
        saves = find.end - find.start
    before = transcript.between(0, find.start)[-_CONTEXT:]
    after = transcript.between(find.end, transcript.duration + 1)[:_CONTEXT]
    return Reviewed(
        key=key_of(find), find=find, before=plain_text(before), after=plain_text(after), saves=round(saves, 2)
    )
