"""What a person asks for on a sheet, in words and places, and the edit that it comes to on the sheet as it is."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from typing import Annotated, Literal

from pydantic import Field, FiniteFloat

from hovvet.core.captions.keywords import keywords
from hovvet.core.sheet.contents import Content
from hovvet.core.sheet.contents.punch import Punch
from hovvet.core.sheet.contents.slide import Slide
from hovvet.core.sheet.edits import Batch, Edit, EditError, InsertPieces, MarkKeywords, PutEdition, PutLayer
from hovvet.core.sheet.limits import LONGEST_GAP
from hovvet.core.sheet.model import Layer, Sheet, Span, WordRef
from hovvet.core.sheet.moving import Steps, fresh_names, gap, move_words, put_in
from hovvet.core.sheet.on_beats import to_beats
from hovvet.core.sheet.places import Places
from hovvet.core.sheet.punching import punch_at_cuts
from hovvet.core.sheet.standing_alone import as_piece, give_room
from hovvet.core.sheet.starting import passage
from hovvet.core.sheet.trimming import Edge, trimmed_by_frames, trimmed_to_sentence, trimmed_to_word
from hovvet.core.time import Rate
from hovvet.core.value import Name, Value, WordId, with_changes
from hovvet.core.words.transcript import Transcript

USUAL_CARD = 3.0  # seconds of a card at the beginning or the end


class Move(Value):
    """Words to stand elsewhere: ``first`` to ``last`` before another one, or at the end (None); with ``repeat`` in
    both places."""

    ask: Literal["move"] = "move"
    first: WordRef
    last: WordRef
    before: WordRef | None
    repeat: bool = False


class AddWords(Value):
    """Words of a recording, by id, to stand before a word of the sheet, or at the end (None)."""

    ask: Literal["add_words"] = "add_words"
    recording: Name
    first: WordId
    last: WordId
    before: WordRef | None


class AddGap(Value):
    """Seconds of nothing but background, before a word or at the end (None)."""

    ask: Literal["add_gap"] = "add_gap"
    seconds: FiniteFloat
    before: WordRef | None


class AddCard(Value):
    """A gap of some seconds (None: as cards usually are) before all that there is, or after it, and a slide over it."""

    ask: Literal["add_card"] = "add_card"
    at: Literal["beginning", "end"] = "end"
    seconds: FiniteFloat | None = None
    content: Slide


class SplitBefore(Value):
    """Make a piece begin with this word."""

    ask: Literal["split"] = "split"
    word: WordRef


class Trim(Value):
    """Let a piece begin (or end) with a word of its recording, so many frames later, or where the sentence does."""

    ask: Literal["trim"] = "trim"
    piece: Name
    edge: Edge
    word: WordId | None = None
    frames: Annotated[int, Field(ge=-10_000, le=10_000)] = 0
    sentence: bool = False


class Lay(Value):
    """Lay something over the words ``first`` to ``last``, or over the whole clip (None). ``layer`` names one that is there
    already: it is laid anew. A new one is called ``named`` where that is given, so that who asks knows it before the answer.
    A kind that stands alone takes the place of what it would cover, but for what the ``edition`` that is looked at leaves
    out."""

    ask: Literal["lay"] = "lay"
    content: Content
    layer: Name | None = None
    named: Name | None = None
    edition: Name | None = None
    first: WordRef | None = None
    last: WordRef | None = None


class PunchAtCuts(Value):
    """Closer views at every other cut, of the words ``first`` to ``last`` or of the whole clip (None)."""

    ask: Literal["punch_at_cuts"] = "punch_at_cuts"
    content: Punch | None = None
    first: WordRef | None = None
    last: WordRef | None = None


class FindKeywords(Value):
    """Mark the words that carry their phrases in the captions; those marked by hand stay."""

    ask: Literal["find_keywords"] = "find_keywords"


class SetApart(Value):
    """Have a layer otherwise in one edition: a copy of it, which that edition alone has in its place."""

    ask: Literal["set_apart"] = "set_apart"
    layer: Name
    edition: Name


class GiveRoom(Value):
    """A gap of so many seconds before the words of a layer, over which it lies then: a voice that is heard by itself."""

    ask: Literal["give_room"] = "give_room"
    layer: Name
    seconds: FiniteFloat


class AsPiece(Value):
    """Put the recording of a voice-over into the clip as a piece, before the words it lies over, in its place: its words are cut,
    swept and corrected as any others then."""

    ask: Literal["as_piece"] = "as_piece"
    layer: Name


class ToBeats(Value):
    """Put the edges of pictures, and of what is on screen, on the nearest beats of the music: of one ``layer``, or of all that lies
    over the words ``first`` to ``last``. Words stay as they are."""

    ask: Literal["to_beats"] = "to_beats"
    layer: Name | None = None
    first: WordRef | None = None
    last: WordRef | None = None


Ask = Annotated[
    Move
    | AddWords
    | AddGap
    | GiveRoom
    | AsPiece
    | ToBeats
    | AddCard
    | SplitBefore
    | Trim
    | Lay
    | PunchAtCuts
    | FindKeywords
    | SetApart,
    Field(discriminator="ask"),
]


@dataclass(frozen=True)
class Around:
    """What has to be known to answer: the transcripts and the desks (whose cuts come along) by recording, and the rate; when
    beats of its music are heard and from when until when layers are there, in seconds of the output."""

    transcripts: Mapping[str, Transcript]
    rate: Rate
    desks: Mapping[str, Sheet]
    beats: Sequence[float] = ()
    edges: Mapping[str, tuple[float, float]] = field(default_factory=dict)


def edit_for(ask: Ask, sheet: Sheet, around: Around) -> Edit:
    """The edit that does what is asked for. Raises EditError when it cannot be done on this sheet."""
    match ask:
        case Move():
            return move_words(sheet, around.transcripts, ask.first, ask.last, ask.before, ask.repeat)
        case AddWords():
            if ask.recording not in around.transcripts:
                raise EditError("That recording is not there, or not ready yet.")
            transcript, desk = around.transcripts[ask.recording], around.desks[ask.recording]
            return put_in(sheet, around.transcripts, (passage(desk, transcript, ask.first, ask.last),), ask.before)
        case AddGap():
            return put_in(sheet, around.transcripts, (gap(ask.seconds),), ask.before)
        case ToBeats():
            return to_beats(
                sheet, around.transcripts, (ask.layer, ask.first, ask.last), around.beats, around.edges, around.rate
            )
        case AsPiece():
            return as_piece(sheet, around.transcripts, ask.layer)
        case GiveRoom():
            return give_room(sheet, around.transcripts, ask.layer, ask.seconds)
        case AddCard():
            return _card(ask, sheet, around)
        case SplitBefore():
            steps = Steps(sheet, around.transcripts)
            steps.split_before(ask.word)
            return Batch(edits=tuple(steps.edits))
        case Trim():
            return _trim(ask, sheet, around)
        case Lay():
            return _lay(ask, sheet, around)
        case SetApart():
            return _set_apart(ask, sheet)
        case FindKeywords():
            places = Places(sheet, around.transcripts)
            said = [spot for spot in places.spots if spot.kept and spot.word]
            found = keywords([spot.word for spot in said if spot.word])
            if not found:
                raise EditError("No word stands out here. Mark those that matter by hand: select them and press K.")
            return MarkKeywords(words=tuple(said[n].ref for n in found))
        case PunchAtCuts():
            places = Places(sheet, around.transcripts)
            a, b = 0, len(places.spots) - 1
            if ask.first is not None:
                a, b = sorted((places.find(ask.first), places.find(ask.last or ask.first)))
            return punch_at_cuts(sheet, places, a, b, ask.content or Punch(toward="the face"))


def _card(ask: AddCard, sheet: Sheet, around: Around) -> Edit:
    steps = Steps(sheet, around.transcripts)
    (name,) = steps.fresh(1)
    piece = with_changes(gap(ask.seconds or USUAL_CARD), id=name, origin=name)
    steps.do(
        InsertPieces(pieces=(piece,), before=sheet.pieces[0].id if ask.at == "beginning" and sheet.pieces else None)
    )
    over = WordRef(origin=name, word=None)
    layer = next(iter(fresh_names(sheet, "l")))
    steps.do(PutLayer(layer=Layer(id=layer, span=steps.places.over(over, over), content=ask.content)))
    return Batch(edits=tuple(steps.edits))


def _trim(ask: Trim, sheet: Sheet, around: Around) -> Edit:
    piece = next((each for each in sheet.pieces if each.id == ask.piece), None)
    if piece is None:
        raise EditError("That piece is no longer on the sheet.", f"no piece {ask.piece!r}")
    if piece.recording is None:
        return trimmed_by_frames(piece, ask.edge, ask.frames, around.rate, LONGEST_GAP)
    transcript = around.transcripts.get(piece.recording)
    if transcript is None:
        raise EditError("The recording of this piece is gone, so it cannot be trimmed.")
    if ask.word is not None:
        return trimmed_to_word(piece, ask.edge, ask.word, transcript)
    if ask.sentence:
        return trimmed_to_sentence(piece, ask.edge, transcript)
    return trimmed_by_frames(piece, ask.edge, ask.frames, around.rate, transcript.duration)


def _lay(ask: Lay, sheet: Sheet, around: Around) -> Edit:
    steps = Steps(sheet, around.transcripts)
    own = next((each for each in sheet.layers if each.id == (ask.layer or ask.named)), None)
    if ask.layer is not None and own is None:
        raise EditError("That is no longer on the sheet.", f"no layer {ask.layer!r}")
    span = own.span if own else Span()
    if ask.first is not None:
        span = steps.places.over(ask.first, ask.last or ask.first)
    layer = own.id if own else _covered(ask, span, sheet, steps) or ask.named or next(iter(fresh_names(sheet, "l")))
    return PutLayer(layer=Layer(id=layer, span=span, content=ask.content))


def _set_apart(ask: SetApart, sheet: Sheet) -> Edit:
    own = next((each for each in sheet.layers if each.id == ask.layer), None)
    if own is None or all(each.id != ask.edition for each in sheet.editions):
        raise EditError("That is no longer on the sheet, or the edition is gone.", f"{ask!r}")
    if len(sheet.editions) < 2:
        raise EditError("This clip has one edition. Add another one, to have it otherwise there.")
    copy = with_changes(own, id=next(iter(fresh_names(sheet, "l"))))
    hides = {each.id: own.id if each.id == ask.edition else copy.id for each in sheet.editions}
    editions = [
        PutEdition(edition=with_changes(each, hidden=tuple(dict.fromkeys((*each.hidden, hides[each.id])))))
        for each in sheet.editions
    ]
    return Batch(edits=(PutLayer(layer=copy), *editions))


def _covered(ask: Lay, span: Span, sheet: Sheet, steps: Steps) -> str | None:
    """A layer of the same kind over the very same words, of which there can be only one."""
    hidden = sheet.edition(ask.edition).hidden if ask.edition else ()
    for layer in sheet.layers:
        if layer.id not in hidden and ask.content.replaces(layer.content) and _same(layer.span, span, steps):
            return layer.id
    return None


def _same(one: Span, two: Span, steps: Steps) -> bool:
    if one.is_whole or two.is_whole:
        return one.is_whole and two.is_whole
    return steps.places.covered(one) == steps.places.covered(two)
