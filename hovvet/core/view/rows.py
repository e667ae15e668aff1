"""The rows of a sheet: its words and pauses, kept or struck, one phrase to a row, in the order of the sheet."""

from collections.abc import Collection, Iterator, Mapping, Sequence
from functools import lru_cache
from itertools import groupby

from pydantic import BaseModel, ConfigDict

from hovvet.core.captions.phrases import break_phrases
from hovvet.core.compile.contents import placement_of
from hovvet.core.compile.scene import Box, Laid, Scene
from hovvet.core.compile.timeline import Timeline
from hovvet.core.sheet.contents.base import Lane, Showing
from hovvet.core.sheet.model import Layer, Piece, Sheet
from hovvet.core.sheet.places import Spot
from hovvet.core.value import DOCUMENTED
from hovvet.core.view.shown import NOTICED
from hovvet.core.words.layout import pauses
from hovvet.core.words.transcript import Word

NO_NAMES: Mapping[str, str] = {}
_COMES = 0.6  # seconds after which what fades, slides or pops in on screen is there


class Token(BaseModel):
    """A word, or a pause long enough to be shown (``word`` None): ``start`` and ``end`` in seconds of the recording. A gap
    is a token too, of no recording.

    ``left`` are the seconds of it that are kept, None while all are; ``at`` is where that begins, in seconds of the
    output, None for what is cut.
    """

    model_config = ConfigDict(frozen=True)

    piece: str
    origin: str
    word: Word | None
    start: float
    end: float
    left: float | None
    at: float | None


class Row(BaseModel):
    """One phrase: ``at`` in seconds of the output, where its first kept word begins, None when all its words are cut.
    ``recording`` None is a gap. ``missing``: its recording is gone."""

    model_config = ConfigDict(frozen=True)

    piece: str
    recording: str | None
    start: float
    end: float
    at: float | None
    tokens: tuple[Token, ...]
    missing: bool = False


class Bar(BaseModel):
    """A layer as its lane shows it."""

    model_config = ConfigDict(frozen=True, use_attribute_docstrings=DOCUMENTED)

    layer: str
    """By id."""
    kind: str
    """Of its content."""
    lane: Lane
    """In which it stands."""
    label: str
    """What it is called there: what it says or shows, by name."""
    first: int | None
    """The first token over which it lies, counted through all rows; None while it sleeps."""
    last: int | None
    """The last one."""
    start: float | None
    """Seconds of the output at which it begins."""
    end: float | None
    """Seconds of the output at which it is over."""
    shown: float | None
    """Seconds of the output at which to look at it: once it has come. None while it sleeps, and for what lies over all."""
    whole: bool
    """Whether it lies over the whole clip."""
    note: str
    """What a person has to know of it; "" for nothing."""
    media: str = ""
    """What of the workspace it shows or plays; "" for nothing."""
    box: Box | None = None
    """Where it stands on screen."""
    volume: float | None = None
    """dB that its own sound is set to; None for what has none."""
    lasts: float | None = None
    """Seconds for which a voice over the clip is heard, be that longer than its words; None for all else."""


def rows(sheet: Sheet, scene: Scene) -> list[Row]:
    """The rows of all pieces in order, as they are in a scene of the sheet."""
    made: list[Row] = []
    placed = enumerate(scene.places.spots)
    spots = {piece: list(own) for piece, own in groupby(placed, key=lambda each: each[1].piece.id)}
    for piece in sheet.pieces:
        own = spots.get(piece.id, [])
        if piece.is_gap:
            made.append(_gap(piece, scene.timeline))
        elif piece.recording not in scene.sources:
            made.append(_missing(piece))
        elif own:
            made += _of_piece(piece, own, scene)
    return made


def _gap(piece: Piece, timeline: Timeline) -> Row:
    at = timeline.frame_at(piece.id, 0.0) / timeline.rate.fps
    token = Token(piece=piece.id, origin=piece.origin, word=None, start=0, end=piece.end, left=None, at=at)
    return Row(piece=piece.id, recording=None, start=0, end=piece.end, at=at, tokens=(token,))


def _missing(piece: Piece) -> Row:
    return Row(
        piece=piece.id, recording=piece.recording, start=piece.start, end=piece.end, at=None, tokens=(), missing=True
    )


_Placed = tuple[int, Spot]  # the place, and what stands there


def _of_piece(piece: Piece, spots: Sequence[_Placed], scene: Scene) -> Iterator[Row]:
    words = tuple(spot.word for _, spot in spots if spot.word)
    tokens = list(_tokens(piece, spots, words, scene))
    n = 0
    for first, end in _phrases(words):
        until = words[end].start if end < len(words) else float("inf")
        begin = n
        while n < len(tokens) and tokens[n].start < until:
            n += 1
        yield _row(piece, words[first:end], tokens[begin:n])


@lru_cache(maxsize=4096)
def _phrases(words: tuple[Word, ...]) -> list[tuple[int, int]]:
    """Looked up for all but the pieces that an edit changes: it is half of what the rows of many pieces take."""
    return break_phrases(words)


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


def _tokens(piece: Piece, spots: Sequence[_Placed], words: Sequence[Word], scene: Scene) -> Iterator[Token]:
    """The words of a piece and the pauses between them, in order."""
    gaps = [gap for gap in pauses(words, piece.end) if gap.start >= piece.start - NOTICED]
    n = 0
    timeline = scene.timeline
    for place, spot in spots:
        while n < len(gaps) and gaps[n].start < spot.start:
            yield _pause(piece, gaps[n].start, gaps[n].end, timeline)
            n += 1
        yield Token(
            piece=piece.id,
            origin=piece.origin,
            word=spot.word,
            start=spot.start,
            end=spot.end,
            left=None if spot.kept else 0.0,
            at=scene.begins(place) if spot.kept else None,
        )
    for gap in gaps[n:]:
        yield _pause(piece, gap.start, gap.end, timeline)


def _pause(piece: Piece, start: float, end: float, timeline: Timeline) -> Token:
    left = timeline.kept(piece.id, start, end)
    return Token(
        piece=piece.id,
        origin=piece.origin,
        word=None,
        start=start,
        end=end,
        left=None if left >= end - start - NOTICED else round(left, 2) if left >= NOTICED else 0.0,
        at=timeline.frame_at(piece.id, start) / timeline.rate.fps if left >= NOTICED else None,
    )


def bars(
    sheet: Sheet, scene: Scene, made: Sequence[Row], hidden: Collection[str] = (), names: Mapping[str, str] = NO_NAMES
) -> list[Bar]:
    """The layers of a sheet beside its rows, in the order in which they were laid; but for those that are left out. What of
    the workspace has a name is called by it."""
    tokens = ((token, row) for row in made for token in row.tokens)
    at = [n for n, (token, row) in enumerate(tokens) if token.word is not None or row.recording is None]
    return [_bar(layer, scene, at, names) for layer in sheet.layers if layer.id not in hidden]


def _bar(layer: Layer, scene: Scene, at: Sequence[int], names: Mapping[str, str]) -> Bar:
    """``at`` is which token each place of the sheet is."""
    media = layer.content.media if isinstance(layer.content, Showing) else ""
    reach = scene.reach(layer.span)
    tokens: tuple[int | None, int | None] = (None, None)
    if reach is not None and reach.begin <= reach.end:
        tokens = at[reach.begin], at[reach.end]
    rate = scene.timeline.rate
    start, end = (rate.seconds(reach.first), rate.seconds(reach.last)) if reach else (None, None)
    return Bar(
        layer=layer.id,
        kind=layer.content.kind,
        lane=layer.content.lane,
        label=names.get(media) or layer.content.label(),
        media=media,
        first=tokens[0],
        last=tokens[1],
        start=start,
        end=end,
        shown=_shown(layer.content.lane, start, end) if not layer.span.is_whole else None,
        whole=layer.span.is_whole,
        note=placement_of(layer.content).note(Laid(layer.id, layer.content, reach), scene) if reach else "",
        box=scene.boxes.get(layer.id),
        volume=layer.content.heard_at,
        lasts=round(scene.lasts[layer.id], 2) if layer.id in scene.lasts else None,
    )


def _shown(lane: Lane, start: float | None, end: float | None) -> float | None:
    if start is None or end is None or lane != "screen":
        return start
    return start + min(_COMES, (end - start) / 2)
