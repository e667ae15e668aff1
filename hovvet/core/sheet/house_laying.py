"""Laying a house style onto a clip, in one edit; what a person has changed of it since stays theirs."""

from collections.abc import Iterable, Iterator, Mapping
from itertools import pairwise

from hovvet.core.captions.style import STYLES
from hovvet.core.plan.outlets import Outlet, outlet_name
from hovvet.core.sheet.contents.title import Title
from hovvet.core.sheet.contents.wording import Wording
from hovvet.core.sheet.edits import (
    Batch,
    Edit,
    InsertPieces,
    PutEdition,
    PutLayer,
    RemoveLayer,
    RemovePiece,
    SetCaptions,
    SetLayout,
    TrimPiece,
    WearHouse,
)
from hovvet.core.sheet.house import Card, End, HouseStyle, card_at, heard_at, is_name
from hovvet.core.sheet.model import Layer, Piece, Run, Sheet, Span, WordRef, Worn
from hovvet.core.sheet.moving import fresh_names
from hovvet.core.sheet.places import Places
from hovvet.core.text import is_blank
from hovvet.core.value import with_changes
from hovvet.core.words.glossary import spelt_otherwise
from hovvet.core.words.transcript import Transcript

_HOOK, _NAME = 3.0, 3.5  # seconds of words over which a hook, and a name, stand
_FEW_NAMES = 6  # speakers of a clip that are named
_MOST_WORDINGS = 100  # places of a clip at which names & terms are written otherwise
# Where cards stand, by the name of their layer, which is that of their gap too.
_CARDS: dict[str, End] = {"house-opening": "beginning", "house-closing": "end"}


def dress(
    sheet: Sheet, house: HouseStyle, key: str, version: int, title: str, transcripts: Mapping[str, Transcript]
) -> Edit:
    """The edit that dresses a clip called ``title`` in a house style. Where it wears that style already, what a person has
    changed or taken off since stays as it is; what they laid themselves always does."""
    worn = sheet.house if sheet.house and sheet.house.key == key else None
    before = {layer.id: layer for layer in worn.laid} if worn else {}
    own = {layer.id: layer for layer in sheet.layers}
    places = Places(sheet, transcripts)
    wanted = {layer.id: layer for layer in _layers(house, title, places, transcripts)}
    edits: list[Edit] = []
    if worn is None or sheet.captioning == worn.captioning:
        made = house.captioning
        edits += [SetCaptions(captions=made.captions, style=made.style), SetLayout(layout=made.layout)]
    for name, layer in wanted.items():
        if name in before:
            if name in own and own[name].content == before[name].content:
                moved = own[name].span != before[name].span
                edits += [] if moved else _lasts(sheet, layer)
                edits.append(PutLayer(layer=with_changes(own[name], content=layer.content) if moved else layer))
        elif not _has_own(sheet, layer, before, places):
            edits += [*_gap(sheet, layer), PutLayer(layer=layer)]
    for name, layer in before.items():
        if name not in wanted and name in own and own[name].content == layer.content:
            edits.append(RemoveLayer(layer=name))
            if name in _CARDS and len(sheet.pieces) > 1 and _piece(sheet, name):
                edits.append(RemovePiece(piece=name))
    edits += _editions(sheet, house)
    edits.append(_wear(house, key, version, wanted.values()))
    return Batch(edits=tuple(edits))


def wear(
    sheet: Sheet, house: HouseStyle, key: str, version: int, title: str, transcripts: Mapping[str, Transcript]
) -> Edit:
    """The edit that lets a clip wear the house style that was just taken from it: it looks so already, so that dressing it
    changes nothing."""
    return _wear(house, key, version, _layers(house, title, Places(sheet, transcripts), transcripts))


def _wear(house: HouseStyle, key: str, version: int, laid: Iterable[Layer]) -> WearHouse:
    worn = Worn(key=key, version=version, captioning=house.captioning, laid=tuple(laid), naming=house.naming)
    return WearHouse(worn=worn)


def changes(sheet: Sheet, edit: Edit, outlets: Mapping[str, Outlet]) -> list[str]:
    """What an edit that dresses a clip would change in it, in a few words each; nothing for what is so already."""
    own = {layer.id: layer for layer in sheet.layers}
    told: list[str] = []
    for each in edit.edits if isinstance(edit, Batch) else (edit,):
        match each:
            case SetCaptions() if (each.captions, each.style) != (sheet.captions, sheet.style):
                style = each.style or STYLES.get(each.captions or "")
                told.append(f"Captions: {style.name}" if style else "No captions")
            case SetLayout() if each.layout != sheet.layout:
                told.append("Captions: how words are put together")
            case PutLayer() if each.layer.id not in own:
                told.append(f"New: {each.layer.content.label()}")
            case PutLayer() if each.layer != own[each.layer.id]:
                told.append(f"Changed: {each.layer.content.label()}")
            case RemoveLayer() if each.layer in own:
                told.append(f"Gone: {own[each.layer].content.label()}")
            case PutEdition():
                told.append(f"New edition: {outlet_name(each.edition.outlet, outlets)}")
    return told


def _layers(house: HouseStyle, title: str, places: Places, transcripts: Mapping[str, Transcript]) -> Iterator[Layer]:
    """All that a house style lays, each with a name that it has in every version."""
    called = {"text": _written(title)}
    count: dict[str, int] = {}
    for content in house.laid:
        count[content.kind] = count.get(content.kind, 0) + 1
        said = with_changes(content, **called) if isinstance(content, Title) else content
        yield Layer(id=f"house-{content.kind}-{count[content.kind]}", content=said)
    if house.opening:
        yield _card("house-opening", with_changes(house.opening, slide=with_changes(house.opening.slide, **called)))
    if house.closing:
        yield _card("house-closing", house.closing)
    heard = heard_at(places)
    if house.hook and heard:
        hook = with_changes(house.hook, **called)
        yield Layer(id="house-hook", span=_over(places, heard, 0, _HOOK), content=hook)
    if house.names:
        for n, (at, name) in enumerate(_first_words(places, heard, transcripts)):
            said = with_changes(house.names, text=_written(name))
            yield Layer(id=f"house-name-{n + 1}", span=_over(places, heard, at, _NAME), content=said)
    yield from _wordings(house, places, transcripts)


def _written(text: str) -> str:
    """As a title can have it, also where there is nothing in it to be seen."""
    return "…" if is_blank(text[:160]) else text[:160]


def _card(name: str, card: Card) -> Layer:
    """The slide of a card, over a gap of the same name."""
    return Layer(id=name, span=Span(runs=(Run(origin=name, start=0, end=card.seconds),)), content=card.slide)


def _wordings(house: HouseStyle, places: Places, transcripts: Mapping[str, Transcript]) -> Iterator[Layer]:
    """Names & terms that captions would write otherwise than the style does, as far as all of their words are there."""
    said = (
        {name: spelt_otherwise(transcript, house.terms) for name, transcript in transcripts.items()}
        if house.terms
        else {}
    )
    there = {places.spots[n].ref: n for n in heard_at(places)}
    origins = {piece.origin: piece.recording for piece in dict.fromkeys(spot.piece for spot in places.spots)}
    laid = 0
    for origin, recording in origins.items():
        for change in said.get(recording or "", ()):
            first, last = (WordRef(origin=origin, word=word) for word in (change.words[0], change.words[-1]))
            if (
                first in there
                and last in there
                and there[last] - there[first] == len(change.words) - 1
                and laid < _MOST_WORDINGS
            ):
                laid += 1
                name = f"house-term-{origin}-{change.words[0]}"
                yield Layer(id=name[:64], span=places.over(first, last), content=Wording(text=change.text[:300]))


def _gap(sheet: Sheet, layer: Layer) -> Iterator[Edit]:
    """The gap that a card stands in, where it is one."""
    end = _CARDS.get(layer.id)
    if end and _piece(sheet, layer.id) is None:
        piece = Piece(id=layer.id, recording=None, start=0, end=layer.span.runs[0].end)
        before = sheet.pieces[0].id if end == "beginning" and sheet.pieces else None
        yield InsertPieces(pieces=(piece,), before=before)


def _lasts(sheet: Sheet, layer: Layer) -> Iterator[Edit]:
    """Let the gap of a card be as long as the style has it, unless a person has made it longer or shorter."""
    piece, worn = _piece(sheet, layer.id) if layer.id in _CARDS else None, sheet.house
    laid = next((each for each in worn.laid if each.id == layer.id), None) if worn else None
    if piece and laid and piece.end == laid.span.runs[0].end != layer.span.runs[0].end:
        yield TrimPiece(piece=layer.id, start=0, end=layer.span.runs[0].end)


def _piece(sheet: Sheet, name: str) -> Piece | None:
    return next((each for each in sheet.pieces if each.id == name), None)


def _over(places: Places, kept: list[int], at: int, seconds: float) -> Span:
    """The words from one on that are said within some seconds, in its own piece."""
    first = places.spots[kept[at]]
    last = at
    for _, n in pairwise(range(at, len(kept))):
        spot = places.spots[kept[n]]
        if spot.piece is not first.piece or spot.end > first.start + seconds:
            break
        last = n
    return places.over(first.ref, places.spots[kept[last]].ref)


def _first_words(places: Places, kept: list[int], transcripts: Mapping[str, Transcript]) -> Iterator[tuple[int, str]]:
    """Which of the words that are heard is the first of each speaker who has a name, and that name."""
    named = {
        (recording, speaker.key): speaker.name
        for recording, transcript in transcripts.items()
        for speaker in transcript.speakers
        if speaker.name
    }
    told: set[str] = set()
    for at, place in enumerate(kept):
        spot = places.spots[place]
        assert spot.word
        name = named.get((spot.piece.recording or "", spot.word.speaker))
        if name and name not in told and len(told) < _FEW_NAMES:
            told.add(name)
            yield at, name


def _has_own(sheet: Sheet, layer: Layer, laid: Mapping[str, Layer], places: Places) -> bool:
    """Whether a person has laid such a thing already, of which there can be only one: over the whole clip, a card at the same
    end, other words in captions, or a title that begins with the same word."""
    if end := _CARDS.get(layer.id):
        return card_at(sheet, places, end) is not None
    others = [each for each in sheet.layers if each.id not in laid and each.span.is_whole == layer.span.is_whole]
    if layer.span.is_whole:
        return any(each.content.replaces(layer.content) for each in others)
    begins = places.kept(layer.span)
    if isinstance(layer.content, Wording):
        return any(isinstance(each.content, Wording) and _meet(places.kept(each.span), begins) for each in others)
    return begins is not None and any(
        isinstance(each.content, Title)
        and is_name(each.content) == is_name(layer.content)
        and (places.kept(each.span) or (-1, -1))[0] == begins[0]
        for each in others
    )


def _meet(one: tuple[int, int] | None, other: tuple[int, int] | None) -> bool:
    return one is not None and other is not None and one[0] <= other[1] and other[0] <= one[1]


def _editions(sheet: Sheet, house: HouseStyle) -> Iterator[Edit]:
    """Those of the style that the clip is not made in yet."""
    there = {(each.outlet, each.dressing, each.rate) for each in sheet.editions}
    names = fresh_names(sheet, "e")
    for each in house.editions:
        if (each.outlet, each.dressing, each.rate) not in there:
            yield PutEdition(edition=with_changes(each, id=next(names)))
