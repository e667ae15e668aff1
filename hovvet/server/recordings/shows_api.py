"""Shows: folders of recordings with default settings."""

import uuid

from django.db import IntegrityError, transaction
from django.db.models import Count
from django.http import HttpRequest, HttpResponse
from ninja import Field, Router, Schema

from hovvet.server.accounts.access import find, workspace_of
from hovvet.server.problems import Problem
from hovvet.server.recordings.models import Show

router = Router(tags=["shows"])

LANGUAGES = {
    "en": "English", "de": "German", "es": "Spanish", "fr": "French", "it": "Italian", "nl": "Dutch", "pl": "Polish",
    "pt": "Portuguese", "sv": "Swedish", "uk": "Ukrainian",
}  # fmt: skip


class ShowOut(Schema):
    """A show and how many recordings are in it."""

    id: uuid.UUID
    name: str
    language: str
    count: int


class ShowChange(Schema):
    """A name and a language for a show; what is not given stays."""

    name: str | None = Field(default=None, min_length=1, max_length=120)
    language: str | None = None


class Shows(Schema):
    """All shows, and the languages a show can have."""

    shows: list[ShowOut]
    languages: dict[str, str]


def _out(show: Show) -> ShowOut:
    count = show.count if hasattr(show, "count") else show.recordings.count()
    return ShowOut(id=show.pk, name=show.name, language=show.language, count=count)


def _change(show: Show, given: ShowChange) -> ShowOut:
    if given.name is not None:
        show.name = given.name.strip() or show.name
    if given.language is not None:
        if given.language not in LANGUAGES:
            raise Problem(422, "Hovvet does not know that language.")
        show.language = given.language
    try:
        with transaction.atomic():
            show.save()
    except IntegrityError:
        raise Problem(409, f"There is a show called “{show.name}” already.") from None
    return _out(show)


@router.get("", response=Shows)
def list_shows(request: HttpRequest) -> Shows:
    """All shows of the workspace."""
    shows = Show.objects.filter(workspace=workspace_of(request)).annotate(count=Count("recordings"))
    return Shows(shows=[_out(show) for show in shows], languages=LANGUAGES)


@router.post("", response=ShowOut)
def create_show(request: HttpRequest, given: ShowChange) -> ShowOut:
    """A new show."""
    if given.name is None or not given.name.strip():
        raise Problem(422, "Give the show a name.")
    return _change(Show(workspace=workspace_of(request)), given)


@router.patch("/{show_id}", response=ShowOut)
def change_show(request: HttpRequest, show_id: uuid.UUID, given: ShowChange) -> ShowOut:
    """Rename a show or set its language; recordings already recognised stay as they are."""
    return _change(find(request, Show.objects.all(), pk=show_id), given)


@router.delete("/{show_id}", response={204: None})
def delete_show(request: HttpRequest, show_id: uuid.UUID) -> HttpResponse:
    """Delete a show; its recordings stay, without a show."""
    find(request, Show.objects.all(), pk=show_id).delete()
    return HttpResponse(status=204)
