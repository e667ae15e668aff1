"""Starting sheets: the desk of a whole recording, and a clip from a stretch of it."""

from hovvet.core.errors import CoreError
from hovvet.core.plan.kept import kept_words
from hovvet.core.sheet.model import Piece, Sheet
from hovvet.core.words.transcript import Transcript, plain_text

_TITLE_WORDS = 7
LEAD_IN = 0.12  # seconds kept before the first word and after the last, where there is silence
LEAD_OUT = 0.25


def desk_sheet(recording: str, duration: float) -> Sheet:
    """The sheet of a whole recording: one piece, nothing cut. ``duration`` in seconds."""
    return Sheet(pieces=(Piece(id="p1", recording=recording, start=0, end=duration),), captions=None)


def clip_sheet(desk: Sheet, transcript: Transcript, first: int, last: int) -> Sheet:
    """A clip of the words ``first`` to ``last`` (ids), with the cuts already made on the desk.

    Raises CoreError when the words are not in the transcript or all of them are cut.
    """
    try:
        a, b = sorted((transcript.position[first], transcript.position[last]))
    except KeyError:
        raise CoreError("Those words are no longer in the transcript. Select the passage again.") from None
    words = transcript.words
    before = words[a - 1].end if a else 0.0
    after = words[b + 1].start if b + 1 < len(words) else transcript.duration
    start = max(words[a].start - LEAD_IN, (before + words[a].start) / 2)
    end = min(words[b].end + LEAD_OUT, (words[b].end + after) / 2)
    chosen = {word.id for word in words[a : b + 1]}
    desk_piece = desk.pieces[0]
    word_cuts = tuple(
        cut.model_copy(update={"words": inside})
        for cut in desk_piece.word_cuts
        if (inside := tuple(word for word in cut.words if word in chosen))
    )
    if len({word for cut in word_cuts for word in cut.words}) == len(chosen):
        raise CoreError("Every word of that passage is cut. Bring some back, or select another passage.")
    pause_cuts = tuple(
        cut.model_copy(update={"start": max(cut.start, start), "end": min(cut.end, end)})
        for cut in desk_piece.pause_cuts
        if cut.start < end and start < cut.end
    )
    piece = Piece(
        id="p1", recording=desk_piece.recording, start=start, end=end, word_cuts=word_cuts, pause_cuts=pause_cuts
    )
    return Sheet(pieces=(piece,))


def clip_title(sheet: Sheet, transcript: Transcript) -> str:
    """A title for a new clip: the first words of its first piece that are kept."""
    words = kept_words(transcript, sheet.pieces[0])
    title = plain_text(words[:_TITLE_WORDS]).strip(" ,.;:")
    return title + ("…" if len(words) > _TITLE_WORDS else "")
