"""What a sweep finds, as a document."""

from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field, FiniteFloat

FindKind = Literal["filler", "phrase", "repeat", "restart", "retake", "pause"]


class Find(BaseModel):
    """One thing that could go: ``start`` to ``end`` in seconds of the recording.

    A find of kind ``pause`` covers the whole silence; how much of it is left is
    decided when it is taken out. ``instead`` are the words of the later take of a
    retake: they go when the earlier one is the one to keep.
    """

    model_config = ConfigDict(frozen=True, extra="forbid")

    kind: FindKind
    start: Annotated[FiniteFloat, Field(ge=0)]
    end: Annotated[FiniteFloat, Field(ge=0)]
    text: str = ""
    words: tuple[int, ...] = ()
    instead: tuple[int, ...] = ()
    confidence: Annotated[FiniteFloat, Field(ge=0, le=1)] = 1.0


class Finds(BaseModel):
    """All finds of one sweep in order of time; ``saves`` is the seconds gained by taking out all."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    version: Literal[1] = 1
    finds: tuple[Find, ...] = ()
    saves: float = 0.0
