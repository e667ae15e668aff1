"""Which stretches of a piece are kept once its cuts are made."""

from bisect import bisect_left
from collections.abc import Sequence

from hovvet.core.sheet.model import Piece
from hovvet.core.spans import Span, merge, subtract
from hovvet.core.words.layout import SHOWN_PAUSE
from hovvet.core.words.transcript import Transcript, Word

EDGE = 0.03  # seconds of a shown pause that go with a struck word: its breath and echo
SLIVER = 0.05  # kept stretches without a word shorter than this are left out


def piece_words(transcript: Transcript, piece: Piece) -> tuple[Word, ...]:
    """The words of a piece, struck or not."""
    return transcript.between(piece.start, piece.end)


def kept_words(transcript: Transcript, piece: Piece) -> tuple[Word, ...]:
    """The words of a piece that are not struck."""
    struck = {word for cut in piece.word_cuts for word in cut.words}
    return tuple(word for word in piece_words(transcript, piece) if word.id not in struck)


def kept_spans(transcript: Transcript, piece: Piece) -> list[Span]:
    """The stretches of the recording that stay, in order, not touching each other.

    A kept word is never taken out, not even where a pause cut reaches over it.
    """
    words = piece_words(transcript, piece)
    struck = {word for cut in piece.word_cuts for word in cut.words}
    removed = _struck_spans(words, struck, piece)
    pauses = [(cut.start, cut.end) for cut in piece.pause_cuts]
    kept = [word for word in words if word.id not in struck]
    if words and not kept:
        return []  # the silence around words that are all gone is of no use
    if pauses:
        removed += subtract(merge(pauses), [(word.start, word.end) for word in kept])
    spans = subtract([(piece.start, piece.end)], merge(removed))
    if len(spans) == 1:
        return spans
    middles = [(word.start + word.end) / 2 for word in kept]
    return [span for span in spans if span[1] - span[0] >= SLIVER or _any_within(middles, span)]


def _struck_spans(words: Sequence[Word], struck: set[int], piece: Piece) -> list[Span]:
    """One span for each run of struck words, pauses inside the run included."""
    spans: list[Span] = []
    n = 0
    while n < len(words):
        if words[n].id not in struck:
            n += 1
            continue
        first = n
        while n < len(words) and words[n].id in struck:
            n += 1
        left = words[first - 1].end if first else None
        right = words[n].start if n < len(words) else None
        spans.append(_around(words[first].start, words[n - 1].end, left, right, piece))
    return spans


def _around(start: float, end: float, left: float | None, right: float | None, piece: Piece) -> Span:
    """How far a cut reaches beyond the struck words themselves.

    Of two small gaps as much stays as the longer one had, so that the kept
    words join at their natural distance; a pause long enough to be shown in
    the text is left for the person to cut.
    """
    before = start - (piece.start if left is None else left)
    after = (piece.end if right is None else right) - end
    if before < SHOWN_PAUSE and after < SHOWN_PAUSE:
        total = before + after
        share = max(before, after) / total if total > 0 else 0.0
        take_before = before if left is None else before * (1 - share)
        take_after = after if right is None else after * (1 - share)
    else:
        take_before = before if before < SHOWN_PAUSE and after >= SHOWN_PAUSE else min(EDGE, before)
        take_after = after if after < SHOWN_PAUSE and before >= SHOWN_PAUSE else min(EDGE, after)
        # The gap that goes leaves enough not to bite the neighbour's tail.
        if left is not None:
            take_before = min(take_before, max(before - 0.02, 0))
        if right is not None:
            take_after = min(take_after, max(after - 0.02, 0))
    return max(start - take_before, piece.start), min(end + take_after, piece.end)


def _any_within(sorted_times: Sequence[float], span: Span) -> bool:
    n = bisect_left(sorted_times, span[0])
    return n < len(sorted_times) and sorted_times[n] < span[1]
