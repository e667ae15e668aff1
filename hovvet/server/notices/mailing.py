"""Mail of what happened: what comes together goes in one, to each who wants it."""

import logging
from collections import defaultdict
from datetime import timedelta

from django.conf import settings
from django.contrib.auth.models import User
from django.core.mail import send_mail
from django.utils import timezone

from hovvet.server.accounts.models import Membership
from hovvet.server.jobs.regular import regularly
from hovvet.server.notices.models import Notice, Wishes

logger = logging.getLogger("hovvet.notices")
GATHERED = timedelta(seconds=60)  # more may come in this time, and go along
GIVEN_UP = timedelta(days=1)  # older news is no news


@regularly("mail", 15)
def mail_what_happened() -> int:
    """Send what has waited long enough; how many letters. It is marked as sent only then: what fails is tried again."""
    now = timezone.now()
    Notice.objects.filter(mailed=False, created__lt=now - GIVEN_UP).update(mailed=True)
    if not Notice.objects.filter(mailed=False, created__lt=now - GATHERED).exists():
        return 0
    by_workspace: dict[object, list[Notice]] = defaultdict(list)
    for notice in Notice.objects.filter(mailed=False).select_related("workspace").order_by("pk"):
        by_workspace[notice.workspace_id].append(notice)
    return sum(_mail(notices) for notices in by_workspace.values())


def _mail(notices: list[Notice]) -> int:
    count = 0
    try:
        for member in Membership.objects.filter(workspace=notices[0].workspace_id).select_related("user"):
            wanted = Wishes.of(member.user_id).mail_json
            own = [each for each in notices if each.kind in wanted and each.by_id != member.user_id]
            if own and member.user.email:
                _send(member.user, own)
                count += 1
    except OSError as error:  # the mail server is not there
        logger.warning("no mail: %s", error)
        return count
    Notice.objects.filter(pk__in=[each.pk for each in notices]).update(mailed=True)
    return count


def _send(user: User, notices: list[Notice]) -> None:
    first, *more = notices
    subject = " ".join(first.text.split())[:120] + (f" (and {len(more)} more)" if more else "")
    lines = [f"{each.text}\n{settings.ADDRESS}{path_of(each)}" for each in notices]
    end = "Of what you get mail is chosen under the bell."
    send_mail(subject, "\n\n".join([*lines, end]), None, [user.email])


def path_of(notice: Notice) -> str:
    """Where on the page something is gone into."""
    if notice.place == "outbox":
        return "/deliveries/outbox"
    if notice.clip_id:
        return f"/clips/{notice.clip_id}" + (f"?panel={notice.place}" if notice.place else "")
    return f"/recordings/{notice.recording_id}" if notice.recording_id else "/"
