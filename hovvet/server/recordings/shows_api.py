"""Shows: folders of recordings with default settings."""

import uuid
from collections.abc import Iterator
from contextlib import contextmanager

from django.db import IntegrityError, transaction
from django.db.models import Count
from django.http import HttpRequest, HttpResponse
from ninja import Field, Router

from hovvet.core.engines.whisper import USUAL, Quality
from hovvet.core.text import SomeText
from hovvet.core.words.languages import LANGUAGES
from hovvet.server.accounts.access import find, visible_to, workspace_of
from hovvet.server.changing import change_row
from hovvet.server.problems import Problem
from hovvet.server.recordings.models import Show
from hovvet.server.schema import Schema

router = Router(tags=["shows"])


class ShowOut(Schema):
    """A show and how many recordings are in it."""

    id: uuid.UUID
    version: int
    name: str
    language: str
    hears: str
    approved_only: bool
    """Whether only what reviewers approved is sent to outlets."""
    count: int


class NewShow(Schema):
    """The name of a new show."""

    name: SomeText = Field(min_length=1, max_length=120)


class ShowChange(Schema):
    """A name, a language, how carefully a show is listened to, what of it is sent; what is not given stays. ``version`` is what the change is
    made on."""

    version: int

    name: str | None = Field(default=None, min_length=1, max_length=120)
    language: str | None = None
    hears: Quality | None = None
    approved_only: bool | None = None


def show_out(show: Show) -> ShowOut:
    count = show.count if hasattr(show, "count") else show.recordings.count()
    return ShowOut(
        id=show.pk,
        version=show.version,
        name=show.name,
        language=show.language,
        hears=show.hears or USUAL,
        approved_only=show.approved_only,
        count=count,
    )


@router.get("", response=list[ShowOut])
def list_shows(request: HttpRequest) -> list[ShowOut]:
    """All shows of the workspace."""
    shows = visible_to(request, Show.objects.all()).annotate(count=Count("recordings"))
    return [show_out(show) for show in shows]


@router.post("", response=ShowOut)
def create_show(request: HttpRequest, given: NewShow) -> ShowOut:
    """A new show."""
    if not (name := given.name.strip()):
        raise Problem(422, "Give the show a name.")
    with _unique(name):
        return show_out(Show.objects.create(workspace=workspace_of(request), name=name))


@router.patch("/{show_id}", response=ShowOut)
def change_show(request: HttpRequest, show_id: uuid.UUID, given: ShowChange) -> ShowOut:
    """Rename a show or set its language; recordings already recognised stay as they are."""
    show = find(request, Show.objects.all(), pk=show_id)
    name = (given.name or "").strip() or show.name
    language = given.language or show.language
    if language not in LANGUAGES:
        raise Problem(422, "Hovvet does not know that language.")
    with _unique(name):
        change_row(
            show,
            given.version,
            name=name,
            language=language,
            hears=given.hears or show.hears,
            approved_only=show.approved_only if given.approved_only is None else given.approved_only,
        )
    return show_out(show)


@contextmanager
def _unique(name: str) -> Iterator[None]:
    """Tell in plain words when a workspace has a show of this name already."""
    try:
        with transaction.atomic():
            yield
    except IntegrityError:
        raise Problem(409, f"There is a show called “{name}” already.") from None


@router.delete("/{show_id}", response={204: None})
def delete_show(request: HttpRequest, show_id: uuid.UUID) -> HttpResponse:
    """Delete a show; its recordings stay, without a show."""
    find(request, Show.objects.all(), pk=show_id).delete()
    return HttpResponse(status=204)
