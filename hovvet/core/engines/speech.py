"""Speech to text: what a recogniser is."""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Protocol

from hovvet.core.sound.silence import Sound
from hovvet.core.spans import Span


@dataclass(frozen=True)
class Heard:
    """A recognised word; ``start`` and ``end`` in seconds of the sound given."""

    text: str
    start: float
    end: float
    confidence: float


class Recogniser(Protocol):
    """Turns sound (mono, 16 kHz, shape (samples,)) into words of a language (ISO 639-1)."""

    language: str

    def voiced(self, sound: Sound) -> list[Span]:
        """The stretches in which somebody speaks, in seconds."""

    def recognise(
        self, sound: Sound, chunks: Sequence[Span], hints: Sequence[str] = (), fillers: bool = True
    ) -> list[Heard]:
        """The words spoken in each chunk of the sound, in order. ``hints`` are names and terms to expect; ``fillers`` whether
        filler sounds are asked for too."""

    def weigh(self, sound: Sound, readings: Sequence[str]) -> list[float]:
        """How likely each reading of a sound of at most 30 s is: logarithms of likelihoods, to be compared with one another.

        Filler sounds are taken to be as likely as words.
        """
