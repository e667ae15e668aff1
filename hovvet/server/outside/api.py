"""The stand-in for outlets over HTTP: its accounts, their moods, their feeds."""

import uuid
from datetime import datetime

from django.http import HttpRequest, HttpResponse, HttpResponseBase
from ninja import Field, Router

from hovvet.core.render.output import TYPES
from hovvet.core.text import SomeText
from hovvet.server.accounts.access import find, visible_to, workspace_of
from hovvet.server.documents.outlets import outlets_of
from hovvet.server.outside.models import MOODS, OutsideAccount, OutsidePost
from hovvet.server.problems import Problem
from hovvet.server.ranges import ranged_file
from hovvet.server.schema import Schema

router = Router(tags=["stand-in for outlets"])
_MOST_ACCOUNTS, _SHOWN = 50, 100


class OutsideAccountOut(Schema):
    """An account at a made-up outlet."""

    id: uuid.UUID
    name: str
    sort: str
    """The key of the outlet whose limits it has."""
    sort_name: str
    mood: OutsideAccount.Mood
    posts: int
    """How many it took."""


class OutsideOut(Schema):
    """All accounts, and how they can behave."""

    accounts: list[OutsideAccountOut]
    moods: dict[str, str]
    """What they are called."""


class NewOutsideAccount(Schema):
    """An account to be made."""

    name: SomeText = Field(min_length=1, max_length=60)
    sort: str = Field(max_length=64)


class MoodWanted(Schema):
    """How an account is to behave."""

    mood: OutsideAccount.Mood


class OutsidePostOut(Schema):
    """A post as it looks where it went."""

    id: uuid.UUID
    title: str
    text: str
    seconds: float
    width: int
    """Pixels."""
    height: int
    """Pixels."""
    created: datetime
    has_cover: bool


class FeedOut(Schema):
    """What an account was sent, the newest first."""

    account: OutsideAccountOut
    posts: list[OutsidePostOut]


def _out(row: OutsideAccount) -> OutsideAccountOut:
    outlets = outlets_of(row.workspace)
    name = outlets[row.sort].name if row.sort in outlets else "A deleted outlet"
    return OutsideAccountOut(
        id=row.pk,
        name=row.name,
        sort=row.sort,
        sort_name=name,
        mood=OutsideAccount.Mood(row.mood),
        posts=row.posts.count(),
    )


@router.get("/accounts", response=OutsideOut)
def list_accounts(request: HttpRequest) -> OutsideOut:
    """All accounts of the workspace."""
    rows = visible_to(request, OutsideAccount.objects.select_related("workspace"))
    return OutsideOut(accounts=[_out(row) for row in rows], moods=MOODS)


@router.post("/accounts", response=OutsideAccountOut)
def add_account(request: HttpRequest, given: NewOutsideAccount) -> OutsideAccountOut:
    """Make an account at a made-up outlet."""
    workspace = workspace_of(request)
    if given.sort not in outlets_of(workspace):
        raise Problem(422, "There is no such outlet. Choose another one.")
    if workspace.outside_accounts.count() >= _MOST_ACCOUNTS:
        raise Problem(409, f"There are {_MOST_ACCOUNTS} accounts already. Delete one that is not used.")
    return _out(OutsideAccount.objects.create(workspace=workspace, name=given.name.strip(), sort=given.sort))


@router.put("/accounts/{account_id}/mood", response=OutsideAccountOut)
def set_mood(request: HttpRequest, account_id: uuid.UUID, given: MoodWanted) -> OutsideAccountOut:
    """Choose how an account behaves."""
    row = find(request, OutsideAccount.objects.select_related("workspace"), pk=account_id)
    row.mood = given.mood
    row.save(update_fields=["mood"])
    return _out(row)


@router.delete("/accounts/{account_id}", response={204: None})
def delete_account(request: HttpRequest, account_id: uuid.UUID) -> HttpResponse:
    """Delete an account with what it was sent; what is planned for it does not go out, and says so when its time comes."""
    find(request, OutsideAccount.objects.all(), pk=account_id).delete()
    return HttpResponse(status=204)


@router.get("/accounts/{account_id}/feed", response=FeedOut)
def read_feed(request: HttpRequest, account_id: uuid.UUID) -> FeedOut:
    """What an account was sent, as it looks there."""
    account = find(request, OutsideAccount.objects.select_related("workspace"), pk=account_id)
    posts = [
        OutsidePostOut(
            id=row.pk,
            title=row.title,
            text=row.text,
            seconds=row.seconds,
            width=row.width,
            height=row.height,
            created=row.created,
            has_cover=row.cover.exists(),
        )
        for row in account.posts.all()[:_SHOWN]
    ]
    return FeedOut(account=_out(account), posts=posts)


def _post(request: HttpRequest, post_id: uuid.UUID) -> OutsidePost:
    row = OutsidePost.objects.filter(pk=post_id).first()
    if row is None:
        raise Problem(404, "That post is no longer there.")
    find(request, OutsideAccount.objects.all(), pk=row.account_id)
    return row


@router.get("/posts/{post_id}/film", response={200: None}, include_in_schema=False)
def read_film(request: HttpRequest, post_id: uuid.UUID) -> HttpResponseBase:
    """The film of a post."""
    row = _post(request, post_id)
    return ranged_file(request, row.film, TYPES[row.kind])


@router.get("/posts/{post_id}/cover.jpg", response={200: None}, include_in_schema=False)
def read_cover(request: HttpRequest, post_id: uuid.UUID) -> HttpResponseBase:
    """The cover of a post."""
    row = _post(request, post_id)
    if not row.cover.exists():
        raise Problem(404, "This post has no cover.")
    return ranged_file(request, row.cover, "image/jpeg")
