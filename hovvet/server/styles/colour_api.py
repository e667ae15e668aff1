"""Colour tables for the page, and to take away."""

import uuid

from django.http import HttpRequest, HttpResponse
from ninja import Field, Query, Router

from hovvet.core.colour.grade import LOOKS, Grade
from hovvet.core.colour.lut import Lut, cube, lut_of, packed
from hovvet.core.colour.matching import How
from hovvet.core.render.picking import MOST, Spot
from hovvet.core.text import SomeText
from hovvet.server.accounts.access import find
from hovvet.server.assets.models import Asset
from hovvet.server.documents.models import Document
from hovvet.server.documents.opening import documents, opened
from hovvet.server.problems import Problem
from hovvet.server.schema import Schema
from hovvet.server.styles.matching import matched_look
from hovvet.server.styles.models import NamedSettings
from hovvet.server.styles.named_settings import find_kept, keep, kept_of
from hovvet.server.styles.screens import colour_of, seen_under
from hovvet.server.turns import takes_turns

router = Router(tags=["colour"])
_DAY = 86_400  # seconds
_EVERYBODYS = frozenset(name.lower() for name in LOOKS)


class NamedLook(Schema):
    """A look that is to be kept."""

    name: SomeText = Field(min_length=1, max_length=60)
    grade: Grade


class LookOut(NamedLook):
    """A look of the workspace."""

    key: str


def _look(row: NamedSettings) -> LookOut:
    return LookOut(key=row.key, name=row.name, grade=Grade.model_validate(row.settings_json))


@router.get("/looks", response=list[LookOut])
def list_looks(request: HttpRequest) -> list[LookOut]:
    """The looks that the workspace has made for itself, oldest first."""
    return [_look(row) for row in kept_of(request, NamedSettings.Kind.LOOK)]


@router.post("/looks", response=LookOut)
def add_look(request: HttpRequest, wanted: NamedLook) -> LookOut:
    """Keep a look. Clips that use it have its settings in full."""
    return _look(keep(request, NamedSettings.Kind.LOOK, wanted.name, wanted.grade.model_dump(mode="json"), _EVERYBODYS))


@router.delete("/looks/{key}", response={204: None})
def delete_look(request: HttpRequest, key: str) -> HttpResponse:
    """Delete a look of the workspace. Clips keep what they have of it."""
    find_kept(request, NamedSettings.Kind.LOOK, key).delete()
    return HttpResponse(status=204)


def _lut(request: HttpRequest, grade: Grade) -> Lut:
    """A grade as a table, with that of the workspace which it names."""
    if not grade.has_table:
        return lut_of(grade)
    try:
        pk = uuid.UUID(grade.table)
    except ValueError:
        raise Problem(404, "There is no such table of colours (any more).") from None
    return lut_of(grade, find(request, Asset.objects.filter(kind=Asset.Kind.TABLE), pk=pk).file)


class Matching(Schema):
    """Which layer's colour is to be set, and by what: what an ``edition`` of the clip shows at some ``seconds``."""

    layer: str
    seconds: float = Field(ge=0)
    edition: str | None = None
    how: How = "even out"
    strength: float = Field(default=1.0, ge=0, le=1)


@router.post("/documents/{document_id}/matched", response=Grade)
@takes_turns()
def match_look(request: HttpRequest, document_id: uuid.UUID, given: Matching) -> Grade:
    """The colour of a layer, so set that what it lies over looks like what is seen elsewhere in the clip. Nothing is
    changed by this."""
    document = find(request, documents().filter(kind=Document.Kind.CLIP), pk=document_id)
    return matched_look(opened(document, given.edition), given.layer, given.seconds, given.how, given.strength)


class ScreenSeen(Schema):
    """What a background is taken out of."""

    media: str
    """A recording or a picture."""
    seconds: float | None
    """Of the recording."""


class Spotting(Schema):
    """The background, where the clip stands, and where on what is seen there its screen is: without any place it is looked for."""

    layer: str
    seconds: float = Field(ge=0)
    edition: str | None = None
    spots: list[Spot] = Field(default=[], max_length=MOST)


class ScreenColour(Schema):
    """The colour of a screen, as backgrounds have it."""

    light: float
    blue: float
    red: float


@router.get("/documents/{document_id}/screens/{layer}", response=ScreenSeen)
def read_screen(
    request: HttpRequest, document_id: uuid.UUID, layer: str, seconds: float, edition: str | None = None
) -> ScreenSeen:
    """What a background is taken out of at some seconds of the output."""
    document = find(request, documents().filter(kind=Document.Kind.CLIP), pk=document_id)
    seen = seen_under(opened(document, edition), layer, max(seconds, 0))
    return ScreenSeen(media=seen.media, seconds=seen.seconds)


@router.post("/documents/{document_id}/screens", response=ScreenColour)
@takes_turns()
def pick_screen(request: HttpRequest, document_id: uuid.UUID, given: Spotting) -> ScreenColour:
    """The colour of a screen by places that show it, or by what is around whatever is seen. Nothing is changed by this."""
    document = find(request, documents().filter(kind=Document.Kind.CLIP), pk=document_id)
    now = opened(document, given.edition)
    return ScreenColour(**colour_of(now, seen_under(now, given.layer, given.seconds), given.spots)._asdict())


@router.get("/table", response={200: None})
def table(request: HttpRequest, grade: Query[Grade]) -> HttpResponse:
    """What a grade makes of colours: 33 x 33 x 33 times R, G, B in 8 bits, red running fastest."""
    answer = HttpResponse(packed(_lut(request, grade)), content_type="application/octet-stream")
    answer["Cache-Control"] = f"private, max-age={_DAY}"
    return answer


@router.get("/look.cube", response={200: None})
def as_cube(request: HttpRequest, grade: Query[Grade]) -> HttpResponse:
    """The same as a .cube file, for other programs. Darker corners are no matter of colour, and left out."""
    answer = HttpResponse(cube(_lut(request, grade), "Look"), content_type="text/plain; charset=utf-8")
    answer["Content-Disposition"] = 'attachment; filename="look.cube"'
    return answer
