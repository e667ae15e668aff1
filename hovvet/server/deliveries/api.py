"""Deliveries over HTTP: the board, and who sees to what by when."""

import uuid
from datetime import date

from django.http import HttpRequest, HttpResponse
from ninja import Field, Router

from hovvet.server.accounts.access import visible_to, workspace_of
from hovvet.server.accounts.models import Membership
from hovvet.server.deliveries.board import BoardOut, board_of
from hovvet.server.deliveries.models import Duty
from hovvet.server.documents.models import Document
from hovvet.server.problems import Problem
from hovvet.server.schema import Schema

router = Router(tags=["deliveries"])


class DutyWanted(Schema):
    """Who is to see to clips, and by when; what is not given stays."""

    clips: list[uuid.UUID] = Field(min_length=1, max_length=500)
    person: str | None = Field(default=None, max_length=150)
    """By name; "" for whoever made each."""
    due: date | None = None
    no_day: bool = False
    """Whether there is to be no day any more."""


@router.get("", response=BoardOut)
def read_board(request: HttpRequest) -> HttpResponse:
    """All clips, and how far each of their editions is."""
    return HttpResponse(board_of(workspace_of(request)).model_dump_json(), content_type="application/json")


@router.put("/duties", response={204: None})
def agree(request: HttpRequest, given: DutyWanted) -> HttpResponse:
    """Say who sees to clips, and by when."""
    workspace = workspace_of(request)
    clips = visible_to(request, Document.objects.filter(kind=Document.Kind.CLIP, pk__in=given.clips))
    values: dict[str, object] = {}
    if given.person is not None:
        member = Membership.objects.filter(workspace=workspace, user__username=given.person).first()
        if given.person and member is None:
            raise Problem(422, f"Nobody called “{given.person}” is in this workspace. Choose somebody who is.")
        values["person_id"] = member.user_id if member else None
    if given.due is not None or given.no_day:
        values["due"] = given.due
    for clip in clips:
        Duty.objects.update_or_create(document=clip, defaults=values)
    return HttpResponse(status=204)
