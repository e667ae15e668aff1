"""Where a piece begins and ends: by words, by frames, to the sentence."""

from bisect import bisect_left
from collections.abc import Sequence
from typing import Literal

from hovvet.core.sheet.edits import EditError, TrimPiece
from hovvet.core.sheet.limits import SHORTEST_GAP
from hovvet.core.sheet.model import Piece
from hovvet.core.sheet.starting import edges_of
from hovvet.core.time import Rate
from hovvet.core.words.transcript import Transcript, Word
from hovvet.core.words.vocabulary import ends_sentence

Edge = Literal["start", "end"]
BEYOND = 12  # words beyond an edge that are offered to take in


def trimmed_to_word(piece: Piece, edge: Edge, word: int, transcript: Transcript) -> TrimPiece:
    """The trim that lets a piece begin, or end, with a word of its recording."""
    place = transcript.position.get(word)
    if place is None:
        raise EditError("That word is no longer there. Select another one.", f"no word {word}")
    start, end = edges_of(transcript, place, place)
    return _trim(piece, start if edge == "start" else piece.start, end if edge == "end" else piece.end)


def trimmed_by_frames(piece: Piece, edge: Edge, frames: int, rate: Rate, limit: float) -> TrimPiece:
    """The trim that moves an edge so many frames later (earlier, when less than 0), within 0 and ``limit`` seconds."""
    by = rate.seconds(frames)
    if piece.is_gap:
        end = piece.end + (by if edge == "end" else -by)
        return TrimPiece(piece=piece.id, start=0, end=min(max(end, SHORTEST_GAP), limit))
    start = max(piece.start + by, 0.0) if edge == "start" else piece.start
    end = min(piece.end + by, limit) if edge == "end" else piece.end
    return _trim(piece, start, end)


def trimmed_to_sentence(piece: Piece, edge: Edge, transcript: Transcript) -> TrimPiece:
    """The trim that lets a piece begin where its first sentence does, or end where its last one does."""
    words = transcript.between(piece.start, piece.end)
    if not words:
        raise EditError("There are no words in this piece to go by.")
    place = transcript.position[words[0 if edge == "start" else -1].id]
    if edge == "start":
        while place > 0 and not ends_sentence(transcript.words[place - 1].text):
            place -= 1
    else:
        while place < len(transcript.words) - 1 and not ends_sentence(transcript.words[place].text):
            place += 1
    return trimmed_to_word(piece, edge, transcript.words[place].id, transcript)


def beyond(piece: Piece, transcript: Transcript) -> tuple[Sequence[Word], Sequence[Word]]:
    """A few words of the recording before a piece, and after it."""
    middles = [(word.start + word.end) / 2 for word in transcript.words]
    first, last = bisect_left(middles, piece.start), bisect_left(middles, piece.end)
    return transcript.words[max(first - BEYOND, 0) : first], transcript.words[last : last + BEYOND]


def _trim(piece: Piece, start: float, end: float) -> TrimPiece:
    if end <= start:
        raise EditError("A piece must keep something. To take all of it out, delete the piece.")
    return TrimPiece(piece=piece.id, start=start, end=end)
