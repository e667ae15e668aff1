"""Applying edits to sheets: pure functions from one sheet to the next."""

from collections.abc import Collection, Iterable, Iterator, Sequence
from itertools import groupby, pairwise

from hovvet.core.sheet.cuts import Cutting, only
from hovvet.core.sheet.edits import (
    ArrangePieces,
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
from hovvet.core.sheet.limits import check_gaps, check_growth, check_marked, check_number, check_steps
from hovvet.core.sheet.model import CaptionBreak, Edition, Layer, PauseCut, Piece, Sheet
from hovvet.core.time import EPSILON
from hovvet.core.value import with_changes


def apply(sheet: Sheet, edit: Edit) -> Sheet:
    """The sheet after the edit. The given sheet is not changed.

    Raises EditError when the edit names what the sheet does not have, does not fit it, or makes it hold more than a
    sheet may.
    """
    after = replayed(sheet, edit, limited=True)
    check_gaps(sheet, after)
    check_growth(sheet, after)
    return after


def replayed(sheet: Sheet, edit: Edit, limited: bool = False) -> Sheet:
    """The sheet after an edit that was kept before, maybe when sheets could hold more; ``limited``: no further than
    sheets may grow."""
    before, steps = sheet, 0
    for piece, run in groupby(_singles(edit), key=_piece_cut):
        if piece is not None:
            sheet = _cut(sheet, piece, run)
            continue
        for each in run:
            steps += 1
            sheet = _applied(sheet, each)
            if limited:
                check_steps(steps)
                check_number(before, sheet)
    return sheet


def _singles(edit: Edit) -> Iterator[Edit]:
    if isinstance(edit, Batch):
        for each in edit.edits:
            yield from _singles(each)
    else:
        yield edit


def _piece_cut(edit: Edit) -> str | None:
    """The piece in which an edit cuts or brings back; None for any other edit."""
    return edit.piece if isinstance(edit, (CutWords, CutPause, BringBack)) else None


def _applied(sheet: Sheet, edit: Edit) -> Sheet:
    match edit:
        case SetCaptions():
            return with_changes(sheet, captions=edit.captions, style=edit.style)
        case BreakCaption():
            others = tuple(each for each in sheet.breaks if each.word != edit.word)
            own = (CaptionBreak(word=edit.word, how=edit.how),) if edit.how else ()
            return with_changes(sheet, breaks=(*others, *own))
        case MarkKeywords():
            named = frozenset(edit.words)
            kept = tuple(each for each in sheet.keywords if each not in named)
            check_marked(len(kept) + len(edit.words))
            return with_changes(sheet, keywords=(*kept, *(edit.words if edit.marked else ())))
        case SetLayout():
            return with_changes(sheet, layout=edit.layout)
        case WearHouse():
            return with_changes(sheet, house=edit.worn)
        case PutLayer() | RemoveLayer():
            return with_changes(sheet, layers=_layers(sheet, edit))
        case PutEdition() | RemoveEdition():
            return with_changes(sheet, editions=_editions(sheet, edit))
        case SplitPiece() | MovePieces() | CopyPieces() | RemovePiece() | InsertPieces() | TrimPiece():
            return with_changes(sheet, pieces=_pieces(sheet, edit))
        case ArrangePieces():
            return with_changes(sheet, pieces=_arranged(edit))
    raise AssertionError(f"{edit.type} is applied by others")


def _pieces(
    sheet: Sheet,
    edit: SplitPiece | MovePieces | CopyPieces | RemovePiece | InsertPieces | TrimPiece,
) -> tuple[Piece, ...]:
    match edit:
        case MovePieces() | CopyPieces() | InsertPieces():
            return _placed(sheet, edit)
        case RemovePiece():
            return _without(sheet, edit)
        case SplitPiece():
            return _parted(sheet, edit)
    return _with_piece(sheet, _trimmed(_piece(sheet, edit.piece), edit))


def _with_piece(sheet: Sheet, piece: Piece) -> tuple[Piece, ...]:
    return tuple(piece if each.id == piece.id else each for each in sheet.pieces)


def _cut(sheet: Sheet, piece_id: str, edits: Iterable[Edit]) -> Sheet:
    """Cuts in one piece, made together: a sweep of a long recording has thousands."""
    before = _piece(sheet, piece_id)
    cutting = Cutting(before)
    for edit in edits:
        match edit:
            case CutWords():
                cutting.cut_words(edit)
            case CutPause():
                cutting.cut_pause(edit)
            case BringBack():
                cutting.bring_back(edit)
    after = cutting.piece
    return sheet if after is before else with_changes(sheet, pieces=_with_piece(sheet, after))


def _layers(sheet: Sheet, edit: PutLayer | RemoveLayer) -> tuple[Layer, ...]:
    if isinstance(edit, RemoveLayer):
        left = tuple(each for each in sheet.layers if each.id != edit.layer)
        if len(left) == len(sheet.layers):
            raise EditError("That is no longer on the sheet.", f"no layer {edit.layer!r}")
        return left
    if any(each.id == edit.layer.id for each in sheet.layers):
        return tuple(edit.layer if each.id == edit.layer.id else each for each in sheet.layers)
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
    return (*sheet.editions, edit.edition)


def _piece(sheet: Sheet, piece_id: str) -> Piece:
    try:
        return sheet.piece(piece_id)
    except KeyError:
        raise EditError("That piece is no longer on the sheet.", f"no piece {piece_id!r}") from None


def _named(sheet: Sheet, names: Sequence[str]) -> list[Piece]:
    """The pieces of these names, in that order."""
    known = {piece.id: piece for piece in sheet.pieces}
    missing = next((name for name in names if name not in known), None)
    if missing is not None:
        raise EditError("That piece is no longer on the sheet.", f"no piece {missing!r}")
    return [known[name] for name in names]


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
            chosen = _named(sheet, edit.pieces)
            names = frozenset(edit.pieces)
            rest = [piece for piece in rest if piece.id not in names]
    ids = [piece.id for piece in rest]
    if edit.before is not None and edit.before not in ids:
        raise EditError("The place to move to is no longer on the sheet.", f"no piece {edit.before!r}")
    place = len(ids) if edit.before is None else ids.index(edit.before)
    return joined([*rest[:place], *chosen, *rest[place:]])


def _arranged(edit: ArrangePieces) -> tuple[Piece, ...]:
    """Pieces in place of all others. Raises EditError where a name, or a moment of an origin, is in two places."""
    if len({piece.id for piece in edit.pieces}) < len(edit.pieces):
        raise EditError("Two pieces have the same name.")
    of: dict[str, list[Piece]] = {}
    for piece in edit.pieces:
        if piece.end <= piece.start:
            raise EditError("A piece must end after it starts.")
        of.setdefault(piece.origin, []).append(piece)
    for pieces in of.values():
        pieces.sort(key=lambda piece: piece.start)
        if any(before.end > after.start + EPSILON for before, after in pairwise(pieces)):
            raise EditError("Two pieces show the same moment under one origin.")
    return joined(edit.pieces)


def _copies(sheet: Sheet, edit: CopyPieces) -> list[Piece]:
    """Copies; what was split from one another stays so among them too."""
    if len(edit.fresh) != len(edit.pieces):
        raise EditError("Each copy needs a name of its own.")
    _check_fresh(sheet, edit.fresh)
    origins: dict[str, str] = {}
    made = []
    for piece, fresh in zip(_named(sheet, edit.pieces), edit.fresh, strict=True):
        origin = origins.setdefault(piece.origin, fresh)
        made.append(with_changes(piece, id=fresh, origin=origin))
    return made


def _without(sheet: Sheet, edit: RemovePiece) -> tuple[Piece, ...]:
    gone = _piece(sheet, edit.piece)
    if len(sheet.pieces) == 1:
        raise EditError("This is the only piece left. Delete the clip instead.")
    return joined([piece for piece in sheet.pieces if piece is not gone])


def _parted(sheet: Sheet, edit: SplitPiece) -> tuple[Piece, ...]:
    whole = _piece(sheet, edit.piece)
    _check_fresh(sheet, (edit.fresh,))
    place = next(n for n, piece in enumerate(sheet.pieces) if piece is whole)
    return (*sheet.pieces[:place], *split(whole, edit), *sheet.pieces[place + 1 :])


def _check_fresh(sheet: Sheet, names: Collection[str]) -> None:
    fresh = frozenset(names)
    if len(fresh) < len(names) or any(piece.id in fresh or piece.origin in fresh for piece in sheet.pieces):
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
            with_changes(cut, start=max(cut.start, start), end=min(cut.end, end))
            for cut in piece.pause_cuts
            if max(cut.start, start) < min(cut.end, end)
        )

    after = frozenset(edit.struck)
    before = frozenset(word for cut in piece.word_cuts for word in cut.words) - after
    first = {"end": at, "word_cuts": only(piece.word_cuts, before), "pause_cuts": cuts(piece.start, at)}
    second = {
        "id": edit.fresh,
        "start": at,
        "word_cuts": only(piece.word_cuts, after),
        "pause_cuts": cuts(at, piece.end),
    }
    return with_changes(piece, **first), with_changes(piece, **second)


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
            pauses[meets] = with_changes(pauses[meets], end=cut.end)
    return with_changes(first, end=second.end, word_cuts=words, pause_cuts=tuple(pauses))


def _trimmed(piece: Piece, edit: TrimPiece) -> Piece:
    if edit.end <= edit.start + EPSILON:
        raise EditError("A piece must keep something. To take all of it out, delete the piece.")
    return with_changes(piece, start=edit.start, end=edit.end)
