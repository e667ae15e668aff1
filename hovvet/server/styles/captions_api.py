"""Caption styles over HTTP: what they look like, and those that a workspace keeps for itself."""

import uuid
from typing import Annotated

from django.http import HttpRequest, HttpResponse
from ninja import Query, Router
from pydantic import ValidationError

from hovvet.core.captions.style import STYLES, CaptionStyle
from hovvet.core.captions.title_styles import TEMPLATES
from hovvet.core.render.sample import style_sample, title_sample
from hovvet.core.sheet.contents.title import Title
from hovvet.core.sheet.upgrade import named_style
from hovvet.server.accounts.access import find, workspace_of
from hovvet.server.documents.kit import kit_of
from hovvet.server.documents.making import captions_for_show
from hovvet.server.documents.models import Document
from hovvet.server.documents.opening import documents
from hovvet.server.problems import Problem
from hovvet.server.schema import Schema
from hovvet.server.styles.models import NamedSettings
from hovvet.server.styles.named_settings import find_kept, keep, kept_of

router = Router(tags=["captions"])

_EVERYBODYS = frozenset(style.name.lower() for style in STYLES.values())
_DAY = 86_400  # seconds
_MOST_WORDS = 8


def _style(row: NamedSettings) -> CaptionStyle:
    return CaptionStyle.model_validate(named_style(row.settings_json) | {"key": row.key, "name": row.name})


def _keep(request: HttpRequest, wanted: CaptionStyle, key: str = "") -> CaptionStyle:
    settings = wanted.model_dump(mode="json", exclude={"key", "name"})
    return _style(keep(request, NamedSettings.Kind.STYLE, wanted.name, settings, _EVERYBODYS, key))


@router.get("/styles", response=list[CaptionStyle])
def list_styles(request: HttpRequest) -> list[CaptionStyle]:
    """The styles that the workspace has made for itself, oldest first."""
    return [_style(row) for row in kept_of(request, NamedSettings.Kind.STYLE)]


@router.post("/styles", response=CaptionStyle)
def add_style(request: HttpRequest, wanted: CaptionStyle) -> CaptionStyle:
    """Keep a style; its key is made here."""
    return _keep(request, wanted)


@router.put("/styles/{key}", response=CaptionStyle)
def change_style(request: HttpRequest, key: str, wanted: CaptionStyle) -> CaptionStyle:
    """Change a style of the workspace. Clips keep what they have of it."""
    return _keep(request, wanted, key)


@router.delete("/styles/{key}", response={204: None})
def delete_style(request: HttpRequest, key: str) -> HttpResponse:
    """Delete a style of the workspace. Clips keep what they have of it."""
    find_kept(request, NamedSettings.Kind.STYLE, key).delete()
    return HttpResponse(status=204)


class ShowNamed(Schema):
    """The show whose new clips begin with some captions."""

    name: str


@router.post("/documents/{document_id}/for-show", response=ShowNamed)
def set_for_show(request: HttpRequest, document_id: uuid.UUID) -> ShowNamed:
    """Let new clips of a clip's show begin with its captions. Clips that are there stay as they are."""
    document = find(request, documents().filter(kind=Document.Kind.CLIP), pk=document_id)
    return ShowNamed(name=captions_for_show(document).name)


@router.get("/styles/{key}/sample", response={200: None})
def sample(
    request: HttpRequest,
    key: str,
    text: Annotated[str, Query(min_length=1, max_length=160)],
    style: Annotated[str, Query(max_length=4_000)] = "",
) -> HttpResponse:
    """A picture (PNG, 480 x 240) of words set in a style, the last of them being spoken; no more than the first eight.
    ``style`` is that of a clip or of the workspace, as JSON."""
    words = text.split()[:_MOST_WORDS] or ["…"]
    shown = _shown(key, style)
    face = kit_of(workspace_of(request)).fonts.get(shown.font)
    if face is None:
        raise Problem(404, "The font of this style was deleted. Choose another one.")
    answer = HttpResponse(style_sample(shown, words, face), content_type="image/png")
    answer["Cache-Control"] = f"private, max-age={_DAY}"
    return answer


@router.get("/titles/{key}/sample", response={200: None})
def title_picture(
    request: HttpRequest,
    key: str,
    text: Annotated[str, Query(min_length=1, max_length=160)],
    second: Annotated[str, Query(max_length=80)] = "",
) -> HttpResponse:
    """A picture (PNG, 480 x 240) of a title in a template."""
    if key not in TEMPLATES:
        raise Problem(404, "There is no such template.")
    title = Title(text=text, second=second, template=key)
    answer = HttpResponse(title_sample(title), content_type="image/png")
    answer["Cache-Control"] = f"private, max-age={_DAY}"
    return answer


def _shown(key: str, given: str) -> CaptionStyle:
    if given:
        try:
            return CaptionStyle.model_validate_json(given)
        except ValidationError:
            raise Problem(422, "This style cannot be shown. Choose another one.") from None
    if key not in STYLES:
        raise Problem(404, f"There is no such style. Choose one of: {', '.join(STYLES)}.")
    return STYLES[key]
