"""Reviews over HTTP, for those who ask for them: links, versions, what was said."""

import uuid
from datetime import date

from django.http import HttpRequest, HttpResponse
from ninja import Field, Router

from hovvet.core.text import SomeText
from hovvet.server.accounts.access import find, user_of
from hovvet.server.documents.models import Document
from hovvet.server.documents.opening import documents, opened
from hovvet.server.problems import Problem
from hovvet.server.review.answers import (
    CommentOut,
    ReviewLinkItemOut,
    ReviewLinkOut,
    address_of,
    comments_out,
    verdict_out,
)
from hovvet.server.review.models import Comment, ReviewItem, ReviewLink
from hovvet.server.review.reviewing import make_link, newest_export, publish, say
from hovvet.server.schema import Schema

router = Router(tags=["reviews"])


class ReviewWanted(Schema):
    """Which editions to share, and how."""

    editions: list[str] = Field(min_length=1, max_length=24)
    password: str = Field(default="", max_length=200)
    """"" for none."""
    until: date | None = None
    """The last day on which it holds; None for no end."""
    download: bool = False


class ReviewChange(Schema):
    """What is to be otherwise with a link; what is not given stays."""

    password: str | None = Field(default=None, max_length=200)
    until: date | None = None
    revoked: bool | None = None
    download: bool | None = None


class CommentAnswer(Schema):
    """An answer to a comment."""

    text: SomeText = Field(min_length=1, max_length=4000)


class CommentDone(Schema):
    """Whether a comment is done with."""

    resolved: bool


def _clip(request: HttpRequest, document_id: uuid.UUID) -> Document:
    return find(request, documents().filter(kind=Document.Kind.CLIP), pk=document_id)


def _link(request: HttpRequest, link_id: uuid.UUID) -> ReviewLink:
    return find(request, ReviewLink.objects.select_related("document"), pk=link_id)


def _out(link: ReviewLink) -> ReviewLinkOut:
    return ReviewLinkOut(
        id=link.pk,
        address=address_of(link),
        password=bool(link.password),
        until=link.until,
        revoked=link.revoked,
        holds=link.holds,
        download=link.download,
        created=link.created,
        items=[_item_out(item, link) for item in link.items.all()],
    )


def _item_out(item: ReviewItem, link: ReviewLink) -> ReviewLinkItemOut:
    shown, newest = item.versions.first(), newest_export(link.document, item.edition)
    return ReviewLinkItemOut(
        edition=item.edition,
        name=item.name,
        version=shown.number if shown else 0,
        open=item.comments.filter(answers=None, resolved="").count(),
        verdict=verdict_out(shown.verdicts.first()) if shown else None,
        newer=newest is not None and (shown is None or shown.export_id != newest.pk),
    )


@router.get("/documents/{document_id}/reviews", response=list[ReviewLinkOut])
def list_links(request: HttpRequest, document_id: uuid.UUID) -> list[ReviewLinkOut]:
    """The review links of a clip, newest first."""
    return [_out(link) for link in _clip(request, document_id).reviews.select_related("document")]


@router.post("/documents/{document_id}/reviews", response=ReviewLinkOut)
def add_link(request: HttpRequest, document_id: uuid.UUID, given: ReviewWanted) -> ReviewLinkOut:
    """Share the newest films of editions under a link."""
    document = _clip(request, document_id)
    return _out(make_link(document, given.editions, request.user.pk, given.password, given.until, given.download))


@router.patch("/reviews/{link_id}", response=ReviewLinkOut)
def change_link(request: HttpRequest, link_id: uuid.UUID, given: ReviewChange) -> ReviewLinkOut:
    """Revoke a link, or give it another password or end."""
    link = _link(request, link_id)
    told = given.model_dump(exclude_unset=True)
    if told.get("password") is not None:
        link.set_password(told["password"])
    if "until" in told:
        link.until = told["until"]
    for name in ("revoked", "download"):
        if told.get(name) is not None:
            setattr(link, name, told[name])
    link.save(update_fields=["password", "until", "revoked", "download"])
    return _out(link)


@router.delete("/reviews/{link_id}", response={204: None})
def delete_link(request: HttpRequest, link_id: uuid.UUID) -> HttpResponse:
    """Delete a link with all that was said under it."""
    _link(request, link_id).delete()
    return HttpResponse(status=204)


@router.post("/reviews/{link_id}/versions", response=ReviewLinkOut)
def publish_versions(request: HttpRequest, link_id: uuid.UUID) -> ReviewLinkOut:
    """Show the newest films under a link, with what was said carried to where its words now are."""
    link = _link(request, link_id)
    if not publish(link):
        raise Problem(409, "What is shown under this link is the newest. Export the clip again first.")
    return _out(link)


@router.get("/documents/{document_id}/comments", response=list[CommentOut])
def list_comments(request: HttpRequest, document_id: uuid.UUID, edition: str | None = None) -> list[CommentOut]:
    """What was said of a clip under all its links, where its words stand on the sheet now."""
    document = _clip(request, document_id)
    now = opened(document, edition)
    items = ReviewItem.objects.filter(link__document=document)
    found = [each for item in items for each in comments_out(item, now.plan.words)]
    return sorted(found, key=lambda each: (bool(each.resolved), each.start is None, each.start or 0.0))


def _comment(request: HttpRequest, comment_id: uuid.UUID) -> Comment:
    rows = Comment.objects.select_related("item__link").filter(pk=comment_id, answers=None)
    row = rows.first()
    if row is None:
        raise Problem(404, "That comment has been deleted.")
    _link(request, row.item.link_id)
    return row


@router.post("/comments/{comment_id}/answers", response={204: None})
def answer(request: HttpRequest, comment_id: uuid.UUID, given: CommentAnswer) -> HttpResponse:
    """Answer a comment."""
    row, user = _comment(request, comment_id), user_of(request)
    say(row.item, user.get_username(), given.text.strip(), row.version, answers=row.pk, user_id=user.pk)
    return HttpResponse(status=204)


@router.post("/comments/{comment_id}/resolved", response={204: None})
def be_done(request: HttpRequest, comment_id: uuid.UUID, given: CommentDone) -> HttpResponse:
    """Be done with a comment, or take it up again."""
    row = _comment(request, comment_id)
    Comment.objects.filter(pk=row.pk).update(resolved=user_of(request).get_username() if given.resolved else "")
    return HttpResponse(status=204)
