"""A recording as compiling needs it."""

from dataclasses import dataclass
from functools import lru_cache

from hovvet.core.compile.angles import Angle
from hovvet.core.compile.same import Same
from hovvet.core.media.info import MediaInfo
from hovvet.core.picture.faces import Faces
from hovvet.core.picture.talking import Watched, watched
from hovvet.core.sheet.contents.background import Background
from hovvet.core.sound.beats import Beats
from hovvet.core.sound.clearer import Strength
from hovvet.core.sound.energy import Energy, of_spans
from hovvet.core.sound.silence import Levels
from hovvet.core.words.transcript import Transcript


@dataclass(frozen=True)
class Source:
    """The words and the media of a recording; with its ``levels``, cuts are placed where it is quiet; with its ``faces``,
    a speaker can be kept in view (None while they have not been looked for); with its ``energy`` it is known how loud it
    comes out; with the ``beats`` of music it can be brought to a length. Its speech is made ``clearer`` so strongly unless a clip has
    another wish. ``angles`` are its other cameras and microphones, each a source of its own. With its ``background``, the screen behind
    who speaks is taken out wherever a clip does not say otherwise."""

    transcript: Transcript
    media: MediaInfo
    levels: Levels | None = None
    faces: Faces | None = None
    energy: Energy | None = None
    beats: Beats | None = None
    clearer: Strength = "off"
    angles: tuple[Angle, ...] = ()
    background: Background | None = None

    def angle(self, number: int) -> Angle | None:
        """Its camera or microphone of this number; None for itself, and where there is none."""
        return next((each for each in self.angles if each.number == number), None)

    @property
    def voices(self) -> dict[str, tuple[float, float]]:
        """For each speaker the loudness of what they say, in LUFS, and for how many seconds they speak; without those of whom
        nothing is heard."""
        return _voices(Same(self.energy), Same(self.transcript.words)) if self.energy else {}

    @property
    def talking(self) -> list[Watched]:
        """Whom to watch."""
        return _talking(Same(self.faces or Faces()), Same(self.transcript.words))


@lru_cache(maxsize=16)
def _talking(faces: Same, words: Same) -> list[Watched]:
    """Kept: in a long recording it takes longer than all the rest of an edit."""
    return watched(faces.value, words.value)


@lru_cache(maxsize=16)
def _voices(energy: Same, words: Same) -> dict[str, tuple[float, float]]:
    """Kept, for the same reason."""
    said: dict[str, list[tuple[float, float]]] = {}
    for word in words.value:
        said.setdefault(word.speaker, []).append((word.start, word.end))
    found = {speaker: of_spans(energy.value.power, spans) for speaker, spans in said.items()}
    return {
        speaker: (lufs, sum(end - start for start, end in said[speaker]))
        for speaker, lufs in found.items()
        if lufs is not None
    }
