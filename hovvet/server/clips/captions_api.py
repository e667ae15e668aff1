"""Caption styles over HTTP: what they look like, and those that a workspace keeps for itself."""

import uuid
from typing import Annotated

from django.db.models import QuerySet
from django.http import HttpRequest, HttpResponse
from ninja import Query, Router
from pydantic import ValidationError

from hovvet.core.captions.style import STYLES, CaptionStyle
from hovvet.core.render.sample import style_sample
from hovvet.server.accounts.access import find, workspace_of
from hovvet.server.assets.fonts import fonts_of
from hovvet.server.clips.models import CustomStyle
from hovvet.server.problems import Problem

router = Router(tags=["captions"])

MOST_STYLES = 50
_DAY = 86_400  # seconds
_MOST_WORDS = 8


@router.get("/styles", response=list[CaptionStyle])
def list_styles(request: HttpRequest) -> list[CaptionStyle]:
    """The styles that the workspace has made for itself, oldest first."""
    return [row.style for row in CustomStyle.objects.filter(workspace=workspace_of(request))]


@router.post("/styles", response=CaptionStyle)
def add_style(request: HttpRequest, wanted: CaptionStyle) -> CaptionStyle:
    """Keep a style; its key is made here."""
    workspace = workspace_of(request)
    own = CustomStyle.objects.filter(workspace=workspace)
    if own.count() >= MOST_STYLES:
        raise Problem(409, f"There are {MOST_STYLES} styles already. Delete one that is not used.")
    _check_name(own, wanted)
    return CustomStyle.objects.create(workspace=workspace, style_json=_kept(wanted)).style


@router.put("/styles/{key}", response=CaptionStyle)
def change_style(request: HttpRequest, key: str, wanted: CaptionStyle) -> CaptionStyle:
    """Change a style of the workspace. Clips keep what they have of it."""
    row = _own(request, key)
    _check_name(CustomStyle.objects.filter(workspace=row.workspace).exclude(pk=row.pk), wanted)
    row.style_json = _kept(wanted)
    row.save(update_fields=["style_json"])
    return row.style


@router.delete("/styles/{key}", response={204: None})
def delete_style(request: HttpRequest, key: str) -> HttpResponse:
    """Delete a style of the workspace. Clips keep what they have of it."""
    _own(request, key).delete()
    return HttpResponse(status=204)


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
    face = fonts_of(workspace_of(request)).get(shown.font)
    if face is None:
        raise Problem(404, "The font of this style was deleted. Choose another one.")
    answer = HttpResponse(style_sample(shown, words, face), content_type="image/png")
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


def _kept(wanted: CaptionStyle) -> dict[str, object]:
    return wanted.model_dump(mode="json", exclude={"key"})


def _check_name(others: QuerySet[CustomStyle], wanted: CaptionStyle) -> None:
    taken = {style.name.casefold() for style in STYLES.values()} | {row.style.name.casefold() for row in others}
    if wanted.name.strip().casefold() in taken:
        raise Problem(409, f"There is a style called “{wanted.name}” already. Give this one another name.")


def _own(request: HttpRequest, key: str) -> CustomStyle:
    try:
        pk = uuid.UUID(key.removeprefix("own-"))
    except ValueError:
        raise Problem(
            409, "This style is everybody's, so it cannot be changed. Keep a changed one as your own."
        ) from None
    return find(request, CustomStyle.objects.all(), pk=pk)
