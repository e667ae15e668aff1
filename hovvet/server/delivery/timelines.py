"""Timelines of clips and desks, with their media by the names of their files."""

from hovvet.core.formats.interchange import Kind, Medium, written
from hovvet.server.assets.models import Asset
from hovvet.server.documents.opening import Opened
from hovvet.server.documents.sources import as_uuid


def title_of(now: Opened) -> str:
    """What a timeline is called: as its clip is, or as the recording of a desk."""
    return now.document.title or next((each.title for each in now.sources.recordings.values()), "Hovvet")


def timeline_file(now: Opened, kind: Kind) -> str:
    """A timeline as a file of a kind."""
    return written(title_of(now), now.plan, now.scene, media_of(now), kind)


def media_of(now: Opened) -> dict[str, Medium]:
    """What is shown and heard, by the names of their files."""
    found: dict[str, Medium] = {}
    for key, recording in now.sources.recordings.items():
        media = recording.media
        found[key] = Medium(
            recording.file_name, recording.title, media.timecode if media else "", media.duration if media else 0.0
        )
    ids = [pk for media in now.plan.assets if (pk := as_uuid(media)) is not None]
    for asset in Asset.objects.filter(workspace=now.document.workspace, pk__in=ids):
        found[asset.key] = Medium(asset.name, asset.name)
    return found
