"""The job that looks at what a film on the Shelf shows, so that it can be told apart. Nobody waits for it."""

from django.dispatch import receiver

from hovvet.core.shelf.seen import seen_in_film
from hovvet.server.assets.models import Asset
from hovvet.server.jobs.running import Report, handles, start_job
from hovvet.server.recordings.events import ready_to_be_seen
from hovvet.server.recordings.models import Recording

SEEN = "seen"


@receiver(ready_to_be_seen)
def see_soon(recording: Recording, **_: object) -> None:
    """Have it looked at."""
    start_job(recording.workspace, SEEN, recording.pk)


@handles(SEEN, priority=-5, part="in the background")
def see(report: Report) -> None:
    """Note its colours, and whether people are in it; what its licence tells of that stays."""
    asset = Asset.objects.select_related("recording").get(recording=report.target)
    assert asset.recording and asset.recording.media
    report.stage("Looking at what it shows", 0, 1)
    found = seen_in_film(asset.recording.working, asset.recording.media.duration)
    asset.info_json = found._asdict() | asset.info_json
    asset.save(update_fields=["info_json"])
