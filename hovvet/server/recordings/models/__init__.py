"""Recordings, the shows they are of, and uploads under way."""

from hovvet.server.recordings.models.angles import Angle
from hovvet.server.recordings.models.recordings import Recording, Stretch
from hovvet.server.recordings.models.shows import Defaults, Show
from hovvet.server.recordings.models.uploads import Upload

__all__ = ["Angle", "Defaults", "Recording", "Show", "Stretch", "Upload"]
