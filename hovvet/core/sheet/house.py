"""House styles: how a brand looks, taken from a clip that looks so. ``house_laying`` lays them onto others."""

from collections.abc import Sequence
from typing import Annotated, Literal

from pydantic import Field

from hovvet.core.captions.style import STYLES
from hovvet.core.captions.title_styles import TEMPLATES
from hovvet.core.sheet.contents import Content
from hovvet.core.sheet.contents.slide import Slide
from hovvet.core.sheet.contents.title import Title
from hovvet.core.sheet.model import Captioning, Edition, Piece, Sheet
from hovvet.core.sheet.places import Places
from hovvet.core.value import Naming, Value, with_changes
from hovvet.core.words.glossary import Term

MOST_TERMS = 500
End = Literal["beginning", "end"]


class Card(Value):
    """A slide that stands by itself at one end of a clip, for some seconds."""

    seconds: Annotated[float, Field(gt=0, le=60)]
    """How long it stands."""
    slide: Slide
    """What it says."""


class HouseStyle(Value):
    """What a clip in it has."""

    captioning: Captioning = Captioning()
    """How captions look and are grouped."""
    laid: Annotated[tuple[Content, ...], Field(max_length=60)] = ()
    """What lies over the whole clip."""
    hook: Title | None = None
    """A title over its first words that says what the clip is called."""
    names: Title | None = None
    """A title over a speaker's first words that says their name."""
    opening: Card | None = None
    """Before everything; it says what the clip is called."""
    closing: Card | None = None
    """After everything."""
    terms: Annotated[tuple[Term, ...], Field(max_length=MOST_TERMS)] = ()
    """Names & terms, which its captions write as they are written here."""
    editions: Annotated[tuple[Edition, ...], Field(max_length=24)] = ()
    """What the clip is made in."""
    naming: Naming = ""
    """What its files are called; "" for the usual."""

    def told(self) -> list[str]:
        """What there is of it, in a few words each."""
        key = self.captioning.captions
        style = self.captioning.style or STYLES.get(key or "")
        captions = f"Captions: {style.name if style else key}" if key else "No captions"
        parts = [captions, *(each.label() if not isinstance(each, Title) else "Headline" for each in self.laid)]
        parts += ["Hook title"] if self.hook else []
        parts += ["Names of speakers"] if self.names else []
        parts += [f"Opening card, {self.opening.seconds:g} s"] if self.opening else []
        parts += [f"Closing card, {self.closing.seconds:g} s"] if self.closing else []
        parts += [f"{len(self.terms)} names & terms"] if self.terms else []
        count = len(self.editions)
        parts.append(f"{count} edition{'' if count == 1 else 's'}")
        return [*parts, *([f"Files: {self.naming}"] if self.naming else [])]


def house_of(sheet: Sheet, places: Places, terms: Sequence[Term] = (), naming: str = "") -> HouseStyle:
    """The house style that a clip shows, with names & terms, and what its files are called."""
    first = next(iter(heard_at(places)), None)
    hook = names = None
    for layer in sheet.layers:
        title, kept = layer.content, places.kept(layer.span)
        if not isinstance(title, Title) or layer.span.is_whole or kept is None:
            continue
        if is_name(title):
            names = names or title
        elif kept[0] == first:
            hook = hook or title
    whole = (layer.content for layer in sheet.layers if layer.span.is_whole and layer.content.travels)
    editions = tuple(with_changes(each, hidden=()) for each in sheet.editions)
    opening, closing = (card_at(sheet, places, end) for end in ("beginning", "end"))
    return HouseStyle(
        captioning=sheet.captioning,
        laid=tuple(whole),
        hook=hook,
        names=names,
        opening=opening[1] if opening else None,
        closing=closing[1] if closing and closing != opening else None,
        terms=tuple(terms)[:MOST_TERMS],
        editions=editions,
        naming=naming,
    )


def card_at(sheet: Sheet, places: Places, end: End) -> tuple[Piece, Card] | None:
    """The card at one end of a clip and the gap it stands in; None where there is none."""
    if not sheet.pieces or not places.spots:
        return None
    at = 0 if end == "beginning" else len(places.spots) - 1
    piece = places.spots[at].piece
    if not piece.is_gap:
        return None
    slides = (each for each in sheet.layers if isinstance(each.content, Slide) and not each.span.is_whole)
    slide = next((each.content for each in slides if places.kept(each.span) == (at, at)), None)
    return (piece, Card(seconds=piece.end, slide=slide)) if isinstance(slide, Slide) else None


def heard_at(places: Places) -> list[int]:
    """The places of the words that are heard."""
    return [n for n, spot in enumerate(places.spots) if spot.kept and spot.word is not None]


def is_name(content: Content) -> bool:
    """Whether it says who speaks."""
    return isinstance(content, Title) and TEMPLATES[content.template].sort == "Lower third"
