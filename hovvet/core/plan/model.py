"""The plan: exactly what is seen and heard at every output frame and sample, as two lists of layers.

Nothing is left to decide for who plays or draws it: easing is baked into straight lines between knots, and every time
is a whole frame or a whole sample of the output.
"""

import json
from hashlib import sha256
from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field

from hovvet.core.colour.grade import Grade
from hovvet.core.colour.screen import Screen
from hovvet.core.engines.narrator import Narrator
from hovvet.core.time import SAMPLE_RATE, Rate
from hovvet.core.value import DOCUMENTED

VERSION: Literal[3] = 3
JOIN_SAMPLES = 384  # 8 ms at 48 kHz, centred on the cut
GROUND = "#20242B"  # behind everything


class _Part(BaseModel):
    model_config = ConfigDict(frozen=True, use_attribute_docstrings=DOCUMENTED)


class TimeKnot(_Part):
    """A moment of a source at a moment of the output."""

    frame: int
    """Of the output."""
    source: float
    """The frame of the source, counted at the plan's rate."""


class PlaceKnot(_Part):
    """Where a layer stands at a moment of the output. Its height follows from the shape of its crop."""

    frame: int
    """Of the output."""
    x: float
    """The centre of the layer, in output pixels from the left."""
    y: float
    """The same from the top."""
    width: float
    """In output pixels."""
    turn: float = 0.0
    """Degrees, clockwise."""


class Knot(_Part):
    """A value at an output frame or, in sound, an output sample."""

    at: int
    """A frame of the output or, in sound, a sample."""
    value: float
    """What it is there."""


class Video(_Part):
    """A recording or another video."""

    type: Literal["video"] = "video"
    media: str
    """Which."""
    knots: tuple[TimeKnot, ...]
    """Output frames, and its frames there; straight lines between them."""


class Still(_Part):
    """A picture that a workspace brought in."""

    type: Literal["still"] = "still"
    media: str
    """Which."""
    clear: bool = False
    """Whether what is behind it may be seen through it."""


class Fill(_Part):
    """Nothing but a colour."""

    type: Literal["fill"] = "fill"
    colour: str
    """Which."""


class Crop(_Part):
    """A part of the source, in its pixels as shown."""

    x: int
    """From the left."""
    y: int
    """From the top."""
    width: int
    """Pixels."""
    height: int
    """Pixels."""


class Blur(_Part):
    """Behind the layer: part of the same picture, made small, blurred, and enlarged to the whole output."""

    type: Literal["blur"] = "blur"
    crop: Crop
    """What is seen of the same picture."""
    width: int
    """Pixels to which it is made small."""
    height: int
    """Pixels to which it is made small."""
    sigma: float
    """Of the blur, in pixels at that size."""


class Plain(_Part):
    """Behind the layer: a colour."""

    type: Literal["plain"] = "plain"
    colour: str
    """Which."""


class Pictured(_Part):
    """Behind the layer: a still picture that covers the output."""

    type: Literal["picture"] = "picture"
    media: str
    """The still."""
    crop: Crop
    """What is seen of it."""
    strength: float
    """Of the still over the colour, 0 to 1."""
    colour: str
    """What is under it."""


class Vignette(_Part):
    """The output gets darker towards its corners."""

    begin: float
    """How far from the middle to the corners it begins, 0 to 1."""
    dark: float
    """By how much the corners are darker, 0 to 1."""


class Sharpening(_Part):
    """What a source shows less its own blur is added to it, in its light alone."""

    amount: float
    """How many times what the blur takes is added."""
    sigma: float
    """Of that blur, in pixels of the source."""


class Window(_Part):
    """A part of the output, in pixels."""

    x: int
    """From the left."""
    y: int
    """From the top."""
    width: int
    """Even."""
    height: int
    """Even."""
    radius: int = 0
    """Of its corners."""


class Ground(_Part):
    """What is seen in the place of a screen: a picture, a film or a colour, as large as the whole of the source."""

    source: Annotated[Video | Still | Fill, Field(discriminator="type")]
    """Which."""
    crop: Crop | None = None
    """What of a picture or film covers the source."""
    sigma: float = 0.0
    """Of a blur over it, in pixels of the source."""


class Keyed(_Part):
    """A screen of one colour, taken out of what the source shows."""

    screen: Screen
    """Which."""
    ground: Ground | None = None
    """What is seen in its place; without one, what is below the layer."""


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
    keyed: Keyed | None = None
    """What is taken out of what the source shows, and seen in its place."""
    look: Grade | None = None
    """The colour of what the source shows, also in its blur."""
    sharpening: Sharpening | None = None
    """Makes what it shows sharper."""
    vignette: Vignette | None = None
    """Darkens the output with it."""

    @property
    def is_clear(self) -> bool:
        """Whether what is below may be seen through it."""
        still = isinstance(self.source, Still) and self.source.clear
        return still or (self.keyed is not None and self.keyed.ground is None)

    @property
    def shown(self) -> tuple[Video | Still | Fill, ...]:
        """What is seen: its source, and what is in the place of a screen."""
        ground = self.keyed.ground if self.keyed else None
        return (self.source, ground.source) if ground else (self.source,)


class SoundLayer(_Part):
    """Samples of a medium. It rises and falls at equal power: quarters of a sine, so that two that cross add up."""

    bus: Literal["speech", "voice", "music", "effect"] = "speech"
    """What it is, to whoever mixes."""
    layer: str = ""
    """Of the sheet, which lets it be heard; "" for what is said in the clip."""
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
    level: tuple[Knot, ...] = ()
    """A factor on that at samples of the layer, straight lines between them; without knots it is 1."""
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


def stretched(recording: str, knots: tuple[tuple[int, int], ...]) -> Prepared:
    """A recording stretched along knots, under the name that it has everywhere."""
    samples = knots[-1][0]
    named = json.dumps([recording, samples, knots])
    media = f"made{STRETCHED_BY}-{sha256(named.encode()).hexdigest()[:40]}"
    return Prepared(media=media, recording=recording, samples=samples, knots=knots)


SPOKEN_BY = 2  # grows whenever the same text would be spoken otherwise


class Spoken(_Part):
    """A sentence that a voice speaks, made beforehand."""

    media: str
    """Named by the hash of all this, as what is stretched is."""
    text: str
    """What is said."""
    narrator: Narrator
    """Which voice."""
    pace: float
    """Times as fast as usual."""


def spoken(text: str, narrator: Narrator, pace: float) -> Spoken:
    """A sentence as a voice speaks it, under the name that it has everywhere."""
    named = json.dumps([text, narrator, pace])
    media = f"spoken{SPOKEN_BY}-{sha256(named.encode()).hexdigest()[:40]}"
    return Spoken(media=media, text=text, narrator=narrator, pace=pace)


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
    """A caption."""

    lines: tuple[tuple[int, ...], ...]
    """Positions in the words of the plan, line by line."""
    first: int
    """The output frame from which on it is shown."""
    last: int
    """The frame from which on it is not."""
    fast: bool = False
    """Whether it is too fast to be read."""
    over_face: bool = False
    """Whether it lies over a face."""


class Mark(_Part):
    """A marker of the person's. Not seen in the picture."""

    layer: str
    """Which says it."""
    first: int
    """The output frame with which it begins."""
    last: int
    """The frame with which it is over."""
    note: str
    """What the person wrote."""


class Plan(_Part):
    """One edition of a sheet, compiled."""

    version: Literal[3] = VERSION
    """Of the format."""
    rate: Rate
    """Frames a second of the output."""
    width: int
    """Pixels."""
    height: int
    """Pixels."""
    frames: int
    """The whole length."""
    samples: int
    """The whole length in sound, to the sample nearest to its last frame."""
    sample_rate: int = SAMPLE_RATE
    """Samples a second."""
    master: float = 0.0
    """dB on the sum of the sounds, before the limiter."""
    peak_db: float = -1.5
    """What the sound does not go beyond, dBTP: the limiter sees to it."""
    loudness: float | None = None
    """LUFS that it comes to, as far as it is known how loud its sounds are."""
    ground: str = GROUND
    """The colour behind everything."""
    picture: tuple[PictureLayer, ...] = ()
    """From the back to the front."""
    sound: tuple[SoundLayer, ...] = ()
    """What is mixed."""
    prepared: tuple[Prepared, ...] = ()
    """Sounds that are made before it can be heard."""
    spoken: tuple[Spoken, ...] = ()
    """Sentences that are spoken before it can be heard."""
    stretches: tuple[Stretch, ...] = ()
    """What is said, in order, between cuts."""
    words: tuple[PlanWord, ...] = ()
    """What captions are made of, in order."""
    captions: tuple[Caption, ...] = ()
    """Those of the clip."""
    markers: tuple[Mark, ...] = ()
    """Notes of the person's; not seen."""
    script: str | None = None
    """Captions, titles and what is drawn, as an ASS script; None where there is nothing of it."""
    fonts: tuple[str, ...] = ()
    """Media with which its script is written, besides the fonts that ship."""

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
        made = {each.media for each in self.prepared} | {each.media for each in self.spoken}
        seen = [each.media for layer in self.picture for each in layer.shown if isinstance(each, Video)]
        heard = [layer.media for layer in self.sound] + [each.recording for each in self.prepared]
        return tuple(dict.fromkeys(media for media in (*seen, *heard) if media not in made))

    @property
    def assets(self) -> tuple[str, ...]:
        """What a workspace brought in that it is drawn with, each once: fonts, tables of colours, pictures."""
        tables = (layer.look.table for layer in self.picture if layer.look and layer.look.has_table)
        behind = (layer.backdrop.media for layer in self.picture if isinstance(layer.backdrop, Pictured))
        stills = (each.media for layer in self.picture for each in layer.shown if isinstance(each, Still))
        return tuple(dict.fromkeys((*self.fonts, *tables, *behind, *stills)))
