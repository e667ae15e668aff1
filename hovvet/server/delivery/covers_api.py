"""The cover of a clip over HTTP."""

import uuid

from django.http import HttpRequest, HttpResponse
from ninja import Field, Query, Router

from hovvet.core.captions.title_styles import TEMPLATES
from hovvet.core.cover.cover import Cover, at_moment, moment, usual_title
from hovvet.core.cover.drawing import Kind
from hovvet.core.sheet.contents.title import Title
from hovvet.core.value import with_changes
from hovvet.server.accounts.access import find
from hovvet.server.delivery.covers import PREVIEW, cover_of, frames_for, picture_of
from hovvet.server.delivery.models import CoverChosen
from hovvet.server.documents.models import Document
from hovvet.server.documents.opening import Opened, documents, opened
from hovvet.server.posts.per_edition import Chosen, Newer
from hovvet.server.problems import Problem
from hovvet.server.ranges import attachment
from hovvet.server.schema import Schema
from hovvet.server.turns import takes_turns

router = Router(tags=["covers"])


class CoverOut(Schema):
    """The cover of an edition."""

    seconds: float
    """Of the clip, at which its frame is."""
    text: str
    """Written over it; "" for nothing."""
    template: str
    """How that is written."""
    own: bool
    """Whether it is of this edition alone."""
    version: int
    """Of the cover; 0 while none is kept."""
    suggested: str
    """What could be written over it: the title of the clip."""


class NewerCover(Schema):
    """The answer to a cover over one that somebody else has chosen meanwhile."""

    detail: str
    """What happened."""
    cover: CoverOut
    """As it is now."""


class FrameOut(Schema):
    """A frame that would make a good cover."""

    seconds: float
    face: bool
    """Whether somebody's face is in it."""


class CoverWanted(Schema):
    """The frame at some seconds of the clip, and what is written over it."""

    seconds: float = Field(ge=0, le=4 * 3600)
    text: str = Field(default="", max_length=160)
    template: str = Field(default="", max_length=40)
    """"" for that of the clip's own titles."""


class CoverKept(CoverWanted):
    """A cover that is kept, over what had this version; for one edition alone, or for all."""

    version: int
    alone: bool = False


def _opened(request: HttpRequest, document_id: uuid.UUID, edition: str) -> Opened:
    now = opened(find(request, documents().filter(kind=Document.Kind.CLIP), pk=document_id), edition)
    if now.edition.id != edition:
        raise Problem(404, "That edition is no longer there. Choose another one.")
    return now


def _title(now: Opened, wanted: CoverWanted) -> Title | None:
    if not wanted.text.strip():
        return None
    if wanted.template and wanted.template not in TEMPLATES:
        raise Problem(422, "There is no such template of titles. Choose another one.")
    title = usual_title(now.sheet, wanted.text.strip())
    return with_changes(title, template=wanted.template) if wanted.template else title


def _out(now: Opened, chosen: Chosen[Cover]) -> CoverOut:
    title = chosen.value.title
    return CoverOut(
        seconds=moment(chosen.value, now.scene),
        text=title.text if title else "",
        template=(title or usual_title(now.sheet, "Title")).template,
        own=chosen.own,
        version=chosen.version,
        suggested=now.document.title,
    )


@router.get("/{document_id}/editions/{edition}/cover", response=CoverOut)
def read_cover(request: HttpRequest, document_id: uuid.UUID, edition: str) -> CoverOut:
    """The cover of an edition."""
    now = _opened(request, document_id, edition)
    return _out(now, cover_of(now.document, edition))


@router.put("/{document_id}/editions/{edition}/cover", response={200: CoverOut, 409: NewerCover})
def choose_cover(
    request: HttpRequest, document_id: uuid.UUID, edition: str, given: CoverKept
) -> tuple[int, CoverOut | NewerCover]:
    """Keep a cover; 409 with what is there when somebody else has chosen one in the meantime."""
    now = _opened(request, document_id, edition)
    cover = at_moment(given.seconds, now.plan.words, _title(now, given))
    try:
        return 200, _out(now, CoverChosen.keep(now.document, edition if given.alone else "", cover, given.version))
    except Newer:
        there = _out(now, cover_of(now.document, edition))
        return 409, NewerCover(detail="Somebody else has chosen a cover in the meantime.", cover=there)


@router.delete("/{document_id}/editions/{edition}/cover", response=CoverOut)
def cover_as_for_all(request: HttpRequest, document_id: uuid.UUID, edition: str) -> CoverOut:
    """Let an edition have the cover of all again."""
    now = _opened(request, document_id, edition)
    CoverChosen.as_for_all(now.document, edition)
    return _out(now, cover_of(now.document, edition))


@router.get("/{document_id}/editions/{edition}/cover/offered", response=list[FrameOut])
@takes_turns()
def offer_frames(request: HttpRequest, document_id: uuid.UUID, edition: str) -> list[FrameOut]:
    """Frames that would make a good one, in the order of the clip."""
    return [
        FrameOut(seconds=each.seconds, face=each.face) for each in frames_for(_opened(request, document_id, edition))
    ]


@router.get("/{document_id}/editions/{edition}/cover/picture", response={200: None}, include_in_schema=False)
@takes_turns()
def preview_cover(
    request: HttpRequest, document_id: uuid.UUID, edition: str, wanted: Query[CoverWanted]
) -> HttpResponse:
    """A small picture of what is being chosen. Nothing is kept."""
    now = _opened(request, document_id, edition)
    cover = Cover(after=wanted.seconds, title=_title(now, wanted))
    answer = HttpResponse(picture_of(now, cover, "jpg", PREVIEW), content_type="image/jpeg")
    answer["Cache-Control"] = "private, max-age=600"  # the address names the version that it is of
    return answer


@router.get("/{document_id}/editions/{edition}/cover.{kind}", response={200: None}, include_in_schema=False)
@takes_turns()
def download_cover(request: HttpRequest, document_id: uuid.UUID, edition: str, kind: Kind) -> HttpResponse:
    """The cover as a file, in the size of the outlet."""
    now = _opened(request, document_id, edition)
    made = picture_of(now, cover_of(now.document, edition).value, kind)
    answer = HttpResponse(made, content_type="image/png" if kind == "png" else "image/jpeg")
    outlet = now.kit.outlets[now.edition.outlet].name
    answer["Content-Disposition"] = attachment(f"{now.document.title}, {outlet}.{kind}")
    return answer
