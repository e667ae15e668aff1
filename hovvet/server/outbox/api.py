"""The outbox over HTTP: accounts, what is planned, what went out."""

import uuid
from collections.abc import Iterable
from datetime import datetime, timedelta

from django.http import HttpRequest, HttpResponse
from django.utils import timezone
from ninja import Field, Router

from hovvet.core.outbox.states import ASKS, SENDINGS, UNSENT
from hovvet.core.outbox.times import STEPS, Step, is_twice, moment, series, zones
from hovvet.server.accounts.access import find, user_of, visible_to, workspace_of
from hovvet.server.outbox.ends import ENDS
from hovvet.server.outbox.models import Posting, PostingState
from hovvet.server.outbox.planning import film_of, newest_films, plan_posts, put_off, take_back, use_film
from hovvet.server.problems import Problem
from hovvet.server.schema import Schema

router = Router(tags=["outbox"])
_MOST = 200  # films planned at once
_LISTED = 1_000
_LISTED_DAYS = 45  # of what went out


class AccountOut(Schema):
    """An account that can be posted to."""

    end: str
    """Which kind of outlet."""
    end_name: str
    account: str
    """What it is known by there."""
    name: str
    outlet: str
    """The key of the outlet whose editions are made for it."""
    longest: float
    """Seconds that it takes."""


class OutboxOut(Schema):
    """Where can be posted to, and how a time can be chosen."""

    accounts: list[AccountOut]
    zones: list[str]
    """Time zones, by name."""
    steps: dict[Step, str]
    """How several are spread, and what that is called."""
    states: dict[str, str]
    """Of posts, and what they are called."""


class PostingOut(Schema):
    """A post that goes out, or went."""

    id: uuid.UUID
    version: int
    clip: uuid.UUID
    title: str
    edition: str
    """By id."""
    end: str
    account: str
    account_name: str
    at: datetime
    zone: str
    due: datetime
    """When it is tried next."""
    state: PostingState
    told: str
    """Why it is as it is."""
    tries: int
    sent: datetime | None
    asks: bool
    """Whether somebody has to say how it goes on."""
    newer: bool
    """Whether there is a newer film of its edition, which could go in its place."""
    can_change: bool
    """Whether it can be put off or taken back."""


class FilmWanted(Schema):
    """An edition of a clip."""

    clip: uuid.UUID
    edition: str = Field(max_length=64)


class Planning(Schema):
    """What is to go out, where to, and when."""

    films: list[FilmWanted] = Field(min_length=1, max_length=_MOST)
    end: str = Field(max_length=40)
    account: str = Field(max_length=100)
    at: datetime | None = None
    """The first one's, as a clock in the zone shows it (without one of its own); None: now."""
    zone: str = Field(default="UTC", max_length=64)
    step: Step = "at once"


class PostingChange(Schema):
    """What is to be otherwise with a post that has not gone out: its time (``now``: at once), or its film."""

    version: int
    at: datetime | None = None
    """As a clock in the zone shows it."""
    zone: str = Field(default="UTC", max_length=64)
    now: bool = False
    newest: bool = False
    """Whether the newest film of its edition goes in its place."""


class TimeAsked(Schema):
    """A time on a clock somewhere, and how several are spread from it on."""

    at: datetime
    zone: str = Field(max_length=64)
    step: Step = "at once"
    count: int = Field(default=1, ge=1, le=_MOST)


class TimesOut(Schema):
    """The moments that are meant."""

    moments: list[datetime]
    twice: bool
    """Whether clocks show that time twice that day: the first is meant."""


def postings_out(rows: Iterable[Posting]) -> list[PostingOut]:
    """Posts as the page takes them."""
    known = list(rows)
    newest = newest_films([row for row in known if row.state in UNSENT])
    return [_out(row, newest.get((row.document_id, row.edition))) for row in known]


def _out(row: Posting, newest: uuid.UUID | None) -> PostingOut:
    return PostingOut(
        id=row.pk,
        version=row.version,
        clip=row.document_id,
        title=row.document.title,
        edition=row.edition,
        end=row.end,
        account=row.account,
        account_name=row.account_name,
        at=row.at,
        zone=row.zone,
        due=row.due,
        state=PostingState(row.state),
        told=row.told,
        tries=row.tries,
        sent=row.sent,
        asks=row.state in ASKS,
        newer=newest is not None and newest != row.export_id and not row.tries,
        can_change=row.state in UNSENT,
    )


def _local(at: datetime) -> datetime:
    """A time without a zone. Raises Problem for one that has its own."""
    if at.tzinfo is not None:
        raise Problem(422, "A time is given as the clock in its zone shows it, without an offset of its own.")
    return at


@router.get("", response=OutboxOut)
def read_outbox(request: HttpRequest) -> OutboxOut:
    """Where can be posted to."""
    workspace = workspace_of(request)
    accounts = [
        AccountOut(
            end=key,
            end_name=end.name,
            account=each.key,
            name=each.name,
            outlet=each.outlet,
            longest=each.limits.longest,
        )
        for key, end in ENDS.items()
        for each in end.accounts(workspace)
    ]
    return OutboxOut(
        accounts=accounts, zones=list(zones()), steps=STEPS, states={str(key): name for key, name in SENDINGS.items()}
    )


@router.get("/postings", response=list[PostingOut])
def list_postings(request: HttpRequest) -> list[PostingOut]:
    """All that is planned, and what went out lately, in the order of their times."""
    begins = timezone.now() - timedelta(days=_LISTED_DAYS)
    rows = visible_to(request, Posting.objects.select_related("document"))
    unsent = rows.exclude(state=PostingState.SENT)
    return postings_out((unsent | rows.filter(sent__gte=begins))[:_LISTED])


@router.post("/times", response=TimesOut)
def read_times(request: HttpRequest, asked: TimeAsked) -> TimesOut:
    """Which moments are meant; what is no time there is told."""
    at = _local(asked.at)
    return TimesOut(moments=series(at, asked.zone, asked.step, asked.count), twice=is_twice(at, asked.zone))


@router.post("/postings", response=list[PostingOut])
def plan(request: HttpRequest, given: Planning) -> list[PostingOut]:
    """Plan posts of the newest films of editions, all or none."""
    workspace = workspace_of(request)
    wanted = list(dict.fromkeys((each.clip, each.edition) for each in given.films))
    films = [film_of(workspace, clip, edition) for clip, edition in wanted]
    there = [film for film in films if film is not None]
    if missing := len(films) - len(there):
        raise Problem(409, f"{missing} of these is not exported yet. Export it first, then plan it.")
    times = None if given.at is None else series(_local(given.at), given.zone, given.step, len(there))
    rows = plan_posts(workspace, there, given.end, given.account, times, given.zone, user_of(request).pk)
    return postings_out(rows)


@router.patch("/postings/{posting_id}", response=PostingOut)
def change_posting(request: HttpRequest, posting_id: uuid.UUID, given: PostingChange) -> PostingOut:
    """Send a post at another time, or now, or with a newer film."""
    row = find(
        request, Posting.objects.select_related("workspace", "document", "export__document__workspace"), pk=posting_id
    )
    if given.newest:
        film = film_of(row.workspace, row.document_id, row.edition)
        if film is None or film.pk == row.export_id:
            raise Problem(409, "There is no newer film of it. Export the clip first.")
        use_film(row, given.version, film)
    elif given.now or given.at is not None:
        at = None if given.now or given.at is None else moment(_local(given.at), given.zone)
        put_off(row, given.version, at, given.zone)
    return postings_out([row])[0]


@router.delete("/postings/{posting_id}", response={204: None})
def delete_posting(request: HttpRequest, posting_id: uuid.UUID) -> HttpResponse:
    """Take back a post that has not gone out."""
    take_back(find(request, Posting.objects.all(), pk=posting_id))
    return HttpResponse(status=204)
