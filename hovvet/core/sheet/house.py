"""House styles: how a brand looks, taken from a clip that looks so, and laid onto others in one edit."""

from collections.abc import Iterator, Mapping
from itertools import pairwise
from typing import Annotated

from pydantic import Field

from hovvet.core.captions.style import STYLES
from hovvet.core.captions.title_styles import TEMPLATES
from hovvet.core.plan.outlets import Outlet, outlet_name
from hovvet.core.plan.shelf import Shelf
from hovvet.core.sheet.contents import Content
from hovvet.core.sheet.contents.marker import Marker
from hovvet.core.sheet.contents.title import Title
from hovvet.core.sheet.edits import Batch, Edit, PutEdition, PutLayer, RemoveLayer, SetCaptions, SetLayout, WearHouse
from hovvet.core.sheet.mended import mended
from hovvet.core.sheet.model import Captioning, Edition, Layer, Sheet, Span, Worn
from hovvet.core.sheet.places import Places
from hovvet.core.sheet.value import Value
from hovvet.core.words.transcript import Transcript

_HOOK, _NAME = 3.0, 3.5  # seconds of words over which a hook, and a name, stand
_FEW_NAMES = 6  # speakers of a clip that are named


class HouseStyle(Value):
    """What a clip in it has: its captions; what lies over the whole of it; a title over its first words, which says what the
    clip is called; a title over a speaker's first words, which says their name; the editions it is made in."""

    captioning: Captioning = Captioning()
    laid: Annotated[tuple[Content, ...], Field(max_length=60)] = ()
    hook: Title | None = None
    names: Title | None = None
    editions: Annotated[tuple[Edition, ...], Field(max_length=24)] = ()

    def told(self) -> list[str]:
        """What there is of it, in a few words each."""
        key = self.captioning.captions
        style = self.captioning.style or STYLES.get(key or "")
        captions = f"Captions: {style.name if style else key}" if key else "No captions"
        parts = [captions, *(each.label() if not isinstance(each, Title) else "Header" for each in self.laid)]
        parts += ["Hook title"] if self.hook else []
        parts += ["Names of speakers"] if self.names else []
        count = len(self.editions)
        return [*parts, f"{count} edition{'' if count == 1 else 's'}"]


def house_of(sheet: Sheet, places: Places) -> HouseStyle:
    """The house style that a clip shows."""
    first = next(iter(_kept(places)), None)
    hook = names = None
    for layer in sheet.layers:
        title, reach = layer.content, places.kept(layer.span)
        if not isinstance(title, Title) or layer.span.is_whole or reach is None:
            continue
        if _is_name(title):
            names = names or title
        elif reach[0] == first:
            hook = hook or title
    whole = (layer.content for layer in sheet.layers if layer.span.is_whole and not isinstance(layer.content, Marker))
    editions = tuple(each.model_copy(update={"hidden": ()}) for each in sheet.editions)
    return HouseStyle(captioning=sheet.captioning, laid=tuple(whole), hook=hook, names=names, editions=editions)


def repaired(house: HouseStyle, shelf: Shelf) -> tuple[HouseStyle, str]:
    """The style without what is no longer on the shelf, and what to tell of that ("" for nothing)."""
    layers = tuple(Layer(id=f"l{n}", content=content) for n, content in enumerate(house.laid))
    own, editions = house.captioning, house.editions or Sheet().editions
    shown = Sheet(layers=layers, editions=editions, captions=own.captions, style=own.style, layout=own.layout)
    made, told = mended(shown, shelf)
    parts = {"captioning": made.captioning, "laid": tuple(layer.content for layer in made.layers)}
    return house.model_copy(update=parts | {"editions": made.editions if house.editions else ()}), told


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
                edits.append(
                    PutLayer(layer=own[name].model_copy(update={"content": layer.content}) if moved else layer)
                )
        elif not _has_own(sheet, layer, before, places):
            edits.append(PutLayer(layer=layer))
    for name, layer in before.items():
        if name not in wanted and name in own and own[name].content == layer.content:
            edits.append(RemoveLayer(layer=name))
    edits += _editions(sheet, house)
    edits.append(
        WearHouse(worn=Worn(key=key, version=version, captioning=house.captioning, laid=tuple(wanted.values())))
    )
    return Batch(edits=tuple(edits))


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
    count: dict[str, int] = {}
    for content in house.laid:
        count[content.kind] = count.get(content.kind, 0) + 1
        said = content.model_copy(update={"text": title[:160]}) if isinstance(content, Title) else content
        yield Layer(id=f"house-{content.kind}-{count[content.kind]}", content=said)
    kept = _kept(places)
    if house.hook and kept:
        yield Layer(
            id="house-hook",
            span=_over(places, kept, 0, _HOOK),
            content=house.hook.model_copy(update={"text": title[:160]}),
        )
    if house.names:
        for n, (at, name) in enumerate(_first_words(places, kept, transcripts)):
            said = house.names.model_copy(update={"text": name[:160]})
            yield Layer(id=f"house-name-{n + 1}", span=_over(places, kept, at, _NAME), content=said)


def _kept(places: Places) -> list[int]:
    """The places of the words that are heard."""
    return [n for n, stand in enumerate(places.stands) if stand.kept and stand.word is not None]


def _over(places: Places, kept: list[int], at: int, seconds: float) -> Span:
    """The words from one on that are said within some seconds, in its own piece."""
    first = places.stands[kept[at]]
    last = at
    for _, n in pairwise(range(at, len(kept))):
        stand = places.stands[kept[n]]
        if stand.piece is not first.piece or stand.end > first.start + seconds:
            break
        last = n
    return places.over(first.ref, places.stands[kept[last]].ref)


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
        stand = places.stands[place]
        assert stand.word
        name = named.get((stand.piece.recording or "", stand.word.speaker))
        if name and name not in told and len(told) < _FEW_NAMES:
            told.add(name)
            yield at, name


def _has_own(sheet: Sheet, layer: Layer, laid: Mapping[str, Layer], places: Places) -> bool:
    """Whether a person has laid such a thing already, of which there can be only one: over the whole clip, or a title that
    begins with the same word."""
    others = [each for each in sheet.layers if each.id not in laid and each.span.is_whole == layer.span.is_whole]
    if layer.span.is_whole:
        return any(each.content.replaces(layer.content) for each in others)
    begins = places.kept(layer.span)
    return begins is not None and any(
        isinstance(each.content, Title)
        and _is_name(each.content) == _is_name(layer.content)
        and (places.kept(each.span) or (-1, -1))[0] == begins[0]
        for each in others
    )


def _is_name(content: Content) -> bool:
    """Whether it says who speaks."""
    return isinstance(content, Title) and TEMPLATES[content.template].sort == "Lower third"


def _editions(sheet: Sheet, house: HouseStyle) -> Iterator[Edit]:
    """Those of the style that the clip is not made in yet."""
    there = {(each.outlet, each.dressing, each.rate) for each in sheet.editions}
    taken = {each.id for each in sheet.editions}
    names = (f"e{n}" for n in range(1, 1_000) if f"e{n}" not in taken)
    for each in house.editions:
        if (each.outlet, each.dressing, each.rate) not in there:
            yield PutEdition(edition=each.model_copy(update={"id": next(names)}))
