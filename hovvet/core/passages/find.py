"""Finding passages: stretches of a recording that would stand alone as clips."""

from collections.abc import Callable, Mapping, Sequence
from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field

from hovvet.core.engines.meaning import Vectors
from hovvet.core.passages.choosing import STRONG, chosen, most_of
from hovvet.core.passages.features import Features, features
from hovvet.core.passages.reasons import Reason, reasons, warnings
from hovvet.core.passages.scoring import Span, spans
from hovvet.core.passages.sentences import sentences
from hovvet.core.passages.titles import titles
from hovvet.core.words.transcript import Transcript

LONGEST = 60.0  # seconds, where no outlet says otherwise
Strength = Literal["strong", "worth a look"]
Kept = Callable[[float, float], float]


class Passage(BaseModel):
    """``start`` and ``end`` in seconds of the recording, and the ids of its first and last word; why it may be worth sharing,
    what speaks against it, and what it could be called."""

    model_config = ConfigDict(frozen=True)

    start: float
    end: float
    words: tuple[int, int]
    strength: Strength
    reasons: tuple[Reason, ...]
    warnings: tuple[str, ...]
    titles: Annotated[tuple[str, ...], Field(min_length=1)]


class PassagesFile(BaseModel):
    """What ``hovvet passages`` writes: best first."""

    version: Literal[1] = 1
    passages: tuple[Passage, ...]


def passages_file(passages: Sequence[Passage]) -> str:
    """The JSON of some passages."""
    return PassagesFile(passages=tuple(passages)).model_dump_json(indent=1) + "\n"


def all_of_it(start: float, end: float) -> float:
    """The seconds of a stretch of which nothing is taken out."""
    return end - start


def find_passages(
    transcript: Transcript,
    meaning: Callable[[Sequence[str]], Vectors],
    longest: float = LONGEST,
    kept: Kept = all_of_it,
    leanings: Mapping[str, float] | None = None,
) -> list[Passage]:
    """The passages of a recording, best first; none where nothing is worth it.

    ``meaning`` gives what texts mean, each of length 1; ``kept`` how many seconds of a stretch the sweep leaves, which is
    what may last ``longest`` seconds; ``leanings`` what a person's own choices add to the weights of signs that passages
    begin with.
    """
    found = features(sentences(transcript.words), meaning, leanings or {})
    return passages_of(transcript, found, meaning, longest, kept)


def passages_of(
    transcript: Transcript,
    found: Features,
    meaning: Callable[[Sequence[str]], Vectors],
    longest: float = LONGEST,
    kept: Kept = all_of_it,
) -> list[Passage]:
    """The same, of sentences that were looked at already."""
    best = chosen(spans(found, longest, kept), most_of(transcript.duration))
    return [_passage(transcript, found, span, meaning) for span in best]


def _passage(transcript: Transcript, of: Features, span: Span, meaning: Callable[[Sequence[str]], Vectors]) -> Passage:
    first, last = of.sentences[span.first], of.sentences[span.last]
    return Passage(
        start=first.start,
        end=last.end,
        words=(transcript.words[first.first].id, transcript.words[last.last].id),
        strength="strong" if span.score >= STRONG else "worth a look",
        reasons=tuple(reasons(of, span)),
        warnings=tuple(warnings(of, span)),
        titles=tuple(titles(of, span, meaning)),
    )
