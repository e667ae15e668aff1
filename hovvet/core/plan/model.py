"""The plan: exactly what is seen and heard at every output frame and sample."""

from hashlib import sha256

from pydantic import BaseModel, ConfigDict

from hovvet.core.picture.framing import Framing
from hovvet.core.time import SAMPLE_RATE, Rate, to_seconds

JOIN_SAMPLES = 384  # 8 ms at 48 kHz, centred on the cut


class Segment(BaseModel):
    """A stretch of one recording, played as it is.

    Picture: ``frames`` frames from ``source_frame`` on (counted on the source
    resampled to the plan's rate), shown from output frame ``frame`` on.
    Sound: ``samples`` samples (48 kHz) from ``source_sample`` on, heard from
    output sample ``sample`` on.
    """

    model_config = ConfigDict(frozen=True)

    recording: str
    frame: int
    frames: int
    source_frame: int
    sample: int
    samples: int
    source_sample: int

    @property
    def source_start(self) -> float:
        """Where it starts in its recording, in seconds."""
        return to_seconds(self.source_sample)

    @property
    def source_end(self) -> float:
        """Where it ends in its recording, in seconds."""
        return to_seconds(self.source_sample + self.samples)


class PlanWord(BaseModel):
    """A word that is heard: ``start`` and ``end`` in seconds of the output."""

    model_config = ConfigDict(frozen=True)

    id: int
    piece: str
    text: str
    start: float
    end: float


class Caption(BaseModel):
    """One caption: lines of words (positions in ``Plan.words``), shown for frames ``first`` up to ``last`` (not included)."""

    model_config = ConfigDict(frozen=True)

    lines: tuple[tuple[int, ...], ...]
    first: int
    last: int


class Plan(BaseModel):
    """One edition of a sheet, compiled. ``frames`` and ``samples`` are its whole length."""

    model_config = ConfigDict(frozen=True)

    rate: Rate
    width: int
    height: int
    frames: int
    samples: int
    sample_rate: int = SAMPLE_RATE
    join_samples: int = JOIN_SAMPLES
    gain_db: float = 0.0
    peak_db: float = -1.5
    segments: tuple[Segment, ...] = ()
    framing: Framing | None = None
    words: tuple[PlanWord, ...] = ()
    captions: tuple[Caption, ...] = ()
    script: str | None = None

    @property
    def seconds(self) -> float:
        """The whole length in seconds."""
        return self.samples / self.sample_rate

    @property
    def digest(self) -> str:
        """A fingerprint: two plans with the same one are seen and heard alike."""
        return sha256(self.model_dump_json().encode()).hexdigest()
