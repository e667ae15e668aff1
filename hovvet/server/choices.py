"""What the page needs to know of the core, once, at its start: choices, limits, palettes, thresholds, defaults."""

from collections.abc import Iterator
from typing import Literal

from django.conf import settings
from django.http import HttpRequest
from ninja import Router
from pydantic import BaseModel

from hovvet.core.captions.fonts import CAPTION_FONTS, FALLBACK
from hovvet.core.captions.layout import LAYOUTS, CaptionLayout
from hovvet.core.captions.style import STYLES, Box, CaptionStyle, Entrance, Spoken
from hovvet.core.captions.title_styles import TEMPLATES
from hovvet.core.compile.angles import LONGEST_NUDGE
from hovvet.core.draft.choosing import LONGEST, SHORTEST, USUAL
from hovvet.core.engines.narrator import FASTEST as FASTEST_VOICE
from hovvet.core.engines.narrator import SLOWEST as SLOWEST_VOICE
from hovvet.core.engines.narrator import Narrator, installed, narrators
from hovvet.core.engines.whisper import qualities
from hovvet.core.formats.package import PARTS as PARTS_OF_PACKAGE
from hovvet.core.media.capture import CaptureChoices
from hovvet.core.media.peaks import PEAKS_PER_SECOND
from hovvet.core.media.working import THUMBS_ACROSS, THUMBS_DOWN
from hovvet.core.plan.outlets import NEW_OUTLET, OUTLETS, Outlet
from hovvet.core.proof.checks import CHECKS
from hovvet.core.proof.fault import GRAVITIES, Gravity
from hovvet.core.render.output import KINDS, LINES, LONGEST_LOOP, QUALITIES, SHORTEST_LOOP
from hovvet.core.script.lines import KINDS as KINDS_OF_SCRIPTS
from hovvet.core.script.lines import ScriptKind
from hovvet.core.script.pace import FASTEST, SLOWEST
from hovvet.core.script.text_in import KINDS as SCRIPT_FILES
from hovvet.core.sheet.contents import KINDS as CONTENTS
from hovvet.core.sheet.contents.base import LANES, Group, Lane
from hovvet.core.sheet.model import DRESSINGS, RATES, Dressing
from hovvet.core.sheet.moving import USUAL_GAP
from hovvet.core.shelf.licence import SORTS, Sort
from hovvet.core.sound.clearer import STRENGTHS, Strength
from hovvet.core.sweep.finds import FindKind
from hovvet.core.sweep.settings import DEFAULT_KINDS
from hovvet.core.time import Rate
from hovvet.core.words.languages import LANGUAGES
from hovvet.core.words.speakers import MOST_SPEAKERS
from hovvet.core.words.transcript import COLOURS, DOUBTFUL, SPOKEN_FOR
from hovvet.server.delivery.naming import PARTS, PATTERN
from hovvet.server.schema import Schema

router = Router(tags=["choices"])


class TemplateOut(Schema):
    """A template of titles; ``sets`` what else of a title is set by choosing it."""

    key: str
    name: str
    sort: str
    sets: dict[str, bool]


class OfferOut(Schema):
    """A way in which a kind of content is offered to be laid; ``id`` is that of its command, ``here`` whether the
    word at the playhead does where none are selected, ``sets`` what it begins with,
    ``text`` what it says at first."""

    id: str
    kind: str
    group: Group
    label: str
    here: bool
    keys: tuple[str, ...]
    over: Literal["words", "to the end", "clip"]
    sets: dict[str, object]
    text: Literal["", "what is said", "the title"]


class DraftChoices(Schema):
    """What a clip is drafted with: seconds that it may last, how fast it may be read, and the voices that read it; and what it is
    begun with."""

    shortest: float
    longest: float
    slowest: float
    fastest: float
    narrators: dict[Narrator, str]
    seconds: float
    outlet: str
    narrator: Narrator
    pace: float


def _offers() -> Iterator[OfferOut]:
    """All offers, in the order in which they stand in their menus."""
    all_offers = [(kind, offer) for kind in CONTENTS.values() for offer in kind.offers if kind.group]
    for kind, offer in sorted(all_offers, key=lambda each: each[1].place):
        key = kind.model_fields["kind"].default
        preset = kind.presets[offer.preset] if offer.preset else {}
        yield OfferOut(
            id=offer.id or f"lay-{key}-{offer.over}",
            kind=key,
            group=kind.group or "words",
            label=offer.label,
            here=offer.here,
            keys=offer.keys,
            over=offer.over,
            sets={**preset, **offer.sets},
            text=offer.text,
        )


class Choices(Schema):
    """What can be chosen, with its limits and defaults."""

    output_kinds: dict[str, str]
    """Kinds of file to export, and what they are called."""
    qualities: dict[str, str]
    """Of files, and what they are called."""
    name_parts: dict[str, str]
    """What a pattern for file names may hold, and what that stands for."""
    name_pattern: str
    """The usual one."""
    contents: dict[str, dict[str, object]]
    """The kinds of content as JSON schemas, with their limits and defaults."""
    presets: dict[str, dict[str, dict[str, object]]]
    """Settings of theirs to begin from, by kind and name."""
    offers: list[OfferOut]
    """The ways in which they are offered."""
    lanes: dict[Lane, str]
    """What the lanes are called in which they are drawn, in order."""
    lines: list[int]
    """Shorter sides that an export can have, in pixels."""
    loop_seconds: tuple[float, float]
    """The shortest and the longest loop."""
    dressings: dict[Dressing, str]
    """How much of what is laid an edition has, and what that is called."""
    rates: list[Rate]
    """Frames a second that a clip can have."""
    outlet_fields: dict[str, object]
    """The limits of an outlet."""
    new_outlet: Outlet
    """What one of a person's own begins from."""
    usual_gap: float
    """Seconds of a new gap."""
    captions: dict[str, CaptionStyle]
    """Everybody's styles of captions."""
    templates: list[TemplateOut]
    """Those of titles."""
    style_fields: dict[str, dict[str, object]]
    """The limits of each part of a style."""
    new_box: Box
    """What lies behind letters at first."""
    style_fonts: dict[str, str]
    """The names of everybody's fonts."""
    style_font_files: dict[str, str]
    """Their files, to show a font in its own face."""
    caption_layouts: dict[str, CaptionLayout]
    """Starting points of how words are grouped into captions."""
    layout_fields: dict[str, object]
    """The limits of that."""
    fonts: list[str]
    """The files that captions need."""
    languages: dict[str, str]
    """In which can be listened, and what they are called."""
    hearing: dict[str, str]
    """How carefully can be listened, and what that is called."""
    speaker_colours: list[str]
    """Those of speakers, in order."""
    most_speakers: int
    """How many a recording may have."""
    doubtful: float
    """The confidence under which a word is to be looked at."""
    spoken_for: float
    """Seconds after its end for which a word is still the one that is heard."""
    peaks_per_second: int
    """Of a recording's waveform."""
    thumbs_across: int
    """Pictures in a row of a sheet of thumbnails."""
    thumbs_down: int
    """Rows of such a sheet."""
    sweep_kinds: list[FindKind]
    """What a sweep looks for unless a person wants otherwise."""
    upload_hours: int
    """For how long an upload that was broken off can be taken up again."""
    natural_voices: bool
    """Whether set-up could get the natural voices that read text."""
    strengths: list[Strength]
    """How strongly speech can be made clearer."""
    checks: dict[str, str]
    """Those of the proof, and what stands over what they find."""
    package_parts: dict[str, str]
    """What a package may have in it, and what that is called."""
    gravities: dict[Gravity, str]
    """How bad something is, and what stands over that, the worst first."""
    licence_sorts: dict[Sort, str]
    """What licences are called."""
    capture: CaptureChoices
    """What one records with."""
    longest_nudge: float
    """Seconds by which another camera may be moved from where it was found to belong."""
    script_kinds: dict[ScriptKind, str]
    """Ways in which scripts are read."""
    paces: tuple[int, int]
    """The slowest and the fastest, in words a minute."""
    script_files: tuple[str, ...]
    """Endings of files that scripts and texts are taken from."""
    drafts: DraftChoices
    """What a clip is drafted with."""


_STYLE_PARTS: dict[str, type[BaseModel]] = {
    "letters": CaptionStyle, "box": Box, "spoken": Spoken, "entrance": Entrance,
}  # fmt: skip


@router.get("", response=Choices)
def choices(request: HttpRequest) -> Choices:
    """All that does not change while the server runs."""
    return Choices(
        output_kinds=KINDS,
        qualities=QUALITIES,
        name_parts=PARTS,
        name_pattern=PATTERN,
        lines=list(LINES),
        loop_seconds=(SHORTEST_LOOP, LONGEST_LOOP),
        dressings=DRESSINGS,
        rates=list(RATES),
        outlet_fields=Outlet.model_json_schema()["properties"],
        new_outlet=NEW_OUTLET,
        usual_gap=USUAL_GAP,
        natural_voices=installed(),
        strengths=list(STRENGTHS),
        contents={key: kind.model_json_schema() for key, kind in CONTENTS.items()},
        presets={key: kind.presets for key, kind in CONTENTS.items() if kind.presets},
        offers=list(_offers()),
        lanes=LANES,
        captions=STYLES,
        templates=[
            TemplateOut(key=key, name=each.style.name, sort=each.sort, sets=each.sets)
            for key, each in TEMPLATES.items()
        ],
        style_fields={name: part.model_json_schema()["properties"] for name, part in _STYLE_PARTS.items()},
        new_box=Box(),
        style_fonts={key: font.name for key, font in CAPTION_FONTS.items()},
        style_font_files={key: font.file for key, font in CAPTION_FONTS.items()},
        caption_layouts=LAYOUTS,
        layout_fields=CaptionLayout.model_json_schema()["properties"],
        fonts=[*(font.file for font in CAPTION_FONTS.values()), FALLBACK.file],
        languages=LANGUAGES,
        hearing={str(key): name for key, name in qualities().items()},
        speaker_colours=list(COLOURS),
        most_speakers=MOST_SPEAKERS,
        doubtful=DOUBTFUL,
        spoken_for=SPOKEN_FOR,
        peaks_per_second=PEAKS_PER_SECOND,
        thumbs_across=THUMBS_ACROSS,
        thumbs_down=THUMBS_DOWN,
        sweep_kinds=list(DEFAULT_KINDS),
        upload_hours=settings.UPLOAD_HOURS,
        checks={key: each.label for key, each in CHECKS.items()},
        package_parts=PARTS_OF_PACKAGE,
        gravities=GRAVITIES,
        licence_sorts=SORTS,
        capture=CaptureChoices(),
        longest_nudge=LONGEST_NUDGE,
        script_kinds=KINDS_OF_SCRIPTS,
        paces=(SLOWEST, FASTEST),
        script_files=SCRIPT_FILES,
        drafts=DraftChoices(
            shortest=SHORTEST,
            longest=LONGEST,
            slowest=SLOWEST_VOICE,
            fastest=FASTEST_VOICE,
            narrators=narrators(),
            seconds=USUAL,
            outlet=next(iter(OUTLETS)),
            narrator=next(iter(narrators())),
            pace=1.0,
        ),
    )
