"""What is answered about reviews."""

import uuid
from collections.abc import Sequence
from datetime import date, datetime

from hovvet.core.plan.model import PlanWord
from hovvet.core.review.carried import Place, where_now
from hovvet.core.sheet.model import WordRef
from hovvet.server.review.models import Comment, ReviewItem, ReviewLink, Verdict
from hovvet.server.schema import Schema


class VerdictOut(Schema):
    """What somebody thinks of the version that is shown."""

    says: str
    name: str
    created: datetime


class AnswerOut(Schema):
    """An answer to a comment."""

    id: uuid.UUID
    name: str
    text: str
    created: datetime


class CommentOut(Schema):
    """Something said of a clip, where its words now are."""

    id: uuid.UUID
    item: int
    name: str
    text: str
    created: datetime
    version: int
    """Of which it was said."""
    resolved: str
    """By whom; "" while it is open."""
    first: int | None
    """Position of its first word in what is shown; None where its words are gone, or it is about the whole."""
    last: int | None
    """Position of its last word."""
    start: float | None
    """Seconds at which it is."""
    words: tuple[WordRef, WordRef] | None
    """Its first and last word on the sheet, of those that are still there."""
    lost: bool
    """Whether it was about words that are gone."""
    place: Place | None
    """The point of the picture that it is about."""
    answers: list[AnswerOut]


class ReviewLinkItemOut(Schema):
    """An edition under a link."""

    edition: str
    name: str
    version: int
    open: int
    """Comments that are not resolved."""
    verdict: VerdictOut | None
    newer: bool
    """Whether a newer film is finished than the one that is shown."""


class ReviewLinkOut(Schema):
    """A review link."""

    id: uuid.UUID
    address: str
    """Of its page."""
    password: bool
    """Whether it has one."""
    until: date | None
    """The last day on which it holds."""
    revoked: bool
    holds: bool
    """Whether it can be opened now."""
    download: bool
    """Whether the film may be saved."""
    created: datetime
    items: list[ReviewLinkItemOut]


def address_of(link: ReviewLink) -> str:
    """Where its page is."""
    return f"/review/{link.token}"


def verdict_out(verdict: Verdict | None) -> VerdictOut | None:
    """As the page takes it."""
    return VerdictOut(says=verdict.says, name=verdict.name, created=verdict.created) if verdict else None


def comments_out(item: ReviewItem, words: Sequence[PlanWord]) -> list[CommentOut]:
    """The comments on an edition, where their words are among some words of it; in the order of the clip, those without a place
    last."""
    rows = list(item.comments.all())
    answers: dict[uuid.UUID, list[Comment]] = {}
    for row in rows:
        if row.answers_id is not None:
            answers.setdefault(row.answers_id, []).append(row)
    made = [_comment_out(row, answers.get(row.pk, []), words) for row in rows if row.answers_id is None]
    return sorted(made, key=lambda each: (each.start is None, each.start or 0.0))


def _comment_out(row: Comment, answers: Sequence[Comment], words: Sequence[PlanWord]) -> CommentOut:
    spot = row.spot
    now = where_now(spot, words)
    refs = None
    if now is not None:
        first, last = words[now.first], words[now.last]
        refs = WordRef(origin=first.origin, word=first.id), WordRef(origin=last.origin, word=last.id)
    return CommentOut(
        id=row.pk,
        item=row.item_id,
        name=row.name,
        text=row.text,
        created=row.created,
        version=row.version,
        resolved=row.resolved,
        first=now.first if now else None,
        last=now.last if now else None,
        start=now.start if now else None,
        words=refs,
        lost=now is None and bool(spot.words),
        place=spot.place,
        answers=[AnswerOut(id=each.pk, name=each.name, text=each.text, created=each.created) for each in answers],
    )
