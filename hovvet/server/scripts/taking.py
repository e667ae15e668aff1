"""Takes come to be when what was recorded of a script has come in."""

from typing import Any

from django.db.models import F

from hovvet.server.recordings.events import came_in
from hovvet.server.recordings.models import Recording, Upload
from hovvet.server.scripts.models import Script, Take


def take_of(upload: Upload, recording: Recording, **_: Any) -> None:
    """Make a take of it. A script that was deleted meanwhile leaves an ordinary recording."""
    if upload.script is None:
        return
    mine = Script.objects.filter(workspace=upload.workspace_id, pk=upload.script)
    if not mine.update(highest=F("highest") + 1):
        return
    script = mine.get()
    Take.objects.create(script=script, recording=recording, number=script.highest, line=upload.line)
    recording.title = f"{script.title}, take {script.highest}"[:200]
    recording.show = script.show
    recording.save(update_fields=["title", "show"])


came_in.connect(take_of, dispatch_uid="takes")
