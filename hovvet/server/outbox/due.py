"""What is due: sent in time, or asked about where nobody was there to send it."""

from django.db.models import F
from django.utils import timezone

from hovvet.core.outbox.times import is_late
from hovvet.server.jobs.models import ACTIVE, Job
from hovvet.server.jobs.regular import regularly
from hovvet.server.jobs.running import start_job
from hovvet.server.outbox.models import Posting, PostingState
from hovvet.server.outbox.sending import SEND, ask

State = PostingState
_MISSED = "Hovvet was not running at its time. Send it now, or choose another time."


@regularly("outbox", 3)
def send_what_is_due() -> int:
    """Begin to send what is due, and take up what a worker left; how many. What is late is asked about."""
    now = timezone.now()
    begun = 0
    for row in Posting.objects.filter(state__in=(State.PLANNED, State.WAITING), due__lte=now).select_related(
        "workspace", "document"
    ):
        mine = Posting.objects.filter(pk=row.pk, state=row.state, due=row.due)
        if is_late(row.due, now):
            if mine.update(state=State.MISSED, told=_MISSED, version=F("version") + 1):
                ask(row, _MISSED)
        elif mine.update(state=State.SENDING, version=F("version") + 1):
            start_job(row.workspace, SEND, row.pk)
            begun += 1
    active = Job.objects.filter(kind=SEND, state__in=ACTIVE).values("target")
    for row in Posting.objects.filter(state=State.SENDING).exclude(pk__in=active).select_related("workspace"):
        start_job(row.workspace, SEND, row.pk)
        begun += 1
    return begun
