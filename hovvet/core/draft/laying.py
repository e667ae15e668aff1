"""What is laid over a drafted clip: a picture or a slide for each thought, a title, music, and a card that closes it.

All of it is layers like any others. What its house style has laid already is not laid again.
"""

from collections.abc import Mapping, Sequence
from typing import NamedTuple

from hovvet.core.draft.thoughts import Thought, lettering
from hovvet.core.sheet.applying import apply
from hovvet.core.sheet.asking import AddCard, Around, edit_for
from hovvet.core.sheet.contents import Content
from hovvet.core.sheet.contents.broll import Broll, Move
from hovvet.core.sheet.contents.slide import Slide
from hovvet.core.sheet.contents.sound import Sound
from hovvet.core.sheet.contents.title import Title
from hovvet.core.sheet.edits import Batch, Edit, PutLayer
from hovvet.core.sheet.model import Layer, Sheet, Span, WordRef
from hovvet.core.sheet.moving import fresh_names
from hovvet.core.sheet.places import Places
from hovvet.core.time import Rate
from hovvet.core.words.transcript import Transcript

_MOVES: tuple[Move, ...] = (
    "comes closer",
    "to the right",
    "goes away",
    "to the left",
)  # of stills, one after the other
CARD = 3.0  # seconds of the card at the end
_LETTERS = 160  # that a title has room for
_TITLE_WORDS = 12  # over so many words the title stands, or over the first sentence where that is shorter
_MUSIC = Sound.presets["Background music"] | {"ends": "fitted"}


class Drafted(NamedTuple):
    """What a drafted clip is given: its ``thoughts``, for each the name of the thing that shows it (None: a slide), the ``title``
    over its first words, the name of its ``music``, and what stands on its last ``card``; "" for none of these."""

    thoughts: Sequence[Thought]
    things: Sequence[str | None]
    title: str = ""
    music: str = ""
    card: str = ""


def laid(sheet: Sheet, transcripts: Mapping[str, Transcript], drafted: Drafted, rate: Rate) -> Edit:
    """The edit that lays it over a clip with a piece for each sentence that is said, in their order."""
    places = Places(sheet, transcripts)
    pieces = [piece for piece in sheet.pieces if not piece.is_gap]
    names = fresh_names(sheet, "l")
    edits: list[Edit] = []

    def lay(content: Content, span: Span) -> None:
        edits.append(PutLayer(layer=Layer(id=next(names), span=span, content=content)))

    ends = [_ends(places, piece.origin) for piece in pieces]
    titled = bool(drafted.title) and not _has_over_clip(sheet, Title)
    for n, (thought, thing) in enumerate(zip(drafted.thoughts, drafted.things, strict=True)):
        span = places.over(ends[thought.first][0], ends[thought.last][1])
        if thing is not None:
            lay(Broll(media=thing, move=_MOVES[n % len(_MOVES)]), span)
        elif n or not titled:
            letters = lettering(thought)
            lay(Slide(text=letters.text, template=letters.template, counts=letters.template == "number"), span)
    if titled:
        text, first = drafted.title[:_LETTERS], ends[0][0]
        if drafted.things[0] is not None:
            lay(Title(text=text), places.over(first, _at_most(places, ends[0], _TITLE_WORDS)))
        else:
            lay(Slide(text=text), places.over(first, ends[drafted.thoughts[0].last][1]))
    if drafted.music and not _has_over_clip(sheet, Sound):
        lay(Sound(media=drafted.music, **_MUSIC), Span())
    before: Edit = Batch(edits=tuple(edits))
    if not drafted.card:
        return before
    card = AddCard(at="end", seconds=CARD, content=Slide(text=drafted.card[:_LETTERS]))
    return Batch(edits=(before, edit_for(card, apply(sheet, before), Around(transcripts, rate, {}))))


def _ends(places: Places, origin: str) -> tuple[WordRef, WordRef]:
    """The first and the last word of a piece."""
    own = [spot.ref for spot in places.spots if spot.piece.origin == origin]
    return own[0], own[-1]


def _at_most(places: Places, ends: tuple[WordRef, WordRef], words: int) -> WordRef:
    first, last = places.find(ends[0]), places.find(ends[1])
    return places.spots[min(last, first + words - 1)].ref


def _has_over_clip(sheet: Sheet, kind: type[Content]) -> bool:
    return any(layer.span.is_whole and isinstance(layer.content, kind) for layer in sheet.layers)
