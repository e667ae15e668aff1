"""Starting sheets: the desk of a whole recording, and a clip from a stretch of it."""

from collections.abc import Iterable, Mapping, Sequence

from hovvet.core.errors import CoreError
from hovvet.core.picture.faces import Faces
from hovvet.core.plan.outlets import Outlet
from hovvet.core.sheet.contents.framing import Framing
from hovvet.core.sheet.cutting import kept_words
from hovvet.core.sheet.edits import EditError
from hovvet.core.sheet.model import Layer, Piece, Sheet
from hovvet.core.spans import Span, intersect, merge
from hovvet.core.value import with_changes
from hovvet.core.words.transcript import Transcript, plain_text

_TITLE_WORDS = 7
LEAD_IN = 0.12  # seconds kept before the first word and after the last, where there is silence
LEAD_OUT = 0.25
_WIDER = 1.15  # times as wide as the outlet: from there on a picture has to be framed
_SEEN = 0.5  # of a clip in which there is a face


def desk_sheet(recording: str, duration: float) -> Sheet:
    """The sheet of a whole recording: one piece, nothing cut. ``duration`` in seconds."""
    return Sheet(pieces=(Piece(id="p1", recording=recording, start=0, end=duration),), captions=None)


def check_desk(before: Sheet, after: Sheet) -> None:
    """Raises EditError when an edit would make of a desk anything else than one recording, whole, with cuts."""

    def bare(sheet: Sheet) -> list[Piece]:
        return [with_changes(piece, word_cuts=(), pause_cuts=()) for piece in sheet.pieces]

    if bare(before) != bare(after) or after.layers:
        raise EditError("On the desk words and pauses can be cut. To move or lay anything, make a clip.")


def edges_of(transcript: Transcript, first: int, last: int) -> tuple[float, float]:
    """Where a piece of the words at places ``first`` to ``last`` begins and ends, in seconds: with a little silence,
    where there is some."""
    words = transcript.words
    before = words[first - 1].end if first else 0.0
    after = words[last + 1].start if last + 1 < len(words) else transcript.duration
    start = max(words[first].start - LEAD_IN, (before + words[first].start) / 2)
    end = min(words[last].end + LEAD_OUT, (words[last].end + after) / 2)
    return start, end


def passage(desk: Sheet, transcript: Transcript, first: int, last: int) -> Piece:
    """A piece of the words ``first`` to ``last`` (ids) of a desk, with the cuts already made there.

    Raises CoreError when the words are not in the transcript or all of them are cut.
    """
    try:
        a, b = sorted((transcript.position[first], transcript.position[last]))
    except KeyError:
        raise CoreError("Those words are no longer in the transcript. Select the passage again.") from None
    start, end = edges_of(transcript, a, b)
    chosen = {word.id for word in transcript.words[a : b + 1]}
    (desk_piece,) = desk.pieces  # a desk is one recording, whole
    word_cuts = tuple(
        with_changes(cut, words=inside)
        for cut in desk_piece.word_cuts
        if (inside := tuple(word for word in cut.words if word in chosen))
    )
    if len({word for cut in word_cuts for word in cut.words}) == len(chosen):
        raise CoreError("Every word of that passage is cut. Bring some back, or select another passage.")
    pause_cuts = tuple(
        with_changes(cut, start=max(cut.start, start), end=min(cut.end, end))
        for cut in desk_piece.pause_cuts
        if cut.start < end and start < cut.end
    )
    return Piece(
        id="p1", recording=desk_piece.recording, start=start, end=end, word_cuts=word_cuts, pause_cuts=pause_cuts
    )


def clip_sheet(
    desk: Sheet, transcript: Transcript, first: int, last: int, captions: Mapping[str, object] | None = None
) -> Sheet:
    """A clip of one passage (see ``passage``), with the ``captions`` of another one: see ``captions_of``."""
    return sheet_of_pieces([passage(desk, transcript, first, last)], captions)


def sheet_of_pieces(pieces: Sequence[Piece], captions: Mapping[str, object] | None = None) -> Sheet:
    """A clip of passages, one after the other, with the ``captions`` of another one."""
    named = tuple(with_changes(piece, id=f"p{n}", origin=f"p{n}") for n, piece in enumerate(pieces, 1))
    return Sheet(pieces=named, **(captions or {}))  # type: ignore[arg-type]


def framed(sheet: Sheet, size: tuple[int, int], outlet: Outlet, faces: Faces | None) -> Sheet:
    """A new clip of a picture of so many pixels as it is framed at first: where that is wider than the outlet and somebody
    is seen in it for most of the clip, the speaker is followed."""
    width, height = size
    if not faces or not height or width / height < _WIDER * outlet.width / outlet.height:
        return sheet
    clip = [(piece.start, piece.end) for piece in sheet.pieces if piece.recording is not None]
    seen = intersect(clip, merge([faces.span(track) for track in faces.tracks]))
    if _length(seen) < _SEEN * _length(clip):
        return sheet
    return with_changes(sheet, layers=(*sheet.layers, Layer(id="l1", content=Framing(mode="speaker"))))


def _length(spans: Iterable[Span]) -> float:
    return sum(end - start for start, end in spans)


def captions_of(sheet: Sheet) -> dict[str, object]:
    """How the captions of a clip look and are laid out, to begin other clips with: fields of a sheet, as JSON."""
    return sheet.model_dump(mode="json", include={"captions", "style", "layout"})


def clip_title(sheet: Sheet, transcript: Transcript) -> str:
    """A title for a new clip: the first words that are kept of the recording that it begins with."""
    first = sheet.pieces[0].recording
    words = [word for piece in sheet.pieces if piece.recording == first for word in kept_words(transcript, piece)]
    title = plain_text(words[:_TITLE_WORDS]).strip(" ,.;:")
    return title + ("…" if len(words) > _TITLE_WORDS else "")
