"""The outlets of a workspace over HTTP."""

import uuid

from django.http import HttpRequest, HttpResponse
from ninja import Field, Router
from pydantic import ValidationError

from hovvet.core.plan.outlets import NEW_OUTLET, Outlet
from hovvet.core.text import SomeText
from hovvet.server.accounts.access import find, workspace_of
from hovvet.server.documents.models import CustomOutlet
from hovvet.server.documents.outlets import outlets_of
from hovvet.server.problems import Problem
from hovvet.server.schema import Schema

router = Router(tags=["outlets"])

MOST_OUTLETS = 50


class OutletWanted(Schema):
    """An outlet of one's own: size in pixels (even, 64 to 4096), longest length in seconds, loudness in LUFS, margins
    (left, top, right, bottom) in pixels, the largest file in bytes, if there is a limit, and how
    many letters and hashtags the text of a post may have."""

    name: SomeText = Field(min_length=1, max_length=60)
    width: int
    height: int
    longest: float
    lufs: float = -14.0
    safe: tuple[int, int, int, int] = (0, 0, 0, 0)
    file_limit: int | None = None
    post_letters: int = NEW_OUTLET.post_letters
    post_hashtags: int = NEW_OUTLET.post_hashtags


def _checked(wanted: OutletWanted) -> dict[str, object]:
    given = wanted.model_dump()
    try:
        Outlet.model_validate(given | {"key": "own"})
    except ValidationError as error:
        first = error.errors()[0]
        field = ".".join(str(part) for part in first["loc"])
        raise Problem(
            422, f"This outlet cannot be kept: {field} {first['msg'].lower()}.".replace(": value error,", ":")
        ) from None
    return given


@router.get("", response=list[Outlet])
def list_outlets(request: HttpRequest) -> list[Outlet]:
    """All outlets that clips of the workspace can be made for."""
    return list(outlets_of(workspace_of(request)).values())


@router.post("", response=Outlet)
def add_outlet(request: HttpRequest, wanted: OutletWanted) -> Outlet:
    """Add an outlet of one's own."""
    workspace = workspace_of(request)
    if CustomOutlet.objects.filter(workspace=workspace).count() >= MOST_OUTLETS:
        raise Problem(409, f"There are {MOST_OUTLETS} outlets already. Delete one that is not used.")
    return CustomOutlet.objects.create(workspace=workspace, outlet_json=_checked(wanted)).outlet


@router.put("/{key}", response=Outlet)
def change_outlet(request: HttpRequest, key: str, wanted: OutletWanted) -> Outlet:
    """Change an outlet of one's own. Clips made for it are then out of date."""
    row = _own(request, key)
    row.outlet_json = _checked(wanted)
    row.save(update_fields=["outlet_json"])
    return row.outlet


@router.delete("/{key}", response={204: None})
def delete_outlet(request: HttpRequest, key: str) -> HttpResponse:
    """Delete an outlet of one's own. Editions for it stay, and say that it is gone."""
    _own(request, key).delete()
    return HttpResponse(status=204)


def _own(request: HttpRequest, key: str) -> CustomOutlet:
    try:
        pk = uuid.UUID(key.removeprefix("own-"))
    except ValueError:
        raise Problem(409, "This outlet is everybody's, so it cannot be changed. Add one of your own.") from None
    return find(request, CustomOutlet.objects.all(), pk=pk)
