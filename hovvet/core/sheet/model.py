"""The sheet: the document of one clip, or of a whole recording on its desk.

A sheet is an ordered list of pieces, in each the cuts made, and layers laid over
what is said. A cut of words names the words, so it follows them when their times
are refined; a cut of a pause names the stretch of time taken out. A layer names the
stretches of speech it lies over, so it follows them wherever they are moved.
"""

from typing import Annotated, Literal

from pydantic import AfterValidator, Field, FiniteFloat, model_validator

from hovvet.core.captions.layout import USUAL, CaptionLayout
from hovvet.core.captions.style import CaptionStyle, caption_style
from hovvet.core.plan.model import Spoken
from hovvet.core.sheet.contents import Content
from hovvet.core.sound.clearer import Strength
from hovvet.core.time import Rate
from hovvet.core.value import LATEST, BreakHow, Moment, Name, Naming, Value, WordId

CutReason = Literal["hand", "filler", "phrase", "repeat", "restart", "retake", "pause"]
Dressing = Literal["plain", "captioned", "dressed"]
VERSION: Literal[3] = 3
DRESSINGS: dict[Dressing, str] = {"plain": "Plain", "captioned": "Captioned", "dressed": "Styled"}
RATES = tuple(Rate(num=num, den=den) for num, den in ((24, 1), (25, 1), (30_000, 1_001), (30, 1), (50, 1), (60, 1)))
Reach = Annotated[
    FiniteFloat, Field(ge=-LATEST, le=LATEST)
]  # half-way to a neighbour, which may be before the beginning


class WordCut(Value):
    """Words struck out."""

    words: Annotated[tuple[WordId, ...], Field(min_length=1)]
    """By id."""
    reason: CutReason = "hand"
    """What they were struck for."""


class PauseCut(Value):
    """Silence taken out."""

    start: Moment
    """Seconds of the recording."""
    end: Moment
    """Seconds of the recording, after the start."""
    reason: CutReason = "pause"
    """What it was taken out for."""

    @model_validator(mode="after")
    def _forwards(self) -> "PauseCut":
        if self.end <= self.start:
            raise ValueError("a pause cut must end after it starts")
        return self


class Piece(Value):
    """A stretch of one recording with the cuts inside it, or a gap, in which nothing but background is seen."""

    id: Name
    """Its name on this sheet."""
    origin: Name = ""
    """What pieces that were split from one another have in common; a copy has one of its own. So an origin and a
    moment of its recording are in one place of the sheet at most."""
    recording: Name | None
    """Which it is of; None for a gap."""
    start: Moment
    """Seconds of the recording."""
    end: Moment
    """Seconds of the recording; of a gap how long it is."""
    word_cuts: tuple[WordCut, ...] = ()
    """What is struck out in it."""
    pause_cuts: tuple[PauseCut, ...] = ()
    """What silence is taken out of it."""

    @model_validator(mode="before")
    @classmethod
    def _own_origin(cls, given: object) -> object:
        if isinstance(given, dict) and not given.get("origin"):
            return given | {"origin": given.get("id")}
        return given

    @property
    def is_gap(self) -> bool:
        """Whether it shows no recording."""
        return self.recording is None


class WordRef(Value):
    """A word where it stands on a sheet: the same word may stand there twice, in pieces of two origins."""

    origin: Name
    """Of the piece in which it stands."""
    word: WordId | None
    """Its id; None is a gap, all of it."""


class Run(Value):
    """A stretch of what is said, from half-way before its first word to half-way after its last."""

    origin: Name
    """Of the pieces in which it is."""
    start: Reach
    """Seconds of the recording."""
    end: Reach
    """Seconds of the recording."""


class Span(Value):
    """What a layer lies over."""

    runs: Annotated[tuple[Run, ...], Field(max_length=2_000)] = ()
    """Stretches of speech; none for the whole clip."""
    nudge_in: Annotated[int, Field(ge=-250, le=250)] = 0
    """Frames by which it begins later."""
    nudge_out: Annotated[int, Field(ge=-250, le=250)] = 0
    """Frames by which it ends later."""

    @property
    def is_whole(self) -> bool:
        """Whether it is the whole clip."""
        return not self.runs


class Layer(Value):
    """Something laid over what is said."""

    id: Name
    """Its name on this sheet."""
    span: Span = Span()
    """What it lies over."""
    content: Content
    """What is laid."""


class CaptionBreak(Value):
    """A person's own break of the captions at a word."""

    word: WordRef
    """Where."""
    how: BreakHow
    """A caption begins with it (``caption``), none does (``join``), nor does one but a line (``line``)."""


def _of_table(rate: Rate | None) -> Rate | None:
    if rate is not None and rate not in RATES:
        raise ValueError("a frame rate is one of " + ", ".join(f"{each.num}/{each.den}" for each in RATES))
    return rate


class Edition(Value):
    """The clip for one outlet."""

    id: Name
    """Its name on this sheet."""
    outlet: Name = "tall"
    """Where it goes, by the outlet's key."""
    dressing: Dressing = "dressed"
    """``plain`` without captions, ``captioned``, or ``dressed`` with all that is set."""
    rate: Annotated[Rate | None, AfterValidator(_of_table)] = None
    """Frames a second, one of those that files have; None keeps that of the recording."""
    hidden: tuple[Name, ...] = ()
    """Layers that this edition leaves out, by name."""


FIRST_EDITION = Edition(id="e1")


class Captioning(Value):
    """How captions look and are grouped: the part of a sheet that is about them."""

    captions: Name | None = "bold"
    style: CaptionStyle | None = None
    layout: CaptionLayout = USUAL


class Worn(Value):
    """The house style that a clip was dressed in. What is otherwise on the sheet by now is the person's own."""

    key: Name
    """Which."""
    version: Annotated[int, Field(ge=1)]
    """Which version of it."""
    captioning: Captioning
    """The captions that it laid."""
    laid: Annotated[tuple[Layer, ...], Field(max_length=200)] = ()
    """The layers that it laid, as it laid them."""
    naming: Naming = ""
    """What it calls files."""


class Sheet(Value):
    """The document of a clip."""

    version: Literal[3] = VERSION
    """Of the format."""
    pieces: tuple[Piece, ...] = ()
    """In the order they are heard."""
    layers: tuple[Layer, ...] = ()
    """What is laid over them, in the order it was laid."""
    editions: Annotated[tuple[Edition, ...], Field(min_length=1)] = (FIRST_EDITION,)
    """What the clip is made in."""
    captions: Name | None = "bold"
    """The style of its captions by name; None for no captions."""
    style: CaptionStyle | None = None
    """One of a person's own, in full."""
    layout: CaptionLayout = USUAL
    """How words are grouped into captions."""
    breaks: Annotated[tuple[CaptionBreak, ...], Field(max_length=20_000)] = ()
    """Where a person has broken them."""
    keywords: Annotated[tuple[WordRef, ...], Field(max_length=20_000)] = ()
    """Which words are marked in them."""
    house: Worn | None = None
    """The house style that it wears."""

    @property
    def captioning(self) -> Captioning:
        """How its captions look and are grouped."""
        return Captioning(captions=self.captions, style=self.style, layout=self.layout)

    @property
    def caption_style(self) -> CaptionStyle | None:
        """The style of its captions, None for none. Raises CoreError when it names one that there is not."""
        return (self.style or caption_style(self.captions)) if self.captions is not None else None

    def piece(self, piece_id: str) -> Piece:
        """The piece with this id. Raises KeyError when there is none."""
        for piece in self.pieces:
            if piece.id == piece_id:
                return piece
        raise KeyError(piece_id)

    def edition(self, edition_id: str | None) -> Edition:
        """The edition with this id; the first where there is none (any more)."""
        return next((each for each in self.editions if each.id == edition_id), self.editions[0])

    @property
    def recordings(self) -> tuple[str, ...]:
        """The recordings it shows, each once, in the order of the pieces."""
        return tuple(dict.fromkeys(piece.recording for piece in self.pieces if piece.recording is not None))

    @property
    def assets(self) -> frozenset[str]:
        """All that it needs of what the workspace brought in, by the names that it has for that."""
        named = {each for layer in self.layers for each in layer.content.assets}
        return frozenset(named | ({self.style.font} if self.style else set()))

    @property
    def clearings(self) -> frozenset[Strength]:
        """How strongly speech is made clearer for what lies on it."""
        return frozenset(each for layer in self.layers for each in layer.content.clearings)

    @property
    def spoken(self) -> tuple[Spoken, ...]:
        """The sentences that are spoken for what lies on it, each once."""
        return tuple(dict.fromkeys(each for layer in self.layers for each in layer.content.spoken))

    @property
    def media(self) -> tuple[str, ...]:
        """The same, and then what is laid over them, pictures included."""
        return tuple(
            dict.fromkeys((*self.recordings, *(each for layer in self.layers for each in layer.content.media_shown)))
        )
