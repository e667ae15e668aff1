"""Where what was said of a clip is in a newer version of it: comments hang on words."""

from collections.abc import Sequence
from typing import Annotated, NamedTuple

from pydantic import Field

from hovvet.core.plan.model import Plan, PlanWord
from hovvet.core.sheet.model import WordRef
from hovvet.core.value import Value

MOST_WORDS = 400  # of a stretch that is commented on


class Place(Value):
    """A point of the picture, in shares of it."""

    x: Annotated[float, Field(ge=0, le=1)]
    y: Annotated[float, Field(ge=0, le=1)]


class Spot(Value):
    """What a comment is about: words, by name; how many seconds after the first of them; a point of the picture, if any. Without
    words it is about the clip as a whole."""

    words: Annotated[tuple[WordRef, ...], Field(max_length=MOST_WORDS)] = ()
    after: Annotated[float, Field(ge=0, le=14_400)] = 0.0
    place: Place | None = None


class Now(NamedTuple):
    """Where a spot is in a version: positions of its first and last word there, and seconds of the file."""

    first: int
    last: int
    start: float
    end: float


def spot_of(plan: Plan, first: int, last: int, seconds: float | None = None, place: Place | None = None) -> Spot:
    """What is said from word ``first`` to ``last`` of a plan (positions, in either order), at some ``seconds`` of it. Words that
    nobody says in the clip itself (a voice over it) have no name to be found by. Raises IndexError."""
    a, b = sorted((first, last))
    own = [word for word in plan.words[a : min(b, a + MOST_WORDS - 1) + 1] if _named(word)]
    if a < 0 or b >= len(plan.words):
        raise IndexError(f"no words {a} to {b}")
    words = tuple(WordRef(origin=word.origin, word=word.id) for word in own)
    after = max(seconds - own[0].start, 0.0) if seconds is not None and own else 0.0
    return Spot(words=words, after=round(after, 3), place=place)


def _named(word: PlanWord) -> bool:
    return word.layer is None and bool(word.origin)


def where_now(spot: Spot, words: Sequence[PlanWord]) -> Now | None:
    """Where a spot is among the words of a version; None where none of its words is left, and for the clip as a whole."""
    wanted = {(ref.origin, ref.word) for ref in spot.words}
    there = [n for n, word in enumerate(words) if _named(word) and (word.origin, word.id) in wanted]
    if not there:
        return None
    first, last = there[0], there[-1]
    start = words[first].start
    if spot.after and words[first].id == spot.words[0].word:
        start = min(start + spot.after, words[last].end)
    return Now(first, last, start, words[last].end)
