"""The levels of recordings: written by the job that prepares them."""

from pathlib import Path

from hovvet.core.media.checked import published
from hovvet.core.sound.level_file import write_levels
from hovvet.server.recordings.models import Recording


def levels_file(recording: Recording) -> Path | None:
    """Where the levels of a recording are; None while its sound has not been read, or where it has none. They are made up
    for where an earlier release prepared it."""
    file, wav = recording.levels, recording.folder / "speech.wav"
    if not file.exists():
        if not wav.exists():
            return None
        with published(file) as part:
            write_levels(wav, part)
    return file
