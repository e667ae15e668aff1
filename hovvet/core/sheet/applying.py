"""Applying edits to sheets: pure functions from one sheet to the next."""

from collections.abc import Collection, Sequence

from hovvet.core.sheet.edits import (
    MOST_EDITIONS,
    MOST_LAYERS,
    Batch,
    BreakCaption,
    BringBack,
    CopyPieces,
    CutPause,
    CutWords,
    Edit,
    EditError,
    InsertPieces,
    MarkKeywords,
    MovePieces,
    PutEdition,
    PutLayer,
    RemoveEdition,
    RemoveLayer,
    RemovePiece,
    SetCaptions,
    SetLayout,
    SplitPiece,
    TrimPiece,
    WearHouse,
)
from hovvet.core.sheet.model import CaptionBreak, Edition, Layer, PauseCut, Piece, Sheet, WordCut
from hovvet.core.time import EPSILON


def apply(sheet: Sheet, edit: Edit) -> Sheet:
    """The sheet after the edit. The given sheet is not changed.

    Raises EditError when the edit names what the sheet does not have, or does not fit it.
    """
    if isinstance(edit, Batch):
        for each in edit.edits:
            sheet = apply(sheet, each)
        return sheet
    match edit:
        case SetCaptions():
            return sheet.model_copy(update={"captions": edit.captions, "style": edit.style})
        case BreakCaption():
            others = tuple(each for each in sheet.breaks if each.word != edit.word)
            own = (CaptionBreak(word=edit.word, how=edit.how),) if edit.how else ()
            return sheet.model_copy(update={"breaks": (*others, *own)})
        case MarkKeywords():
            kept = tuple(each for each in sheet.keywords if each not in frozenset(edit.words))
            return sheet.model_copy(update={"keywords": (*kept, *(edit.words if edit.marked else ()))})
        case SetLayout():
            return sheet.model_copy(update={"layout": edit.layout})
        case WearHouse():
            return sheet.model_copy(update={"house": edit.worn})
        case PutLayer() | RemoveLayer():
            return sheet.model_copy(update={"layers": _layers(sheet, edit)})
        case PutEdition() | RemoveEdition():
            return sheet.model_copy(update={"editions": _editions(sheet, edit)})
    return sheet.model_copy(update={"pieces": _pieces(sheet, edit)})


def _pieces(
    sheet: Sheet,
    edit: CutWords
    | CutPause
    | BringBack
    | SplitPiece
    | MovePieces
    | CopyPieces
    | RemovePiece
    | InsertPieces
    | TrimPiece,
) -> tuple[Piece, ...]:
    match edit:
        case MovePieces() | CopyPieces() | InsertPieces():
            return _placed(sheet, edit)
        case RemovePiece():
            return _without(sheet, edit)
        case SplitPiece():
            return _parted(sheet, edit)
    piece = _piece(sheet, edit.piece)
    match edit:
        case CutWords():
            piece = _cut_words(piece, edit)
        case CutPause():
            piece = _cut_pause(piece, edit)
        case BringBack():
            piece = _bring_back(piece, edit)
        case TrimPiece():
            piece = _trimmed(piece, edit)
    return tuple(piece if each.id == piece.id else each for each in sheet.pieces)


def _layers(sheet: Sheet, edit: PutLayer | RemoveLayer) -> tuple[Layer, ...]:
    if isinstance(edit, RemoveLayer):
        left = tuple(each for each in sheet.layers if each.id != edit.layer)
        if len(left) == len(sheet.layers):
            raise EditError("That is no longer on the sheet.", f"no layer {edit.layer!r}")
        return left
    if any(each.id == edit.layer.id for each in sheet.layers):
        return tuple(edit.layer if each.id == edit.layer.id else each for each in sheet.layers)
    if len(sheet.layers) >= MOST_LAYERS:
        raise EditError(f"There are {MOST_LAYERS} things on this sheet already. Take some off first.")
    return (*sheet.layers, edit.layer)


def _editions(sheet: Sheet, edit: PutEdition | RemoveEdition) -> tuple[Edition, ...]:
    if isinstance(edit, RemoveEdition):
        left = tuple(each for each in sheet.editions if each.id != edit.edition)
        if len(left) == len(sheet.editions):
            raise EditError("That edition is no longer there.", f"no edition {edit.edition!r}")
        if not left:
            raise EditError("This is the only edition. Add another one first.")
        return left
    if any(each.id == edit.edition.id for each in sheet.editions):
        return tuple(edit.edition if each.id == edit.edition.id else each for each in sheet.editions)
    if len(sheet.editions) >= MOST_EDITIONS:
        raise EditError(f"A clip has at most {MOST_EDITIONS} editions. Remove one first.")
    return (*sheet.editions, edit.edition)


def _piece(sheet: Sheet, piece_id: str) -> Piece:
    try:
        return sheet.piece(piece_id)
    except KeyError:
        raise EditError("That piece is no longer on the sheet.", f"no piece {piece_id!r}") from None


def _placed(sheet: Sheet, edit: MovePieces | CopyPieces | InsertPieces) -> tuple[Piece, ...]:
    """The pieces after some of them were moved, copied, or put in at a place."""
    rest = list(sheet.pieces)
    match edit:
        case InsertPieces():
            _check_fresh(sheet, [piece.id for piece in edit.pieces])
            _check_fresh(sheet, {piece.origin for piece in edit.pieces})
            if any(piece.end <= piece.start for piece in edit.pieces):
                raise EditError("A piece must end after it starts.")
            chosen = list(edit.pieces)
        case CopyPieces():
            chosen = _copies(sheet, edit)
        case MovePieces():
            chosen = [_piece(sheet, name) for name in edit.pieces]
            rest = [piece for piece in rest if piece not in chosen]
    ids = [piece.id for piece in rest]
    if edit.before is not None and edit.before not in ids:
        raise EditError("The place to move to is no longer on the sheet.", f"no piece {edit.before!r}")
    place = len(ids) if edit.before is None else ids.index(edit.before)
    return joined([*rest[:place], *chosen, *rest[place:]])


def _copies(sheet: Sheet, edit: CopyPieces) -> list[Piece]:
    """Copies; what was split from one another stays so among them too."""
    if len(edit.fresh) != len(edit.pieces):
        raise EditError("Each copy needs a name of its own.")
    _check_fresh(sheet, edit.fresh)
    origins: dict[str, str] = {}
    made = []
    for name, fresh in zip(edit.pieces, edit.fresh, strict=True):
        piece = _piece(sheet, name)
        origin = origins.setdefault(piece.origin, fresh)
        made.append(piece.model_copy(update={"id": fresh, "origin": origin}))
    return made


def _without(sheet: Sheet, edit: RemovePiece) -> tuple[Piece, ...]:
    gone = _piece(sheet, edit.piece)
    if len(sheet.pieces) == 1:
        raise EditError("This is the only piece left. Delete the clip instead.")
    return joined([piece for piece in sheet.pieces if piece is not gone])


def _parted(sheet: Sheet, edit: SplitPiece) -> tuple[Piece, ...]:
    whole = _piece(sheet, edit.piece)
    _check_fresh(sheet, (edit.fresh,))
    place = sheet.pieces.index(whole)
    return (*sheet.pieces[:place], *split(whole, edit), *sheet.pieces[place + 1 :])


def _check_fresh(sheet: Sheet, names: Collection[str]) -> None:
    taken = {name for piece in sheet.pieces for name in (piece.id, piece.origin)}
    if taken.intersection(names) or len(set(names)) < len(names):
        raise EditError("This was done already.", f"of {names!r} some are there")


def split(piece: Piece, edit: SplitPiece) -> tuple[Piece, Piece]:
    """The two pieces on both sides of a time. Raises EditError when that is not inside."""
    if piece.is_gap:
        raise EditError("A gap cannot be split.")
    at = edit.at
    if not piece.start + EPSILON < at < piece.end - EPSILON:
        raise EditError("A piece can be split only inside.", f"{at} s of {piece.start}-{piece.end} s")

    def cuts(start: float, end: float) -> tuple[PauseCut, ...]:
        return tuple(
            cut.model_copy(update={"start": max(cut.start, start), "end": min(cut.end, end)})
            for cut in piece.pause_cuts
            if max(cut.start, start) < min(cut.end, end)
        )

    after = frozenset(edit.struck)
    before = frozenset(word for cut in piece.word_cuts for word in cut.words) - after
    first = {"end": at, "word_cuts": _only(piece, before), "pause_cuts": cuts(piece.start, at)}
    second = {"id": edit.fresh, "start": at, "word_cuts": _only(piece, after), "pause_cuts": cuts(at, piece.end)}
    return piece.model_copy(update=first), piece.model_copy(update=second)


def _only(piece: Piece, words: frozenset[int]) -> tuple[WordCut, ...]:
    """The cuts of a piece as far as they are of these words."""
    kept = ((cut, tuple(word for word in cut.words if word in words)) for cut in piece.word_cuts)
    return tuple(cut.model_copy(update={"words": left}) for cut, left in kept if left)


def joined(pieces: Sequence[Piece]) -> tuple[Piece, ...]:
    """The pieces, those that go on exactly where the one before them ends made one with it."""
    made: list[Piece] = []
    for piece in pieces:
        if made and made[-1].origin == piece.origin and made[-1].end == piece.start and not piece.is_gap:
            made[-1] = _one(made[-1], piece)
        else:
            made.append(piece)
    return tuple(made)


def _one(first: Piece, second: Piece) -> Piece:
    words = first.word_cuts + second.word_cuts
    pauses = list(first.pause_cuts)
    for cut in second.pause_cuts:
        meets = next((n for n, each in enumerate(pauses) if each.end == cut.start and each.reason == cut.reason), None)
        if meets is None:
            pauses.append(cut)
        else:
            pauses[meets] = pauses[meets].model_copy(update={"end": cut.end})
    return first.model_copy(update={"end": second.end, "word_cuts": words, "pause_cuts": tuple(pauses)})


def _trimmed(piece: Piece, edit: TrimPiece) -> Piece:
    if edit.end <= edit.start + EPSILON:
        raise EditError("A piece must keep something. To take all of it out, delete the piece.")
    return piece.model_copy(update={"start": edit.start, "end": edit.end})


def _cut_words(piece: Piece, edit: CutWords) -> Piece:
    struck = {word for cut in piece.word_cuts for word in cut.words}
    fresh = tuple(word for word in dict.fromkeys(edit.words) if word not in struck)
    if not fresh:
        return piece
    cut = WordCut(words=fresh, reason=edit.reason)
    return piece.model_copy(update={"word_cuts": (*piece.word_cuts, cut)})


def _cut_pause(piece: Piece, edit: CutPause) -> Piece:
    start, end = max(edit.start, piece.start), min(edit.end, piece.end)
    if end <= start:
        raise EditError("That pause is not in this piece.", f"{edit.start}-{edit.end} s")
    cut = PauseCut(start=start, end=end, reason=edit.reason)
    if cut in piece.pause_cuts:
        return piece
    return piece.model_copy(update={"pause_cuts": (*piece.pause_cuts, cut)})


def _bring_back(piece: Piece, edit: BringBack) -> Piece:
    back = frozenset(edit.words)
    word_cuts = _only(piece, frozenset(word for cut in piece.word_cuts for word in cut.words) - back)
    pause_cuts = tuple(
        cut for cut in piece.pause_cuts if not any(cut.start < end and start < cut.end for start, end in edit.spans)
    )
    return piece.model_copy(update={"word_cuts": word_cuts, "pause_cuts": pause_cuts})
