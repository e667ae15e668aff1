"""One way to say what is wrong with a clip."""

from typing import Literal

from pydantic import Field

from hovvet.core.sheet.edits import Edit
from hovvet.core.sheet.model import WordRef
from hovvet.core.value import Name, Value
from hovvet.core.words.corrections import Rewritten

Gravity = Literal["stops", "wrong", "look"]
GRAVITIES: dict[Gravity, str] = {"stops": "Keeps it from being exported", "wrong": "To fix", "look": "To look at"}


class Rewriting(Value):
    """A correction of the words of a recording."""

    recording: Name
    """Whose words."""
    change: Rewritten
    """What they read then."""


class Fix(Value):
    """One way to put something right: what is done to the sheet, to the words, or both."""

    label: str
    """What the button says."""
    edits: tuple[Edit, ...] = ()
    """Of the sheet."""
    rewrites: tuple[Rewriting, ...] = ()
    """Of the words of its recordings."""


class Where(Value):
    """Where in a clip something is wrong."""

    start: float
    """Seconds of the output."""
    end: float
    """Seconds of the output."""
    words: tuple[WordRef, WordRef] | None = None
    """The first and last word of it, where it is about words."""
    layer: Name | None = None
    """What is laid there, where it is about that."""


class Fault(Value):
    """Something that is wrong with an edition of a clip, or may be."""

    check: str
    """Which check found it."""
    key: str
    """Names it as long as what it is about stays the same."""
    says: str
    """What is wrong, in a sentence."""
    gravity: Gravity
    """How bad it is."""
    where: Where | None = None
    """None for all of the clip."""
    fixes: tuple[Fix, ...] = Field(default=())
    """Ways to put it right, the best one first."""
