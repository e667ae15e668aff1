"""The job that looks for faces in a recording, so that a speaker can be kept in view. Nobody waits for it."""

from functools import lru_cache
from pathlib import Path

from hovvet.core.media.checked import published
from hovvet.core.picture.faces import Faces, find_faces
from hovvet.server.jobs.running import Report, handles, start_unasked
from hovvet.server.recordings.events import ready_to_be_seen
from hovvet.server.recordings.models import Recording

FACES = "faces"


def look_for_faces(recording: Recording, again: bool = False) -> bool:
    """Start looking where that is still to be done; where it failed before, only ``again``. Whether it is being done. What
    stands on the Shelf is looked at otherwise, once it has been prepared."""
    media = recording.media
    if recording.for_shelf:
        if again and media is not None and media.has_picture:
            ready_to_be_seen.send(Recording, recording=recording)
        return False
    if recording.faces_file.exists() or media is None or not media.has_picture or not recording.working.exists():
        return False
    return start_unasked(recording.workspace, FACES, recording.pk, again)


@handles(FACES, priority=-5, part="in the background")
def find(report: Report) -> None:
    """Look for faces in the working copy."""
    recording = Recording.objects.get(pk=report.target)
    report.stage("Looking for faces", 0, 1)
    if recording.faces_file.exists():
        return
    faces = find_faces(recording.working, recording.media.duration if recording.media else 0.0, report)
    with published(recording.faces_file) as part:
        part.write_text(faces.model_dump_json())


def faces_of(recording: Recording) -> Faces | None:
    """The faces of a recording; None before they were looked for."""
    try:
        return _read(recording.faces_file, recording.faces_file.stat().st_mtime_ns)
    except FileNotFoundError:
        return None


@lru_cache(maxsize=32)
def _read(file: Path, _written: int) -> Faces:
    return Faces.model_validate_json(file.read_bytes())
