"""The job that writes an export."""

from pathlib import Path

from django.core.files.storage import default_storage

from hovvet.core.formats.subtitles import SUBTITLES, subtitles
from hovvet.core.media.checked import published
from hovvet.core.media.info import NO_MEDIA
from hovvet.core.plan.model import Plan
from hovvet.core.plan.upgrade import read_plan
from hovvet.core.proof.measuring import measured
from hovvet.core.render.cache import ChunkCache
from hovvet.core.render.encoding import Encoding
from hovvet.core.render.export import Folders, Shape, export
from hovvet.core.render.sources import Original
from hovvet.core.sound.clearer import told_by
from hovvet.server.accounts.models import Workspace
from hovvet.server.assets.models import Asset
from hovvet.server.delivery.models import Export
from hovvet.server.documents.prepared_sounds import prepared_folder
from hovvet.server.documents.sources import as_uuid
from hovvet.server.jobs.models import Job
from hovvet.server.jobs.running import Report, handles
from hovvet.server.notices.telling import Subject, tells
from hovvet.server.proof.proving import keep_measured
from hovvet.server.recordings.clearing import clearer_of
from hovvet.server.recordings.models import Recording

EXPORT = "export"
_DRAWN = 0.94  # of the work: then the file is looked at
TOGETHER = 3  # exports that are drawn side by side: each takes memory of its own


@handles(EXPORT, priority=-20, long=True)  # who brings in, listens or looks goes first
def write_export(report: Report) -> None:
    """Write one edition: the file that was asked for, with its captions as files beside it."""
    row = Export.objects.select_related("workspace", "document").get(pk=report.target)
    plan = read_plan(row.plan)
    row.folder.mkdir(parents=True, exist_ok=True)
    prepared = prepared_folder(row.workspace)
    prepared.mkdir(parents=True, exist_ok=True)
    beside = _following(report)
    report.stage(f"Encoding with {len(beside)} more" if beside else "Encoding", 0, _DRAWN)
    for kind in SUBTITLES:
        if (text := subtitles(plan, kind)) is not None:
            with published(row.file(kind)) as part:
                part.write_text(text)
    export(
        plan,
        originals_of(row.workspace, plan),
        row.main,
        report,
        row.output,
        Encoding(**row.encoding_json),
        Folders(ChunkCache(chunk_folder()), prepared),
        beside,
    )
    if not row.output.has_sound:
        return
    report.stage("Looking at it and listening to it", _DRAWN, 1)
    found = measured(row.main, plan, has_picture=row.output.is_film)
    Export.objects.filter(pk=row.pk).update(lufs=found.lufs, peak=found.peak)
    if row.output.is_film and row.output.lines is None:  # a smaller one says less of the clip
        keep_measured(row.document, row.edition, plan.digest, found)


@tells(EXPORT)
def _exported(job: Job) -> Subject | None:
    row = Export.objects.select_related("document").filter(pk=job.target).first()
    return Subject(f"{row.name} of “{row.document.title}”", clip=row.document, place="export") if row else None


def _following(report: Report) -> list[Shape]:
    """What the exports that wait for this one draw along with it."""
    waiting = report.job.following.filter(kind=EXPORT, state=Job.State.QUEUED)
    rows = Export.objects.filter(pk__in=waiting.values("target"))
    return [Shape(read_plan(row.plan), Encoding(**row.encoding_json)) for row in rows]


def originals_of(workspace: Workspace, plan: Plan) -> dict[str, Original]:
    """The files that a plan is drawn from, of those that are there."""
    found = {}
    for recording in Recording.objects.filter(workspace=workspace, pk__in=map(as_uuid, plan.recordings)):
        if recording.media is not None:
            digest = f"{recording.digest or recording.pk} {recording.source_file.name}"
            found[str(recording.pk)] = Original(recording.source_file, recording.media, digest)
    of = [as_uuid(told[0]) for media in plan.recordings if (told := told_by(media))]
    for recording in Recording.objects.filter(workspace=workspace, pk__in=filter(None, of)) if of else ():
        for name, media, _ in clearer_of(recording):
            file = recording.clearer_file(name, "flac")
            found[name] = Original(file, media, f"{recording.digest or recording.pk} {file.name}")
    for asset in Asset.objects.filter(workspace=workspace, pk__in=map(as_uuid, plan.assets)):
        found[str(asset.pk)] = Original(asset.file, NO_MEDIA, str(asset.pk))
    return found


def chunk_folder() -> Path:
    """Where chunks of pictures are kept for the next export."""
    return Path(default_storage.path("chunks"))
