"""The job that writes an export."""

from hovvet.core.errors import CoreError
from hovvet.core.formats.subtitles import subtitles
from hovvet.core.plan.model import Plan
from hovvet.core.render.export import Original, export
from hovvet.server.delivery.models import Export
from hovvet.server.jobs.running import Report, handles

EXPORT = "export"


@handles(EXPORT, priority=10)  # somebody waits for it
def write_export(report: Report) -> None:
    """Write MP4, SRT and VTT of one edition."""
    row = Export.objects.select_related("document__recording").get(pk=report.target)
    recording = row.document.recording
    media = recording.media
    if media is None or not recording.original.exists():
        raise CoreError("The original recording is gone, so the clip cannot be made from it. Bring it in again.")
    plan = Plan.model_validate(row.plan)
    row.folder.mkdir(parents=True, exist_ok=True)
    report.stage("Encoding", 0, 1)
    for kind in ("srt", "vtt"):
        row.file(kind).write_text(subtitles(plan, kind))
    export(plan, {str(recording.pk): Original(recording.source_file, media)}, row.file("mp4"), report)
