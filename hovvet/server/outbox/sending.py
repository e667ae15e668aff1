"""The job that sends a post, once.

What can have been sent is never sent again without asking the outlet first whether it has it: a try is counted before it is
made, so whoever takes over after a crash knows that there may have been one.
"""

import logging
from datetime import timedelta

from django.utils import timezone

from hovvet.core.errors import CoreError
from hovvet.core.outbox.fitting import unfit
from hovvet.core.outbox.times import is_late
from hovvet.core.outbox.trying import wait_after
from hovvet.server.delivery.covers import cover_of, picture_of
from hovvet.server.delivery.models import Export
from hovvet.server.documents.opening import documents, opened
from hovvet.server.jobs.running import Report, handles
from hovvet.server.notices.models import Notice
from hovvet.server.notices.telling import tell
from hovvet.server.outbox.ends import ENDS
from hovvet.server.outbox.ends.base import ComeAgain, PostingEnd, Receipt, Refused
from hovvet.server.outbox.models import Posting, PostingState
from hovvet.server.outbox.planning import account_of, held_by, post_of
from hovvet.server.problems import Problem

logger = logging.getLogger("hovvet.outbox")
State = PostingState
SEND = "send"
_UNKNOWN = "It did not answer, so nobody knows whether it has the post. Before it is sent again, it is asked."


@handles(SEND, priority=40, part="in the background")
def send_post(report: Report) -> None:
    """Send a post whose time has come, or find that it has been sent."""
    row = Posting.objects.select_related("workspace", "document", "export__document__workspace").get(pk=report.target)
    if row.state != State.SENDING:
        return
    try:
        _send(row, ENDS[row.end], report)
    except ComeAgain as error:
        _again(row, "It asks to come again later.", error.seconds)
    except Refused as error:
        _ask(row, State.FAILED, f"It refuses: {error}")
    except Problem as error:
        _ask(row, State.FAILED, str(error))
    except OSError as error:
        logger.warning("sending %s: %r", row, error)
        _again(row, _UNKNOWN)


def _send(row: Posting, end: PostingEnd, report: Report) -> None:
    if row.tries and (there := end.find(row.account, str(row.pk))):
        return _sent(row, there)
    if is_late(row.due, timezone.now()):
        return _ask(row, State.MISSED, "Hovvet was not running when it was to go. Send it now, or choose another time.")
    if held := held_by(row.export):
        return _ask(row, State.HELD, f"It was held back: {held}")
    assert row.export is not None
    account, post, cover = account_of(row.workspace, row.end, row.account), post_of(row.export), _cover(row.export)
    if told := unfit(post, account.limits):
        return _ask(row, State.FAILED, " ".join(told))
    report.stage("Sending", 0, 1)  # nobody else does, now
    if not Posting.objects.filter(pk=row.pk, state=State.SENDING, tries=row.tries).update(tries=row.tries + 1):
        return None
    row.tries += 1
    return _sent(row, end.send(row.account, str(row.pk), post, row.export.main, cover))


def _cover(film: Export) -> bytes | None:
    """The cover that goes with a film; None where none can be drawn of its clip."""
    try:
        now = opened(documents().get(pk=film.document_id), film.edition)
        return picture_of(now, cover_of(film.document, film.edition).value, "jpg")
    except CoreError as error:
        logger.warning("no cover of %s: %s", film, error)
        return None


def _set(row: Posting, state: PostingState, told: str, **values: object) -> bool:
    """Write how it went, where nobody else has."""
    return bool(Posting.objects.filter(pk=row.pk, state=State.SENDING).update(state=state, told=told[:400], **values))


def _sent(row: Posting, receipt: Receipt) -> None:
    if _set(row, State.SENT, "", receipt=receipt.name, sent=receipt.at):
        text = f"“{row.document.title}” has gone out to {row.account_name}."
        tell(row.workspace, Notice.Kind.SENT, text, clip=row.document, place="outbox")


def _again(row: Posting, told: str, asked: float | None = None) -> None:
    wait = wait_after(row.tries, asked)
    if wait is None:
        return _ask(row, State.FAILED, f"It was tried {row.tries} times. {told}")
    _set(row, State.WAITING, told, due=timezone.now() + timedelta(seconds=wait))
    return None


def _ask(row: Posting, state: PostingState, told: str) -> None:
    if _set(row, state, told):
        ask(row, told)


def ask(row: Posting, told: str) -> None:
    """Tell people that a post waits for them to say how it goes on."""
    text = f"“{row.document.title}” for {row.account_name} has not gone out. {told}"
    tell(row.workspace, Notice.Kind.ASKS, text, clip=row.document, place="outbox")
