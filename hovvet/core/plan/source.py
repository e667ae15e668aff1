"""A recording as compiling needs it."""

from dataclasses import dataclass
from functools import cached_property

from hovvet.core.media.info import MediaInfo
from hovvet.core.picture.faces import Faces
from hovvet.core.picture.talking import Watched, watched
from hovvet.core.sound.silence import Levels
from hovvet.core.words.transcript import Transcript


@dataclass(frozen=True)
class Source:
    """The words and the media of a recording; with its ``levels``, cuts are placed where it is quiet; with its ``faces``,
    a speaker can be kept in view (None while they have not been looked for)."""

    transcript: Transcript
    media: MediaInfo
    levels: Levels | None = None
    faces: Faces | None = None

    @cached_property
    def talking(self) -> list[Watched]:
        """Whom to watch."""
        return watched(self.faces or Faces(), self.transcript.words)
