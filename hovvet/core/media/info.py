"""What is known of a media file."""

from pydantic import BaseModel, ConfigDict

from hovvet.core.time import Rate


class MediaInfo(BaseModel):
    """``duration`` in seconds; ``width`` and ``height`` as shown (rotation and pixel shape applied),
    0 without a picture; ``rate`` the frame rate worked in; ``rotation`` in degrees clockwise;
    ``lufs`` the integrated loudness once it has been measured; ``timecode`` the one with which its file begins, "" for none."""

    model_config = ConfigDict(frozen=True)

    duration: float
    has_picture: bool
    has_sound: bool
    width: int = 0
    height: int = 0
    rotation: int = 0
    rate: Rate = Rate()
    container: str = ""
    video_codec: str = ""
    audio_codec: str = ""
    channels: int = 0
    lufs: float | None = None
    timecode: str = ""


NO_MEDIA = MediaInfo(duration=0, has_picture=False, has_sound=False)  # of a file that is neither seen nor heard

SOUND_ENDINGS = frozenset("mp3 wav m4a aac ogg oga opus flac aif aiff wma ac3 amr".split())  # of names of sound files


def is_sound(name: str) -> bool:
    """Whether a file is, by its name, one of sound alone."""
    return name.rpartition(".")[2].lower() in SOUND_ENDINGS
