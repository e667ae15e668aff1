"""Planning what goes out: which film, to which account, when."""

import uuid
from collections.abc import Sequence
from datetime import datetime

from django.db import IntegrityError, transaction
from django.db.models import F
from django.utils import timezone

from hovvet.core.errors import CoreError
from hovvet.core.outbox.fitting import Outgoing, outgoing, unfit
from hovvet.core.outbox.states import UNSENT
from hovvet.core.outbox.times import in_time
from hovvet.core.plan.upgrade import read_plan
from hovvet.server.accounts.models import Workspace
from hovvet.server.changing import change_row
from hovvet.server.delivery.models import Export
from hovvet.server.outbox.ends import ENDS
from hovvet.server.outbox.ends.base import Account, Refused
from hovvet.server.outbox.models import Posting, PostingState
from hovvet.server.posts.shelf_used import credits_of
from hovvet.server.posts.writing import text_of
from hovvet.server.problems import Problem
from hovvet.server.recordings.models import Show
from hovvet.server.review.verdicts import verdicts_of

State = PostingState
MOST = 2_000  # that a workspace has planned at once
_ONCE = "This film is planned for {}, or has gone there, already."
_ON_ITS_WAY = "This post is on its way, or has gone out, so it cannot be changed any more."


def account_of(workspace: Workspace, end: str, key: str) -> Account:
    """An account that a workspace may post to. Raises Problem, OSError."""
    found = next((each for each in ENDS[end].accounts(workspace) if each.key == key), None) if end in ENDS else None
    if found is None:
        raise Problem(404, "There is no such account, or not any more. Choose another one.")
    return found


def post_of(export: Export) -> Outgoing:
    """What goes out with a film, its text as it is written now. Raises Problem where it was deleted."""
    if not export.main.exists():
        raise Problem(409, "This film is not there (any more). Export it first.")
    plan = read_plan(export.plan)
    text = text_of(export.document, export.edition).value
    return outgoing(
        export.document.title, text, credits_of(export.workspace, plan), export.output.kind, plan.seconds,
        (plan.width, plan.height), export.main.stat().st_size,
    )  # fmt: skip


def wants_approval(export: Export) -> bool:
    """Whether a film may go out only once it is approved, since a show wants that of which it shows something."""
    return Show.objects.filter(recordings__shown_in__document=export.document_id, approved_only=True).exists()


def is_approved(export: Export) -> bool:
    """Whether the last word of its reviewers is yes."""
    return verdicts_of([export.pk]).get(export.pk) == "approved"


def plan_posts(
    workspace: Workspace,
    films: Sequence[Export],
    end: str,
    account: str,
    times: Sequence[datetime] | None,
    zone: str,
    by: int,
) -> list[Posting]:
    """Plan a post for each film, all or none, each at its moment (UTC); None: now. Raises Problem, CoreError, OSError."""
    where, now = account_of(workspace, end, account), timezone.now()
    for film in films:
        if told := unfit(post_of(film), where.limits):
            raise CoreError(f"{where.name} would not take “{film.document.title}”. {' '.join(told)}")
        if times is None and (held := held_by(film)):
            raise Problem(409, f"“{film.document.title}” cannot go out: {held}")
    if workspace.postings.filter(state__in=UNSENT).count() + len(films) > MOST:
        raise Problem(409, f"{MOST:,} posts are planned already, the most there may be.")
    moments = [now] * len(films) if times is None else [in_time(each, now) for each in times]
    with transaction.atomic():
        return [_planned(film, end, where, at, zone, by) for film, at in zip(films, moments, strict=True)]


def _planned(film: Export, end: str, account: Account, at: datetime, zone: str, by: int) -> Posting:
    try:
        with transaction.atomic():
            return Posting.objects.create(
                workspace=film.workspace, document=film.document, export=film, edition=film.edition, end=end,
                account=account.key, account_name=account.name, at=at, due=at, zone=zone, by_id=by,
            )  # fmt: skip
    except IntegrityError:
        raise Problem(409, f"“{film.document.title}”: {_ONCE.format(account.name)}") from None


def held_by(film: Export | None) -> str:
    """Why a film may not go out as things are; "" where it may."""
    if film is None or not film.main.exists():
        return "its film has been deleted. Export it again, then plan it anew."
    if wants_approval(film) and not is_approved(film):
        return "its show sends only what is approved, and this is not, or not any more. Have it reviewed, then send it."
    return ""


def put_off(row: Posting, version: int, at: datetime | None, zone: str) -> None:
    """Let a post go at another moment (UTC); None: now. Raises Problem, CoreError."""
    now = timezone.now()
    _check_unsent(row)
    if at is None and (held := held_by(row.export)):
        raise Problem(409, f"This cannot go out: {held}")
    moment = now if at is None else in_time(at, now)
    change_row(row, version, at=moment, due=moment, zone=zone, state=State.PLANNED, told="")


def use_film(row: Posting, version: int, film: Export) -> None:
    """Let another film of the same edition go out in its place. Raises Problem, CoreError."""
    _check_unsent(row)
    account = account_of(row.workspace, row.end, row.account)
    if row.tries:
        raise Problem(
            409, "This was tried already, so another film is a post of its own. Take this one back, then plan it anew."
        )
    if told := unfit(post_of(film), account.limits):
        raise CoreError(f"{account.name} would not take it. {' '.join(told)}")
    try:
        with transaction.atomic():
            change_row(row, version, export=film)
    except IntegrityError:
        raise Problem(409, _ONCE.format(account.name)) from None


def _check_unsent(row: Posting) -> None:
    if row.state not in UNSENT:
        raise Problem(409, _ON_ITS_WAY)


def take_back(row: Posting) -> None:
    """Let a post not go out. One that was tried may be there all the same: the outlet is asked first. Raises Problem where it is on
    its way, or has gone."""
    if row.tries:
        _check_not_there(row)
    with transaction.atomic():
        mine = Posting.objects.select_for_update().filter(pk=row.pk, state__in=UNSENT).first()
        if mine is None:
            raise Problem(409, _ON_ITS_WAY)
        mine.delete()


def _check_not_there(row: Posting) -> None:
    """Raises Problem where the outlet has a post, or does not say."""
    try:
        there = ENDS[row.end].find(row.account, str(row.pk))
    except OSError:
        raise Problem(
            503, "The outlet does not answer, so nobody knows whether it has this post. Take it back once it does."
        ) from None
    except Refused:
        return  # the account is gone, and what it had with it
    if there is not None:
        mine = Posting.objects.filter(pk=row.pk, state__in=UNSENT)
        mine.update(state=State.SENT, told="", receipt=there.name, sent=there.at, version=F("version") + 1)
        raise Problem(409, "The outlet has this post: it had gone out, though it never said so.")


def film_of(workspace: Workspace, clip: uuid.UUID, edition: str) -> Export | None:
    """The newest finished film of an edition."""
    rows = Export.objects.filter(workspace=workspace, document=clip, edition=edition).select_related(
        "document__workspace", "workspace"
    )
    return next((row for row in rows if row.output.is_film and row.main.exists()), None)


def newest_films(rows: Sequence[Posting]) -> dict[tuple[uuid.UUID, str], uuid.UUID]:
    """The newest finished film of each edition that one of these posts is of, by clip and edition."""
    found: dict[tuple[uuid.UUID, str], uuid.UUID] = {}
    films = Export.objects.filter(document__in={row.document_id for row in rows}).defer("plan", "encoding_json")
    for film in films.order_by("-created") if rows else ():
        if (film.document_id, film.edition) not in found and film.output.is_film and film.main.exists():
            found[film.document_id, film.edition] = film.pk
    return found
