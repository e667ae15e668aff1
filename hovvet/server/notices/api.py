"""Notices over HTTP: the bell, and what comes by mail."""

from datetime import datetime

from django.core.exceptions import ValidationError
from django.core.validators import validate_email
from django.db.models import Q, QuerySet
from django.http import HttpRequest
from ninja import Field, Router

from hovvet.server.accounts.access import user_of, visible_to
from hovvet.server.notices.mailing import path_of
from hovvet.server.notices.models import KINDS, Notice, NoticeKind, Wishes
from hovvet.server.problems import Problem
from hovvet.server.schema import Schema

router = Router(tags=["notices"])
_SHOWN = 60


class NoticeOut(Schema):
    """Something that happened."""

    id: int
    kind: NoticeKind
    text: str
    created: datetime
    unread: bool
    path: str
    """Where on the page it is gone into."""


class NoticesOut(Schema):
    """What happened lately, the newest first."""

    unread: int
    notices: list[NoticeOut]


class NoticesRead(Schema):
    """The newest that was seen."""

    until: int = Field(ge=0, le=2**62)


class MailOut(Schema):
    """Of what a person has mail, and where to."""

    email: str
    kinds: list[str]
    all_kinds: dict[str, str]
    """What there is, and what it is called."""


class MailWanted(Schema):
    """Of what a person wants mail, and where to; "" for nowhere."""

    email: str = Field(max_length=254)
    kinds: list[NoticeKind] = Field(max_length=20)


def _told(request: HttpRequest) -> QuerySet[Notice]:
    others = ~Q(by=user_of(request)) | Q(by=None)
    return visible_to(request, Notice.objects.filter(others))


@router.get("", response=NoticesOut)
def list_notices(request: HttpRequest) -> NoticesOut:
    """What others did, and what is ready or failed."""
    read = Wishes.of(user_of(request).pk).read
    rows = _told(request)
    return NoticesOut(
        unread=rows.filter(pk__gt=read).count(),
        notices=[
            NoticeOut(
                id=row.pk,
                kind=NoticeKind(row.kind),
                text=row.text,
                created=row.created,
                unread=row.pk > read,
                path=path_of(row),
            )
            for row in rows[:_SHOWN]
        ],
    )


@router.post("/read", response=NoticesOut)
def read_notices(request: HttpRequest, given: NoticesRead) -> NoticesOut:
    """Note that they were seen."""
    wishes, newest = Wishes.of(user_of(request).pk), _told(request).first()
    until = min(given.until, newest.pk if newest else 0)
    Wishes.objects.filter(pk=wishes.pk, read__lt=until).update(read=until)
    return list_notices(request)


@router.get("/mail", response=MailOut)
def read_mail(request: HttpRequest) -> MailOut:
    """What comes by mail."""
    user = user_of(request)
    return MailOut(email=user.email, kinds=Wishes.of(user.pk).mail_json, all_kinds=KINDS)


@router.put("/mail", response=MailOut)
def want_mail(request: HttpRequest, given: MailWanted) -> MailOut:
    """Choose what comes by mail, and where to."""
    user = user_of(request)
    email = given.email.strip()
    try:
        if email:
            validate_email(email)
    except ValidationError:
        raise Problem(422, "That is not an address for mail. It looks like name@place.example.") from None
    Wishes.objects.filter(pk=Wishes.of(user.pk).pk).update(mail_json=[str(each) for each in dict.fromkeys(given.kinds)])
    user.email = email
    user.save(update_fields=["email"])
    return read_mail(request)
