"""Shapes of a clip over HTTP: seen beside one another before they are kept."""

import uuid

from django.http import HttpRequest, HttpResponse
from ninja import Field, Query, Router

from hovvet.core.sheet.shapes import Shape
from hovvet.server.accounts.access import find
from hovvet.server.delivery.shapes import keep_shapes, picture_in
from hovvet.server.documents.answers import Answer, DocumentOut, Newer, changed
from hovvet.server.documents.models import Document
from hovvet.server.documents.opening import documents
from hovvet.server.schema import Schema
from hovvet.server.styles.models import NamedSettings
from hovvet.server.styles.named_settings import find_kept
from hovvet.server.turns import takes_turns

router = Router(tags=["shapes"])


class Seen(Shape):
    """A shape, the house style that the clip is to be seen in ("": as it is), and after which part of its length."""

    house: str = Field(default="", max_length=64)
    part: float = Field(default=0.5, ge=0, le=1)


class ShapesWanted(Schema):
    """Shapes that are to be kept, and the house style that goes with them ("" for none); the version that it was asked on
    and the edition that the page shows."""

    version: int
    shapes: list[Shape] = Field(min_length=1, max_length=24)
    house: str = ""
    edition: str | None = None


def _clip(request: HttpRequest, pk: uuid.UUID) -> Document:
    return find(request, documents().filter(kind=Document.Kind.CLIP), pk=pk)


def _house(request: HttpRequest, key: str) -> NamedSettings | None:
    return find_kept(request, NamedSettings.Kind.HOUSE, key) if key else None


@router.get("/{document_id}/shapes/picture", response={200: None})
@takes_turns()
def picture_of_shape(request: HttpRequest, document_id: uuid.UUID, seen: Query[Seen]) -> HttpResponse:
    """A PNG of what a clip would show in a shape. Nothing is changed by this."""
    house = _house(request, seen.house)
    made = picture_in(_clip(request, document_id), house, Shape(outlet=seen.outlet, dressing=seen.dressing), seen.part)
    answer = HttpResponse(made, content_type="image/png")
    answer["Cache-Control"] = "private, max-age=600"  # the address names the version that it is of
    return answer


@router.post("/{document_id}/shapes", response={200: DocumentOut, 409: Newer})
def keep_shapes_of(request: HttpRequest, document_id: uuid.UUID, given: ShapesWanted) -> Answer:
    """Keep shapes as editions of the clip, dressed in a house style where one is named, as one change."""
    clip, house = _clip(request, document_id), _house(request, given.house)
    by, edition = request.user.pk, given.edition
    return changed(request, clip, lambda: keep_shapes(clip, given.version, house, given.shapes, by, edition), edition)
