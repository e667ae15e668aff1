"""The plan: exactly what is seen and heard at every output frame and sample, as two lists of layers.

Nothing is left to decide for who plays or draws it: easing is baked into straight lines between knots, and every time
is a whole frame or a whole sample of the output.
"""

from bisect import bisect_right
from collections.abc import Sequence
from hashlib import sha256
from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field

from hovvet.core.colour.grade import Grade
from hovvet.core.time import SAMPLE_RATE, Rate

VERSION: Literal[3] = 3
JOIN_SAMPLES = 384  # 8 ms at 48 kHz, centred on the cut
_PLACES = 6  # decimals of what lies between knots: the same wherever in the clip that is
GROUND = "#20242B"  # behind everything


class _Part(BaseModel):
    model_config = ConfigDict(frozen=True, use_attribute_docstrings=True)


class TimeKnot(_Part):
    """At output frame ``frame`` the source is at its frame ``source`` (counted at the plan's rate)."""

    frame: int
    source: float


class PlaceKnot(_Part):
    """At output frame ``frame`` the layer's centre is at ``x``, ``y`` and it is ``width`` wide, in output pixels, turned
    by ``turn`` degrees clockwise. Its height follows from the shape of its crop."""

    frame: int
    x: float
    y: float
    width: float
    turn: float = 0.0


class Knot(_Part):
    """A value at an output frame or, in sound, an output sample."""

    at: int
    value: float


class Video(_Part):
    """A recording or another video: ``knots`` map output frames to its frames, straight lines between them."""

    type: Literal["video"] = "video"
    media: str
    knots: tuple[TimeKnot, ...]


class Still(_Part):
    """A picture that a workspace brought in; ``clear``: what is behind it may be seen through it."""

    type: Literal["still"] = "still"
    media: str
    clear: bool = False


class Fill(_Part):
    """Nothing but a colour."""

    type: Literal["fill"] = "fill"
    colour: str


class Crop(_Part):
    """A part of the source, in its pixels as shown."""

    x: int
    y: int
    width: int
    height: int


class Blur(_Part):
    """Behind the layer: this part of the same picture, made ``width`` x ``height`` small, blurred by ``sigma`` pixels at that
    size, and enlarged to the whole output."""

    type: Literal["blur"] = "blur"
    crop: Crop
    width: int
    height: int
    sigma: float


class Plain(_Part):
    """Behind the layer: a colour."""

    type: Literal["plain"] = "plain"
    colour: str


class Pictured(_Part):
    """Behind the layer: a still picture that covers the output, at a ``strength`` (0 to 1) over a colour."""

    type: Literal["picture"] = "picture"
    media: str
    crop: Crop
    strength: float
    colour: str


class Vignette(_Part):
    """The output gets darker from ``begin`` of the way from its middle to its corners on, by ``dark`` in those."""

    begin: float
    dark: float


class Sharpening(_Part):
    """What a source shows less its own blur (``sigma`` in pixels of the source), added to it ``amount`` times, in its light
    alone."""

    amount: float
    sigma: float


class Window(_Part):
    """A part of the output, in even pixels, with corners of a ``radius``."""

    x: int
    y: int
    width: int
    height: int
    radius: int = 0


class PictureLayer(_Part):
    """Something that is seen, over the layers before it in the list."""

    first: int
    """The output frame from which on it is seen."""
    last: int
    """The frame from which on it is not."""
    source: Annotated[Video | Still | Fill, Field(discriminator="type")]
    """What is seen. A fill has no crop and no place: it covers all, or its window."""
    crop: Crop | None = None
    """Which part of the source."""
    place: tuple[PlaceKnot, ...] = ()
    """Where it stands, at knots."""
    opacity: tuple[Knot, ...] = ()
    """How strongly it is seen, at knots, its backdrop included; without knots it is 1."""
    backdrop: Annotated[Blur | Plain | Pictured, Field(discriminator="type")] | None = None
    """What is behind it, all over the output."""
    window: Window | None = None
    """Only what is inside is seen of it; its backdrop covers all."""
    mirrored: bool = False
    """Left is right."""
    look: Grade | None = None
    """The colour of what the source shows, also in its blur."""
    sharpening: Sharpening | None = None
    """Makes what it shows sharper."""
    vignette: Vignette | None = None
    """Darkens the output with it."""


class SoundLayer(_Part):
    """Samples of a medium. It rises and falls at equal power: quarters of a sine, so that two that cross add up."""

    bus: Literal["speech", "voice", "music", "effect"] = "speech"
    """What it is, to whoever mixes."""
    media: str
    """What is heard."""
    sample: int
    """The output sample from which on it is heard."""
    samples: int
    """How many."""
    source_sample: int
    """The sample of the medium with which it begins."""
    gain: float = 0.0
    """dB."""
    fade_in: int = 0
    """Samples over which it rises."""
    fade_out: int = 0
    """Samples over which it falls."""


STRETCHED_BY = 1  # grows whenever the same sound would be stretched otherwise


class Prepared(_Part):
    """A sound made beforehand: stretched, with its pitch kept."""

    media: str
    """Named by the hash of all this and the version of what makes it, so that what is asked for twice is made once,
    and anew when it would be made otherwise."""
    recording: str
    """What it is made of."""
    samples: int
    """How long it is."""
    knots: tuple[tuple[int, int], ...]
    """Pairs: a sample of what is made, and the sample of the recording that is heard there; straight lines between
    them."""


class Stretch(_Part):
    """What is said between two cuts."""

    piece: str
    """Of the sheet."""
    recording: str | None
    """What is heard; None for a gap."""
    frame: int
    """Its first output frame."""
    frames: int
    """How many."""
    start: float
    """Seconds of the recording."""
    end: float
    """Seconds of the recording."""
    even: bool = True
    """Whether it is at its own speed."""


class PlanWord(_Part):
    """A word that is heard, or a caption that nobody says."""

    id: int
    """Of the word in its transcript."""
    piece: str
    """Of the sheet."""
    origin: str = ""
    """Of that piece."""
    text: str
    """As it is said."""
    start: float
    """Seconds of the output."""
    end: float
    """Seconds of the output."""
    shown: str | None = None
    """What captions say instead of its text; an empty text for nothing."""
    colour: str | None = None
    """Its own in captions."""
    size: float = 1.0
    """Its own in captions, times the style's."""
    earlier: int = 0
    """Frames by which the caption that begins with it comes earlier."""
    longer: int = 0
    """Frames by which the caption that ends with it stays longer."""
    voice: int = 0
    """Who says it, counted as they are first heard."""
    key: bool = False
    """Whether it carries its phrase."""
    layer: str | None = None
    """The layer that says it, where nobody does."""

    @property
    def written(self) -> str:
        """What captions say."""
        return self.text if self.shown is None else self.shown


class Caption(_Part):
    """One caption: lines of words (positions in ``Plan.words``), shown for frames ``first`` up to ``last`` (not included).
    ``fast``: too fast to be read."""

    lines: tuple[tuple[int, ...], ...]
    first: int
    last: int
    fast: bool = False


class Mark(_Part):
    """A marker of the person's: a note from frame ``first`` up to ``last``. Not seen in the picture."""

    layer: str
    first: int
    last: int
    note: str


class Plan(_Part):
    """One edition of a sheet, compiled. ``frames`` and ``samples`` are its whole length."""

    version: Literal[3] = VERSION
    rate: Rate
    width: int
    height: int
    frames: int
    samples: int
    sample_rate: int = SAMPLE_RATE
    peak_db: float = -1.5
    ground: str = GROUND
    picture: tuple[PictureLayer, ...] = ()
    sound: tuple[SoundLayer, ...] = ()
    prepared: tuple[Prepared, ...] = ()
    stretches: tuple[Stretch, ...] = ()
    words: tuple[PlanWord, ...] = ()
    captions: tuple[Caption, ...] = ()
    markers: tuple[Mark, ...] = ()
    script: str | None = None
    fonts: tuple[str, ...] = ()  # media that its script is written with, besides the fonts that ship

    @property
    def seconds(self) -> float:
        """The whole length in seconds."""
        return self.samples / self.sample_rate

    @property
    def digest(self) -> str:
        """A fingerprint of what is seen and heard: two plans with the same one make the same file."""
        return sha256(self.model_dump_json(exclude={"markers", "stretches"}).encode()).hexdigest()

    @property
    def recordings(self) -> tuple[str, ...]:
        """All media that it shows or plays and that are not prepared for it, each once."""
        made = {each.media for each in self.prepared}
        seen = [layer.source.media for layer in self.picture if isinstance(layer.source, Video)]
        heard = [layer.media for layer in self.sound] + [each.recording for each in self.prepared]
        return tuple(dict.fromkeys(media for media in (*seen, *heard) if media not in made))

    @property
    def assets(self) -> tuple[str, ...]:
        """What a workspace brought in that it is drawn with, each once: fonts, tables of colours, pictures."""
        tables = (layer.look.table for layer in self.picture if layer.look and layer.look.has_table)
        behind = (layer.backdrop.media for layer in self.picture if isinstance(layer.backdrop, Pictured))
        stills = (layer.source.media for layer in self.picture if isinstance(layer.source, Still))
        return tuple(dict.fromkeys((*self.fonts, *tables, *behind, *stills)))


def source_frame(knots: Sequence[TimeKnot], frame: int) -> int:
    """Which frame of its source a video shows at an output frame; past the first and last knot it goes on at their
    pace."""
    if len(knots) == 1:
        return int(knots[0].source) + frame - knots[0].frame
    n = min(max(bisect_right(knots, frame, key=_frame_of) - 1, 0), len(knots) - 2)
    a, b = knots[n], knots[n + 1]
    at = a.source + (frame - a.frame) * (b.source - a.source) / (b.frame - a.frame)
    return int(at + 0.5) if at >= 0 else 0


def _frame_of(knot: TimeKnot) -> int:
    return knot.frame


def value_at(knots: Sequence[Knot], at: int) -> float:
    """The value at a frame or sample: straight lines between knots, level before the first and after the last; 1
    without any."""
    if not knots:
        return 1.0
    n = bisect_right(knots, at, key=lambda knot: knot.at)
    if n == 0:
        return knots[0].value
    if n == len(knots):
        return knots[-1].value
    a, b = knots[n - 1], knots[n]
    return round(a.value + (b.value - a.value) * (at - a.at) / (b.at - a.at), _PLACES)


def place_at(knots: Sequence[PlaceKnot], frame: int) -> PlaceKnot:
    """Where a layer stands at a frame: straight lines between knots, still before the first and after the last."""
    n = bisect_right(knots, frame, key=lambda knot: knot.frame)
    if n == 0:
        return knots[0]
    if n == len(knots):
        return knots[-1]
    a, b = knots[n - 1], knots[n]
    part = (frame - a.frame) / (b.frame - a.frame)
    return PlaceKnot(
        frame=frame,
        x=round(a.x + (b.x - a.x) * part, _PLACES),
        y=round(a.y + (b.y - a.y) * part, _PLACES),
        width=round(a.width + (b.width - a.width) * part, _PLACES),
        turn=round(a.turn + (b.turn - a.turn) * part, _PLACES),
    )
