"""A recording as compiling needs it."""

from dataclasses import dataclass

from hovvet.core.media.info import MediaInfo
from hovvet.core.sound.silence import Levels
from hovvet.core.words.transcript import Transcript


@dataclass(frozen=True)
class Source:
    """The words and the media of a recording; with its ``levels``, cuts are placed where it is quiet."""

    transcript: Transcript
    media: MediaInfo
    levels: Levels | None = None
