"""The rows of a sheet: its words and pauses, kept or struck, one phrase to a row, in the order of the sheet."""

from collections.abc import Iterator, Mapping, Sequence

from pydantic import BaseModel, ConfigDict

from hovvet.core.captions.phrases import break_phrases
from hovvet.core.plan.compile import Source
from hovvet.core.plan.kept import kept_spans, piece_words
from hovvet.core.plan.model import PlanWord
from hovvet.core.plan.shown import NOTICED
from hovvet.core.sheet.model import Piece, Sheet
from hovvet.core.spans import Span, intersect
from hovvet.core.words.layout import pauses
from hovvet.core.words.transcript import Word


class Token(BaseModel):
    """A word, or a pause long enough to be shown (``word`` None): ``start`` and ``end`` in seconds of the recording.

    ``left`` are the seconds of it that are kept, None while all are; ``at`` is where that begins, in seconds of the
    output, None for what is cut.
    """

    model_config = ConfigDict(frozen=True)

    piece: str
    word: Word | None
    start: float
    end: float
    left: float | None
    at: float | None


class Row(BaseModel):
    """One phrase: ``at`` in seconds of the output, where its first kept word begins, None when all its words are cut."""

    model_config = ConfigDict(frozen=True)

    piece: str
    recording: str
    start: float
    end: float
    at: float | None
    tokens: tuple[Token, ...]


def rows(sheet: Sheet, sources: Mapping[str, Source]) -> list[Row]:
    """The rows of all pieces in order. Raises KeyError for a recording that is missing from ``sources``."""
    made: list[Row] = []
    at = 0.0
    for piece in sheet.pieces:
        source = sources[piece.recording]
        spans = kept_spans(source.transcript, piece, source.levels)
        words = piece_words(source.transcript, piece)
        struck = frozenset(word for cut in piece.word_cuts for word in cut.words)
        tokens = list(_tokens(piece, words, struck, spans, at))
        spoken = [
            PlanWord(id=word.id, piece=piece.id, text=word.text, start=word.start, end=word.end) for word in words
        ]
        for first, end in break_phrases(spoken):
            until = words[end].start if end < len(words) else float("inf")
            made.append(_row(piece, words[first:end], [tokens.pop(0) for _ in range(_before(tokens, until))]))
        at += sum(end - start for start, end in spans)
    return made


def _before(tokens: Sequence[Token], until: float) -> int:
    """How many tokens begin before a time."""
    return sum(1 for token in tokens if token.start < until)


def _row(piece: Piece, phrase: Sequence[Word], tokens: Sequence[Token]) -> Row:
    times = [token.at for token in tokens if token.word is not None and token.at is not None]
    return Row(
        piece=piece.id,
        recording=piece.recording,
        start=max(phrase[0].start, piece.start),
        end=min(phrase[-1].end, piece.end),
        at=min(times) if times else None,
        tokens=tuple(tokens),
    )


def _tokens(
    piece: Piece, words: Sequence[Word], struck: frozenset[int], spans: Sequence[Span], at: float
) -> Iterator[Token]:
    """The words of a piece and the pauses between them, in order; ``at`` is where the piece begins in the output."""
    gaps = [gap for gap in pauses(words, piece.end) if gap.start >= piece.start - NOTICED]
    n = 0
    for word in words:
        while n < len(gaps) and gaps[n].start < word.start:
            yield _pause(piece, gaps[n].start, gaps[n].end, spans, at)
            n += 1
        kept = word.id not in struck
        yield Token(
            piece=piece.id,
            word=word,
            start=word.start,
            end=word.end,
            left=None if kept else 0.0,
            at=_output(word.start, spans, at) if kept else None,
        )
    for gap in gaps[n:]:
        yield _pause(piece, gap.start, gap.end, spans, at)


def _pause(piece: Piece, start: float, end: float, spans: Sequence[Span], at: float) -> Token:
    left = sum(b - a for a, b in intersect([(start, end)], spans))
    return Token(
        piece=piece.id,
        word=None,
        start=start,
        end=end,
        left=None if left >= end - start - NOTICED else round(left, 2) if left >= NOTICED else 0.0,
        at=_output(start, spans, at) if left >= NOTICED else None,
    )


def _output(seconds: float, spans: Sequence[Span], at: float) -> float:
    """Where a time of the recording is in the output; of one that is cut, where what follows it begins."""
    for start, end in spans:
        if seconds < end:
            return at + max(seconds - start, 0.0)
        at += end - start
    return at
