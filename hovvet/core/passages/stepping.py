"""A passage made longer or shorter by a sentence."""

from typing import Literal

from hovvet.core.errors import CoreError
from hovvet.core.passages.sentences import sentences
from hovvet.core.words.transcript import Transcript

Step = Literal["earlier", "later", "on", "sooner"]
STEPS: dict[Step, str] = {
    "earlier": "Start earlier", "later": "Start later", "on": "Run on", "sooner": "Stop sooner",
}  # fmt: skip


def stepped(transcript: Transcript, first: int, last: int, step: Step) -> tuple[int, int]:
    """The ids of the first and last word of a passage that begins a sentence ``earlier`` or ``later``, runs ``on`` for one,
    or stops one ``sooner``. Raises CoreError where there is no such sentence."""
    said = sentences(transcript.words)
    places = [transcript.position.get(word) for word in (first, last)]
    if None in places or not said:
        raise CoreError("The words of this passage were corrected away. Look for passages again.")
    begins, ends = (
        next(n for n, each in enumerate(said) if place <= each.last) for place in places if place is not None
    )
    begins += {"earlier": -1, "later": 1}.get(step, 0)
    ends += {"on": 1, "sooner": -1}.get(step, 0)
    if begins < 0 or ends >= len(said):
        raise CoreError("The recording goes no further.")
    if begins > ends:
        raise CoreError("A passage holds one sentence at least.")
    words = transcript.words
    return words[said[begins].first].id, words[said[ends].last].id
