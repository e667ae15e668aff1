"""The review page over HTTP, for who has the link and no account."""

import uuid

from django.http import Http404, HttpRequest, HttpResponse, HttpResponseBase
from ninja import Field, Router

from hovvet.core.formats.said import SaidParagraph, said
from hovvet.core.formats.subtitles import subtitles
from hovvet.core.render.output import TYPES
from hovvet.core.review.carried import Place
from hovvet.core.text import SomeText
from hovvet.server.accounts.api import own_page
from hovvet.server.problems import Problem
from hovvet.server.ranges import ranged_file
from hovvet.server.review.answers import CommentOut, VerdictOut, comments_out, verdict_out
from hovvet.server.review.models import Comment, ReviewItem, Verdict
from hovvet.server.review.reviewing import is_open, judge, link_of, open_with, plan_of, say, shown_items, shown_version
from hovvet.server.schema import Schema

router = Router(tags=["review page"], auth=own_page)
Name = SomeText


class ReviewItemOut(Schema):
    """An edition to be looked at."""

    id: int
    name: str
    """Of its outlet."""
    version: int
    """The number of the version that is shown."""
    seconds: float
    width: int
    """Pixels."""
    height: int
    """Pixels."""
    words: list[SaidParagraph]
    comments: list[CommentOut]
    verdict: VerdictOut | None
    """The newest, of this version."""


class ReviewOut(Schema):
    """What is to be looked at under a link; without items while its password is not known."""

    title: str
    by: str
    """The workspace that asks."""
    locked: bool
    """Whether a password is to be typed first."""
    download: bool
    """Whether the films may be saved."""
    items: list[ReviewItemOut]


class LinkPassword(Schema):
    """That of a link."""

    password: str = Field(max_length=200)


class Saying(Schema):
    """A comment: on words (positions in the version), at some seconds, at a point of the picture, or an answer."""

    name: Name = Field(min_length=1, max_length=80)
    text: SomeText = Field(min_length=1, max_length=4000)
    version: int
    words: tuple[int, int] | None = None
    seconds: float | None = Field(default=None, ge=0, le=14_400)
    place: Place | None = None
    answers: uuid.UUID | None = None


class Judging(Schema):
    """What somebody thinks of a version."""

    name: Name = Field(min_length=1, max_length=80)
    says: Verdict.Says
    version: int


class Resolving(Schema):
    """Whether a comment is done with, and who says so."""

    name: Name = Field(min_length=1, max_length=80)
    resolved: bool


def _item(request: HttpRequest, token: str, item_id: int) -> ReviewItem:
    item = link_of(request, token).items.select_related("link").filter(pk=item_id).first()
    if item is None:
        raise Http404("That film is not under this link.")
    return item


def item_out(item: ReviewItem) -> ReviewItemOut:
    """An edition as the page takes it."""
    version = shown_version(item)
    plan = plan_of(version)
    return ReviewItemOut(
        id=item.pk,
        name=item.name,
        version=version.number,
        seconds=plan.seconds,
        width=plan.width,
        height=plan.height,
        words=said(plan),
        comments=comments_out(item, plan.words),
        verdict=verdict_out(version.verdicts.first()),
    )


@router.get("/{token}", response=ReviewOut, auth=None)
def read_review(request: HttpRequest, token: str) -> ReviewOut:
    """What is to be looked at."""
    link = link_of(request, token, locked=True)
    locked = not is_open(request, link)
    items = [] if locked else [item_out(item) for item in shown_items(link)]
    title = "" if locked else link.document.title
    return ReviewOut(title=title, by=link.workspace.name, locked=locked, download=link.download, items=items)


@router.post("/{token}/password", response=ReviewOut)
def unlock(request: HttpRequest, token: str, given: LinkPassword) -> ReviewOut:
    """Type the password of a link."""
    open_with(request, link_of(request, token, locked=True), given.password)
    return read_review(request, token)


@router.get("/{token}/items/{item_id}/film", response={200: None}, include_in_schema=False, auth=None)
def read_film(request: HttpRequest, token: str, item_id: int, save: bool = False) -> HttpResponseBase:
    """The film; as a download where that is allowed."""
    item = _item(request, token, item_id)
    if save and not item.link.download:
        raise Problem(403, "This film may be watched, not saved. Ask whoever sent you the link.")
    export = shown_version(item).export
    name = f"{item.link.document.title}, {item.name}.{export.output.kind}" if save else None
    return ranged_file(request, export.main, TYPES[export.output.kind], name)


@router.get("/{token}/items/{item_id}/captions.vtt", response={200: None}, include_in_schema=False, auth=None)
def read_captions(request: HttpRequest, token: str, item_id: int) -> HttpResponse:
    """Its captions, for who wants them beside the film."""
    text = subtitles(plan_of(shown_version(_item(request, token, item_id))), "vtt") or "WEBVTT\n"
    return HttpResponse(text, content_type="text/vtt; charset=utf-8")


@router.post("/{token}/items/{item_id}/comments", response=ReviewItemOut)
def comment(request: HttpRequest, token: str, item_id: int, given: Saying) -> ReviewItemOut:
    """Say something of what is shown, or answer."""
    item = _item(request, token, item_id)
    say(
        item,
        given.name.strip(),
        given.text.strip(),
        given.version,
        given.words,
        given.seconds,
        given.place,
        given.answers,
    )
    return item_out(item)


@router.post("/{token}/items/{item_id}/comments/{comment_id}/resolved", response=ReviewItemOut)
def resolve(request: HttpRequest, token: str, item_id: int, comment_id: uuid.UUID, given: Resolving) -> ReviewItemOut:
    """Be done with a comment, or take it up again."""
    item = _item(request, token, item_id)
    rows = Comment.objects.filter(item=item, pk=comment_id, answers=None)
    if not rows.update(resolved=given.name.strip() if given.resolved else ""):
        raise Problem(404, "That comment has been deleted.")
    return item_out(item)


@router.post("/{token}/items/{item_id}/verdict", response=ReviewItemOut)
def give_verdict(request: HttpRequest, token: str, item_id: int, given: Judging) -> ReviewItemOut:
    """Approve the version that is shown, or want changes."""
    item = _item(request, token, item_id)
    judge(item, given.name.strip(), given.says, given.version)
    return item_out(item)
