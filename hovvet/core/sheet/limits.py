"""How much a sheet may hold: more than any clip needs, and little enough that every edit is answered at once.

What is over a limit already, kept before there was one, can be opened and edited: it may not grow. The figures behind the
limits are in docs/decisions/024-limits.md.
"""

from collections import Counter
from collections.abc import Iterator, Mapping

from hovvet.core.sheet.contents import KINDS
from hovvet.core.sheet.edits import EditError
from hovvet.core.sheet.model import Piece, Sheet
from hovvet.core.time import clock
from hovvet.core.value import with_changes

LONGEST_CLIP = 3600.0  # seconds of all its pieces, cuts included; and of what comes of them
SHORTEST_GAP, LONGEST_GAP = 0.1, 60.0  # seconds
MOST_PIECES = 2_000
MOST_LAYERS = 2_000  # of a costly kind less: ``Content.most``
MOST_EDITIONS = 24
MOST_STEPS = 4_000  # of one edit, cuts apart
_MOST_RUNS = 20_000  # of all layers
_MOST_CUT_WORDS = 200_000
_MOST_CUT_PAUSES = 50_000
_MOST_BREAKS = 5_000
_MOST_MARKED = 20_000  # words in captions
_MOST_HIDDEN = 20_000  # of all editions
_BEYOND = 1.0  # seconds that a piece may reach beyond the end of its recording: what tells its length is not exact


def check_growth(before: Sheet, after: Sheet) -> None:
    """Raises EditError where a sheet holds more than it may, and more than it did."""
    held = {what: many for what, many, _ in _held(before)}
    for what, many, most in _held(after):
        if many > most and many > held.get(what, 0):
            raise EditError(_told(what, most))


def check_number(before: Sheet, now: Sheet) -> None:
    """Raises EditError where there are far more pieces than a sheet may have: looked at between the steps of an edit, so
    that none of them takes long."""
    if len(now.pieces) > 2 * max(MOST_PIECES, len(before.pieces)):
        raise EditError(_told("pieces", MOST_PIECES))


def check_steps(steps: int) -> None:
    """Raises EditError for an edit of too many steps."""
    if steps > MOST_STEPS:
        raise EditError(f"That is more than {MOST_STEPS:,} changes at once. Make them in smaller parts.")


def check_marked(words: int) -> None:
    """Raises EditError for more words marked in captions than a sheet may have."""
    if words > _MOST_MARKED:
        raise EditError(_told("marked words", _MOST_MARKED))


def check_gap(seconds: float) -> None:
    """Raises EditError for a gap that is too short or too long."""
    if not SHORTEST_GAP <= seconds <= LONGEST_GAP:
        raise EditError(f"A gap is {SHORTEST_GAP:g} to {LONGEST_GAP:g} seconds long.")


def check_gaps(before: Sheet, after: Sheet) -> None:
    """Raises EditError for a gap that an edit made too short or too long."""
    if before.pieces is after.pieces:
        return
    known = {piece.id: piece for piece in before.pieces}
    for piece in after.pieces:
        if piece.is_gap and known.get(piece.id) is not piece:
            check_gap(piece.end - piece.start)


def check_ends(before: Sheet, after: Sheet, durations: Mapping[str, float]) -> None:
    """Raises EditError for a piece that an edit let reach beyond its recording, of so many seconds."""
    known = {piece.id: piece for piece in before.pieces}
    for piece in after.pieces:
        lasts = durations.get(piece.recording or "")
        was = known.get(piece.id)
        if lasts is not None and piece.end > max(lasts + _BEYOND, was.end if was else 0):
            raise EditError(f"The recording ends at {clock(lasts)}. Let the piece end there, or before.")


def shortened(piece: Piece) -> Piece:
    """A gap as long as gaps may be; anything else as it is."""
    if piece.is_gap and piece.end - piece.start > LONGEST_GAP:
        return with_changes(piece, start=0.0, end=LONGEST_GAP)
    return piece


def _held(sheet: Sheet) -> Iterator[tuple[str, float, float]]:
    """What a sheet holds, how much of it, and how much of it there may be."""
    yield "seconds", sum(piece.end - piece.start for piece in sheet.pieces), LONGEST_CLIP
    yield "pieces", len(sheet.pieces), MOST_PIECES
    yield "cut words", sum(len(cut.words) for piece in sheet.pieces for cut in piece.word_cuts), _MOST_CUT_WORDS
    yield "cut pauses", sum(len(piece.pause_cuts) for piece in sheet.pieces), _MOST_CUT_PAUSES
    yield "things laid over words", len(sheet.layers), MOST_LAYERS
    yield "stretches of speech under layers", sum(len(layer.span.runs) for layer in sheet.layers), _MOST_RUNS
    yield "editions", len(sheet.editions), MOST_EDITIONS
    yield "layers left out", sum(len(edition.hidden) for edition in sheet.editions), _MOST_HIDDEN
    yield "breaks of captions", len(sheet.breaks), _MOST_BREAKS
    for kind, many in Counter(layer.content.kind for layer in sheet.layers).items():
        yield f"of the kind “{KINDS[kind].title}”", many, KINDS[kind].most


def _told(what: str, most: float) -> str:
    if what == "seconds":
        return f"A clip is at most {most / 60:.0f} minutes long. Take something out first, or make a second clip."
    if what.startswith("of the kind"):
        return f"A clip has at most {most:,.0f} layers {what}. Take some off first."
    return f"A clip has at most {most:,.0f} {what}. Take some out first."
