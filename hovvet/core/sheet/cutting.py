"""Which stretches of a piece are kept once its cuts are made."""

from bisect import bisect_left
from collections.abc import Sequence

from hovvet.core.sheet.model import Piece
from hovvet.core.sound.silence import Levels
from hovvet.core.spans import Span, merge, subtract
from hovvet.core.words.layout import SHOWN_PAUSE
from hovvet.core.words.transcript import Transcript, Word

EDGE = 0.03  # seconds of a shown pause that go with a struck word: its breath and echo
REACH = 0.03  # seconds by which an edge may move to a quieter place
SLIVER = 0.05  # kept stretches without a word shorter than this are left out


def piece_words(transcript: Transcript, piece: Piece) -> tuple[Word, ...]:
    """The words of a piece, struck or not."""
    return transcript.between(piece.start, piece.end)


def kept_words(transcript: Transcript, piece: Piece) -> tuple[Word, ...]:
    """The words of a piece that are not struck."""
    struck = {word for cut in piece.word_cuts for word in cut.words}
    return tuple(word for word in piece_words(transcript, piece) if word.id not in struck)


def kept_spans(transcript: Transcript, piece: Piece, levels: Levels | None = None) -> list[Span]:
    """The stretches of the recording that stay, in order, not touching each other.

    A kept word is never taken out, not even where a pause cut reaches over it. Where the
    ``levels`` of the recording are known, cuts of words begin and end at the quietest place nearby.
    """
    if not piece.word_cuts and not piece.pause_cuts:
        return [(piece.start, piece.end)]
    words = piece_words(transcript, piece)
    struck = _struck_places(transcript, words, piece)
    if words and len(struck) == len(words):
        return []  # the silence around words that are all gone is of no use
    removed = _struck_spans(words, struck, piece, levels)
    if piece.pause_cuts:
        gone = frozenset(struck)
        for start, end in merge([(cut.start, cut.end) for cut in piece.pause_cuts]):
            inside = range(bisect_left(words, start, key=_end), bisect_left(words, end, key=_start))
            removed += subtract([(start, end)], [(words[n].start, words[n].end) for n in inside if n not in gone])
    spans = subtract([(piece.start, piece.end)], merge(removed))
    if len(spans) == 1:
        return spans
    return [span for span in spans if span[1] - span[0] >= SLIVER or _holds_word(words, struck, span)]


def _start(word: Word) -> float:
    return word.start


def _end(word: Word) -> float:
    return word.end


def _struck_places(transcript: Transcript, words: Sequence[Word], piece: Piece) -> list[int]:
    """Where the struck words stand in ``words``, in order."""
    if not words:
        return []
    offset = transcript.position[words[0].id]
    ids = {word for cut in piece.word_cuts for word in cut.words}
    places = (transcript.position[word] - offset for word in ids if word in transcript.position)
    return sorted(place for place in places if 0 <= place < len(words))


def _struck_spans(words: Sequence[Word], struck: Sequence[int], piece: Piece, levels: Levels | None) -> list[Span]:
    """One span for each run of struck words, pauses inside the run included."""
    spans: list[Span] = []
    n = 0
    while n < len(struck):
        first = n
        while n + 1 < len(struck) and struck[n + 1] == struck[n] + 1:
            n += 1
        a, b = struck[first], struck[n]
        left = words[a - 1].end if a else None
        right = words[b + 1].start if b + 1 < len(words) else None
        start, end = _around(words[a].start, words[b].end, left, right, piece)
        if levels and left is not None and start > piece.start:
            start = levels.quietest(start, max(start - REACH, left), min(start + REACH, words[a].start + REACH, end))
        if levels and right is not None and end < piece.end:
            end = levels.quietest(end, max(end - REACH, words[b].end - REACH, start), min(end + REACH, right))
        spans.append((start, end))
        n += 1
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


def _holds_word(words: Sequence[Word], struck: Sequence[int], span: Span) -> bool:
    """Whether the middle of a kept word lies in the span."""
    n = bisect_left(words, span[0], key=lambda word: (word.start + word.end) / 2)
    gone = bisect_left(struck, n)
    while gone < len(struck) and struck[gone] == n:
        n, gone = n + 1, gone + 1
    return n < len(words) and (words[n].start + words[n].end) / 2 < span[1]
