"""Share pages over HTTP, for those who make them."""

import uuid

from django.http import HttpRequest, HttpResponse
from ninja import Field, Router

from hovvet.core.text import SomeText
from hovvet.server.accounts.access import find
from hovvet.server.changing import change_row
from hovvet.server.documents.models import Document
from hovvet.server.documents.opening import documents
from hovvet.server.review.reviewing import newest_export
from hovvet.server.schema import Schema
from hovvet.server.share.models import SharePage
from hovvet.server.share.sharing import absolute, frame_code, frame_size, make_page, show_newest, shown_plan

router = Router(tags=["share pages"])


class SharePageOut(Schema):
    """A share page."""

    id: uuid.UUID
    version: int
    edition: str
    """By id."""
    address: str
    title: str
    public: bool
    """Whether anybody may find it and embed it; otherwise it is for who has the link."""
    words: bool
    """Whether what is said can be read there."""
    code: str
    """The HTML that embeds it in a page of another site; "" while it is not public, or its film has been deleted."""
    newer: bool
    """Whether there is a newer film than the one that is shown."""
    gone: bool
    """Whether its film has been deleted."""


class SharePageChange(Schema):
    """What is to be otherwise with a page; what is not given stays."""

    version: int
    title: SomeText | None = Field(default=None, min_length=1, max_length=200)
    public: bool | None = None
    words: bool | None = None


class SharePageVersion(Schema):
    """What a change is made on."""

    version: int


def _clip(request: HttpRequest, document_id: uuid.UUID) -> Document:
    return find(request, documents().filter(kind=Document.Kind.CLIP), pk=document_id)


def _page(request: HttpRequest, page_id: uuid.UUID) -> SharePage:
    page = find(request, SharePage.objects.select_related("export"), pk=page_id)
    page.document = documents().get(pk=page.document_id)
    return page


def _out(request: HttpRequest, page: SharePage) -> SharePageOut:
    plan, newest = shown_plan(page), newest_export(page.document, page.edition)
    code = ""
    if plan is not None and page.public:
        code = frame_code(absolute(request, page.embed_path), page.title, frame_size(plan.width, plan.height))
    return SharePageOut(
        id=page.pk,
        version=page.version,
        edition=page.edition,
        address=absolute(request, page.path),
        title=page.title,
        public=page.public,
        words=page.words,
        code=code,
        newer=newest is not None and newest.pk != page.export_id,
        gone=plan is None,
    )


@router.get("/documents/{document_id}/shared", response=list[SharePageOut])
def list_pages(request: HttpRequest, document_id: uuid.UUID) -> list[SharePageOut]:
    """The share pages of a clip."""
    document = _clip(request, document_id)
    return [_out(request, page) for page in document.shared.select_related("export", "document")]


@router.post("/documents/{document_id}/editions/{edition}/shared", response=SharePageOut)
def add_page(request: HttpRequest, document_id: uuid.UUID, edition: str) -> SharePageOut:
    """A private page of the newest film of an edition; the one that there is."""
    return _out(request, make_page(_clip(request, document_id), edition))


@router.patch("/shared/{page_id}", response=SharePageOut)
def change_page(request: HttpRequest, page_id: uuid.UUID, given: SharePageChange) -> SharePageOut:
    """Change its title, who may find it, what can be read there."""
    page = _page(request, page_id)
    told = {name: value for name, value in given.model_dump(exclude={"version"}).items() if value is not None}
    if "title" in told:
        told["title"] = told["title"].strip()
    change_row(page, given.version, **told)
    return _out(request, page)


@router.post("/shared/{page_id}/newest", response=SharePageOut)
def newest_on_page(request: HttpRequest, page_id: uuid.UUID, given: SharePageVersion) -> SharePageOut:
    """Show the newest film there."""
    page = _page(request, page_id)
    show_newest(page, given.version)
    return _out(request, page)


@router.delete("/shared/{page_id}", response={204: None})
def delete_page(request: HttpRequest, page_id: uuid.UUID) -> HttpResponse:
    """Delete a page: its link leads nowhere from then on."""
    find(request, SharePage.objects.all(), pk=page_id).delete()
    return HttpResponse(status=204)
