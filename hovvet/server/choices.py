"""What the page needs to know of the core, once, at its start: choices, limits, palettes, thresholds, defaults."""

from collections.abc import Iterator
from typing import Literal

from django.conf import settings
from django.http import HttpRequest
from ninja import Router, Schema
from pydantic import BaseModel

from hovvet.core.captions.fonts import CAPTION_FONTS, FALLBACK
from hovvet.core.captions.layout import LAYOUTS, CaptionLayout
from hovvet.core.captions.style import STYLES, Box, CaptionStyle, Entrance, Spoken
from hovvet.core.captions.title_styles import TEMPLATES
from hovvet.core.engines.whisper import qualities
from hovvet.core.media.peaks import PEAKS_PER_SECOND
from hovvet.core.media.working import THUMBS_ACROSS, THUMBS_DOWN
from hovvet.core.plan.outlets import NEW_OUTLET, Outlet
from hovvet.core.render.output import KINDS, LINES, LONGEST_LOOP, QUALITIES, SHORTEST_LOOP
from hovvet.core.sheet.contents import KINDS as CONTENTS
from hovvet.core.sheet.contents.base import LANES, Group, Lane
from hovvet.core.sheet.model import DRESSINGS, RATES, Dressing
from hovvet.core.sheet.moving import USUAL_GAP
from hovvet.core.shelf.licence import SORTS, Sort
from hovvet.core.sweep.finds import FindKind
from hovvet.core.sweep.settings import DEFAULT_KINDS
from hovvet.core.time import Rate
from hovvet.core.words.languages import LANGUAGES
from hovvet.core.words.speakers import MOST_SPEAKERS
from hovvet.core.words.transcript import COLOURS, DOUBTFUL, SPOKEN_FOR
from hovvet.server.delivery.naming import PARTS, PATTERN

router = Router(tags=["choices"])


class TemplateOut(Schema):
    """A template of titles; ``sets`` what else of a title is set by choosing it."""

    key: str
    name: str
    sort: str
    sets: dict[str, bool]


class OfferOut(Schema):
    """A way in which a kind of content is offered to be laid; ``id`` is that of its command, ``sets`` what it begins with,
    ``text`` what it says at first."""

    id: str
    kind: str
    group: Group
    label: str
    keys: tuple[str, ...]
    over: Literal["words", "clip"]
    sets: dict[str, object]
    text: Literal["", "what is said", "the title"]


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
            keys=offer.keys,
            over=offer.over,
            sets={**preset, **offer.sets},
            text=offer.text,
        )


class Choices(Schema):
    """``contents`` are the kinds of content as JSON schemas, with their limits and defaults, ``presets`` settings of
    theirs to begin from, by kind and name, ``offers`` the ways in which they are offered, ``lanes`` what the lanes are
    called in which they are drawn; ``name_parts`` what a pattern
    for file names may hold; ``outlet_fields`` the limits of an outlet, ``new_outlet`` what one begins from;
    ``captions`` everybody's styles of captions, ``templates`` those of titles, ``style_fields`` the limits of each part of a style, ``new_box`` what
    lies behind letters at first, ``style_fonts`` the names of everybody's fonts; ``caption_layouts`` starting points of how
    words are grouped into captions, ``layout_fields`` the limits of that;
    ``loop_seconds`` the shortest and longest loop. ``fonts`` are the files that captions need; ``doubtful`` the
    confidence under which a word is to be looked at; ``licence_sorts`` what licences are called;
    ``spoken_for`` how many seconds after its end a word is still the one that is heard."""

    output_kinds: dict[str, str]
    qualities: dict[str, str]
    name_parts: dict[str, str]
    name_pattern: str
    contents: dict[str, dict[str, object]]
    presets: dict[str, dict[str, dict[str, object]]]
    offers: list[OfferOut]
    lanes: dict[Lane, str]
    lines: list[int]
    loop_seconds: tuple[float, float]
    dressings: dict[Dressing, str]
    rates: list[Rate]
    outlet_fields: dict[str, object]
    new_outlet: Outlet
    usual_gap: float
    captions: dict[str, CaptionStyle]
    templates: list[TemplateOut]
    style_fields: dict[str, dict[str, object]]
    new_box: Box
    style_fonts: dict[str, str]
    caption_layouts: dict[str, CaptionLayout]
    layout_fields: dict[str, object]
    fonts: list[str]
    languages: dict[str, str]
    hearing: dict[str, str]
    speaker_colours: list[str]
    most_speakers: int
    doubtful: float
    spoken_for: float
    peaks_per_second: int
    thumbs_across: int
    thumbs_down: int
    sweep_kinds: list[FindKind]
    upload_hours: int
    licence_sorts: dict[Sort, str]


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
        licence_sorts=SORTS,
    )
