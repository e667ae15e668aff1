"""The rows of a sheet: its words, kept or struck, one phrase to a row."""

from collections.abc import Mapping

from pydantic import BaseModel, ConfigDict

from hovvet.core.captions.phrases import break_phrases
from hovvet.core.plan.kept import piece_words
from hovvet.core.plan.model import Plan, PlanWord
from hovvet.core.sheet.model import Sheet
from hovvet.core.words.transcript import Transcript, Word


class Row(BaseModel):
    """One phrase. ``start`` and ``end`` in seconds of the recording; ``at`` in seconds of the
    output, where its first kept word begins, None when all its words are struck."""

    model_config = ConfigDict(frozen=True)

    piece: str
    recording: str
    start: float
    end: float
    at: float | None
    words: tuple[Word, ...]
    struck: tuple[int, ...]


def rows(sheet: Sheet, transcripts: Mapping[str, Transcript], plan: Plan) -> list[Row]:
    """The rows of all pieces in order; ``plan`` must have been compiled from the same sheet with its words."""
    heard = {(word.piece, word.id): word.start for word in plan.words}
    made = []
    for piece in sheet.pieces:
        words = piece_words(transcripts[piece.recording], piece)
        struck = {word for cut in piece.word_cuts for word in cut.words}
        spoken = [PlanWord(id=w.id, piece=piece.id, text=w.text, start=w.start, end=w.end) for w in words]
        for first, end in break_phrases(spoken):
            phrase = words[first:end]
            times = [heard[piece.id, word.id] for word in phrase if (piece.id, word.id) in heard]
            made.append(
                Row(
                    piece=piece.id,
                    recording=piece.recording,
                    start=max(phrase[0].start, piece.start),
                    end=min(phrase[-1].end, piece.end),
                    at=min(times) if times else None,
                    words=phrase,
                    struck=tuple(word.id for word in phrase if word.id in struck),
                )
            )
    return made
