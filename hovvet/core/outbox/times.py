"""When something goes out: moments as a clock on a wall shows them, somewhere, also where clocks are set forward or back."""

from datetime import UTC, datetime, timedelta
from functools import cache
from typing import Literal
from zoneinfo import ZoneInfo, available_timezones

from hovvet.core.errors import CoreError

LATE = 600.0  # seconds after its time, from when on nobody sends a post without asking
SOONEST, LATEST = (
    60.0,
    2 * 366 * 86_400.0,
)  # seconds from now: what lies before counts as past, what lies after as a mistake
Step = Literal["at once", "hour", "day", "weekday", "week"]
STEPS: dict[Step, str] = {
    "at once": "All at once",
    "hour": "One an hour",
    "day": "One a day",
    "weekday": "One each weekday",
    "week": "One a week",
}
_SATURDAY = 5


@cache
def zones() -> tuple[str, ...]:
    """The names of all time zones, as the time zone database has them (IANA), those that are no place left out."""
    places = (each for each in available_timezones() if "/" in each and not each.startswith("Etc/"))
    return (*sorted(places), "UTC")


def zone_of(name: str) -> ZoneInfo:
    """A time zone by name. Raises CoreError."""
    if name not in zones():
        raise CoreError("That time zone is not known. Choose one of the list.")
    return ZoneInfo(name)


def moment(local: datetime, zone: str) -> datetime:
    """The moment (UTC) at which clocks in a zone show ``local``, which has no zone of its own. Where they show it twice it is
    the first time. Raises CoreError where they never do, since they are set forward over it."""
    place = zone_of(zone)
    at = local.replace(tzinfo=place, fold=0).astimezone(UTC)
    if at.astimezone(place).replace(tzinfo=None) != local.replace(tzinfo=None):
        day = f"{local.day} {local:%B %Y}"
        raise CoreError(
            f"There is no {local:%H:%M} on {day} in {zone}: clocks are set forward then. Choose another time."
        )
    return at


def is_twice(local: datetime, zone: str) -> bool:
    """Whether clocks in a zone show it twice, being set back."""
    place = zone_of(zone)
    first, second = (local.replace(tzinfo=place, fold=fold).astimezone(UTC) for fold in (0, 1))
    return first < second


def in_time(at: datetime, now: datetime) -> datetime:
    """A moment for which something can be planned. Raises CoreError for one that is past, or years ahead."""
    ahead = (at - now).total_seconds()
    if ahead < SOONEST:
        raise CoreError("That time is past, or less than a minute away. Choose a later one, or send it now.")
    if ahead > LATEST:
        raise CoreError("That is more than two years ahead. Choose an earlier time.")
    return at


def is_late(at: datetime, now: datetime) -> bool:
    """Whether something that was to go at ``at`` is sent only when somebody says so, since nobody was there to send it then."""
    return (now - at).total_seconds() > LATE


def series(first: datetime, zone: str, step: Step, count: int) -> list[datetime]:
    """The moments (UTC) of ``count`` posts, the first when clocks in a zone show ``first``: days and weeks apart by the clock on
    the wall, hours by what passes. A day on which clocks never show that time has it an hour later. Raises CoreError."""
    begins = moment(first, zone)
    if step == "at once":
        return [begins] * count
    if step == "hour":
        return [begins + timedelta(hours=n) for n in range(count)]
    days = _days(first, step, count)
    return [begins, *(_shown(each, zone) for each in days[1:])]


def _days(first: datetime, step: Step, count: int) -> list[datetime]:
    if step == "week":
        return [first + timedelta(weeks=n) for n in range(count)]
    found = [first]
    while len(found) < count:
        following = found[-1] + timedelta(days=1)
        while step == "weekday" and following.weekday() >= _SATURDAY:
            following += timedelta(days=1)
        found.append(following)
    return found


def _shown(local: datetime, zone: str) -> datetime:
    try:
        return moment(local, zone)
    except CoreError:
        return moment(local + timedelta(hours=1), zone)
