"""Whether exports are still what their clips are: told by stamps, and compared aside when those have changed."""

import uuid
from collections.abc import Iterable, Mapping, Sequence
from typing import Literal

from hovvet.server.accounts.models import Workspace
from hovvet.server.clips.documents import documents
from hovvet.server.clips.models import Document
from hovvet.server.clips.stamps import stamps_of
from hovvet.server.delivery.made import ClipNow
from hovvet.server.delivery.models import Export
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


@handles(COMPARE, priority=15, part="aside")
def compare(report: Report) -> None:
    """Compare the newest export of each clip with what the clip is now."""
    report.stage("Comparing exports with their clips", 0, 1)
    clips = list(documents().filter(workspace=report.job.workspace_id, kind=Document.Kind.CLIP))
    stamps, newest = stamps_of(clips), newest_of(clips)
    for n, clip in enumerate(clips):
        report(n / len(clips))
        row = newest.get(clip.pk)
        if row is not None and row.stamp != stamps[clip.pk]:
            is_current(row, stamps[clip.pk], ClipNow(clip))


def newest_of(clips: Iterable[Document]) -> dict[uuid.UUID, Export]:
    """The newest export of each clip that has one."""
    found: dict[uuid.UUID, Export] = {}
    for row in Export.objects.defer("plan").filter(document__in=[clip.pk for clip in clips]).order_by("-created"):
        found.setdefault(row.document_id, row)
    return found


State = Literal["none", "waiting", "failed", "ready", "changed"]


def states_of(
    clips: Sequence[Document], stamps: Mapping[uuid.UUID, str], at_work: Iterable[uuid.UUID]
) -> tuple[dict[uuid.UUID, State], bool]:
    """How far the newest export of each clip is, ``at_work`` being the exports whose jobs wait or run; and whether some of
    them have to be compared before that is sure: until then they count as changed."""
    newest, waiting = newest_of(clips), set(at_work)
    states: dict[uuid.UUID, State] = {}
    unsure = False
    for clip in clips:
        row = newest.get(clip.pk)
        if row is None:
            states[clip.pk] = "none"
        elif row.main.exists():
            known = row.stamp == stamps[clip.pk]
            unsure = unsure or not known
            states[clip.pk] = "ready" if known and row.current else "changed"
        else:
            states[clip.pk] = "waiting" if row.pk in waiting else "failed"
    return states, unsure
