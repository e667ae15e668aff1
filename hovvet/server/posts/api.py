"""The text for the post over HTTP."""

import uuid

from django.http import HttpRequest, HttpResponse
from ninja import Router

from hovvet.core.engines.meaning import vectors
from hovvet.core.post.offering import begun, offered
from hovvet.core.post.post import Post, counted
from hovvet.server.accounts.access import find
from hovvet.server.documents.models import Document
from hovvet.server.documents.opening import Opened, documents, opened
from hovvet.server.posts.models import PostText
from hovvet.server.posts.per_edition import Newer
from hovvet.server.posts.shelf_used import credits_of
from hovvet.server.posts.writing import Text, keep_text, text_of
from hovvet.server.problems import Problem
from hovvet.server.ranges import attachment
from hovvet.server.schema import Schema

router = Router(tags=["posts"])


class PostOut(Schema):
    """The text for the post of an edition."""

    edition: str
    """By id."""
    post: Post
    own: bool
    """Whether it is of this edition alone."""
    version: int
    """Of the text; 0 while none is kept."""
    credits: list[str]
    """Lines that have to be in it, and are put under it."""
    text: str
    """All of it, as it is copied."""
    letters: int
    """How many it has."""
    letters_limit: int
    """How many the outlet takes."""
    hashtags: int
    """How many it has."""
    hashtags_limit: int
    """How many the outlet takes."""


class NewerPost(Schema):
    """The answer to a text over one that somebody else has written meanwhile."""

    detail: str
    """What happened."""
    post: PostOut
    """As it is now."""


class OfferedOut(Schema):
    """What could stand in it, from the words of the clip."""

    first_lines: list[str]
    """The best first."""
    body: str
    hashtags: list[str]
    """The best first."""
    begun: Post
    """A whole text to begin from."""


class Writing(Schema):
    """What is written, over what had this version; for one edition alone, or for all."""

    post: Post
    version: int
    alone: bool = False
    """For this edition alone."""


def _clip(request: HttpRequest, document_id: uuid.UUID) -> Document:
    return find(request, documents().filter(kind=Document.Kind.CLIP), pk=document_id)


def _opened(document: Document, edition: str) -> Opened:
    now = opened(document, edition)
    if now.edition.id != edition:
        raise Problem(404, "That edition is no longer there. Choose another one.")
    return now


def post_out(now: Opened, text: Text) -> PostOut:
    """A text as the page takes it."""
    credits = credits_of(now.document.workspace, now.plan)
    count = counted(text.value, credits, now.kit.outlets[now.edition.outlet])
    return PostOut(
        edition=now.edition.id,
        post=text.value,
        own=text.own,
        version=text.version,
        credits=credits,
        text=text.value.written(credits),
        letters=count.letters,
        letters_limit=count.letters_limit,
        hashtags=count.tags,
        hashtags_limit=count.tags_limit,
    )


@router.get("/{document_id}/editions/{edition}/post", response=PostOut)
def read_post(request: HttpRequest, document_id: uuid.UUID, edition: str) -> PostOut:
    """What goes with an edition."""
    now = _opened(_clip(request, document_id), edition)
    return post_out(now, text_of(now.document, edition))


@router.get("/{document_id}/editions/{edition}/post/offered", response=OfferedOut)
def offer(request: HttpRequest, document_id: uuid.UUID, edition: str) -> OfferedOut:
    """First lines, a body and hashtags, from what is said in the clip."""
    now = _opened(_clip(request, document_id), edition)
    found = offered(now.plan.words, now.document.title, vectors)
    return OfferedOut(
        first_lines=list(found.first_lines), body=found.body, hashtags=list(found.hashtags), begun=begun(found)
    )


@router.put("/{document_id}/editions/{edition}/post", response={200: PostOut, 409: NewerPost})
def write_post(
    request: HttpRequest, document_id: uuid.UUID, edition: str, given: Writing
) -> tuple[int, PostOut | NewerPost]:
    """Write it; 409 with what is there when somebody else has written in the meantime."""
    now = _opened(_clip(request, document_id), edition)
    try:
        text = keep_text(now.document, edition if given.alone else "", given.post, given.version)
    except Newer:
        there = post_out(now, text_of(now.document, edition))
        return 409, NewerPost(detail="Somebody else has written here in the meantime.", post=there)
    return 200, post_out(now, text)


@router.delete("/{document_id}/editions/{edition}/post", response=PostOut)
def as_for_all(request: HttpRequest, document_id: uuid.UUID, edition: str) -> PostOut:
    """Let an edition have the text of all again."""
    now = _opened(_clip(request, document_id), edition)
    PostText.as_for_all(now.document, edition)
    return post_out(now, text_of(now.document, edition))


@router.get("/{document_id}/editions/{edition}/post.txt", response={200: None}, include_in_schema=False)
def download_post(request: HttpRequest, document_id: uuid.UUID, edition: str) -> HttpResponse:
    """It as a text file."""
    now = _opened(_clip(request, document_id), edition)
    text = text_of(now.document, edition).value.written(credits_of(now.document.workspace, now.plan))
    answer = HttpResponse(text + "\n", content_type="text/plain; charset=utf-8")
    answer["Content-Disposition"] = attachment(f"{now.document.title}.txt")
    return answer
