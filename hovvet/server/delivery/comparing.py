"""Whether exports are still what their clips are: told by stamps, and compared in the background when those have changed."""

import uuid
from collections import defaultdict
from typing import Literal

from hovvet.server.accounts.models import Workspace
from hovvet.server.delivery.exporting import EXPORT
from hovvet.server.delivery.made import ClipNow
from hovvet.server.delivery.models import Export
from hovvet.server.documents.opening import documents
from hovvet.server.documents.stamps import stamps_of
from hovvet.server.jobs.models import ACTIVE, Job
from hovvet.server.jobs.running import Report, handles, start_job

COMPARE = "compare"


def is_current(row: Export, stamp: str, clip: ClipNow) -> bool:
    """Whether an edition, its words included, is still as this export has it. Compiled only where its clip may have changed
    since that was last asked."""
    if row.stamp != stamp:
        now = clip.made(row.edition, row.output)
        row.current, row.stamp = now is not None and row.digest == now.digest, stamp
        Export.objects.filter(pk=row.pk).update(current=row.current, stamp=row.stamp)
    return row.current


def compare_soon(workspace: Workspace) -> None:
    """Have the newest exports of a workspace compared with their clips."""
    start_job(workspace, COMPARE, _target(workspace))


def _target(workspace: Workspace) -> uuid.UUID:
    return uuid.uuid5(uuid.NAMESPACE_OID, f"workspace {workspace.pk}")


@handles(COMPARE, priority=15, part="in the background")
def compare(report: Report) -> None:
    """Compare the newest export of each edition with what its clip is now."""
    report.stage("Comparing exports with their clips", 0, 1)
    newest = defaultdict(list)
    for row in newest_of_editions(report.job.workspace).values():
        newest[row.document_id].append(row)
    clips = list(documents().filter(pk__in=newest))
    stamps = stamps_of(clips)
    for n, clip in enumerate(clips):
        report(n / len(clips))
        now = ClipNow(clip)
        for row in newest[clip.pk]:
            is_current(row, stamps[clip.pk], now)


def newest_of_editions(workspace: Workspace) -> dict[tuple[uuid.UUID, str], Export]:
    """The newest export of each edition, by clip and edition, the newest first; without their plans."""
    found: dict[tuple[uuid.UUID, str], Export] = {}
    rows = Export.objects.filter(workspace=workspace).defer("plan", "encoding_json")
    for row in rows.order_by("-created"):
        found.setdefault((row.document_id, row.edition), row)
    return found


def newest_in(workspace: Workspace) -> dict[uuid.UUID, Export]:
    """The newest export of each clip of a workspace that has one."""
    found: dict[uuid.UUID, Export] = {}
    for (clip, _), row in newest_of_editions(workspace).items():
        found.setdefault(clip, row)
    return found


State = Literal["none", "waiting", "failed", "cancelled", "ready", "changed"]


def state_of(row: Export, stamp: str, job: str | None) -> State:
    """How far an export is whose clip has a stamp now, and whose newest ``job`` has this state (None: there is none). What
    has to be compared before that is sure counts as changed."""
    if row.main.exists():
        return "ready" if row.stamp == stamp and row.current else "changed"
    if job in ACTIVE:
        return "waiting"
    return "cancelled" if job == Job.State.CANCELLED else "failed"


def job_states(workspace: Workspace) -> dict[uuid.UUID, str]:
    """The state of the newest job of each export of a workspace, as far as jobs are kept."""
    found: dict[uuid.UUID, str] = {}
    for target, state in Job.objects.filter(workspace=workspace, kind=EXPORT).values_list("target", "state"):
        found.setdefault(target, state)
    return found
