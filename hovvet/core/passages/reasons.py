"""Why a passage was chosen, and what speaks against it: only what is true of its own words, with the words that say so."""

import re
from collections import Counter
from collections.abc import Iterator

import numpy as np
from pydantic import BaseModel, ConfigDict

from hovvet.core.passages.features import Features
from hovvet.core.passages.rules import SIGNS
from hovvet.core.passages.scoring import Span, answered

_ENOUGH = 6  # words of a question that is a reason
_ALIKE, _SHALLOW = 0.5, 0.7  # likeness of the halves, and change of subject inside, of a passage with one subject
_QUOTED = 90  # letters of a quotation
_LEANS = 0.5  # of what its first sentence is about, said shortly before
_BEFORE = 4  # sentences
_NAMED = 3  # words that name a subject
_AT_ONCE = 3  # sentences within which a story is told to have begun
_LEANING = ("unresolved", "points back", "goes on")


class Reason(BaseModel):
    """Why a passage may be worth sharing."""

    model_config = ConfigDict(frozen=True)

    kind: str
    text: str


def reasons(of: Features, span: Span) -> Iterator[Reason]:
    """The reasons for a span that the trial found to be right, strongest first."""
    first, inside = of.sentences[span.first], range(span.first, span.last + 1)
    opens = of.signs[span.first]
    if "question" in opens and len(first.words) >= _ENOUGH:
        answers = " that another person answers" if answered(of, span.first, span.last) else ""
        yield Reason(kind="question", text=f"Opens with a question{answers}: {_quoted(first.text)}")
    if span.last + 1 < len(of.sentences):
        after = of.sentences[span.last + 1]
        if "reaction" in of.signs[span.last + 1] and after.speaker != of.sentences[span.last].speaker:
            yield Reason(kind="reaction", text=f"The other speaker reacts: {_quoted(after.text)}")
    told = [n for n in inside if "story" in of.signs[n]]
    if told and (told[0] < span.first + _AT_ONCE or len(told) > 2):
        yield Reason(kind="story", text=f"Tells what happened: {_quoted(of.sentences[told[0]].text)}")
    if "claim" in opens and "question" not in opens:
        yield Reason(kind="claim", text=f"Seems to claim something: {_quoted(first.text)}")
    for n in inside:
        if found := SIGNS["number"].search(of.sentences[n].text.lower()):
            text = of.sentences[n].text[found.start() : found.end()]
            yield Reason(kind="number", text=f"Names a number: “{text}”")
            break
    if _one_subject(of, span):
        yield Reason(kind="subject", text=f"One subject from start to end{_subject(of, span)}")


def warnings(of: Features, span: Span) -> Iterator[str]:
    """What a person should know before they share a span."""
    before = set().union(*of.stems[max(span.first - _BEFORE, 0) : span.first])
    own, opens = of.stems[span.first], of.signs[span.first]
    if (len(own) > 1 and len(own & before) / len(own) > _LEANS) or (opens & set(_LEANING) and not opens & {"question"}):
        yield "Leans on something said earlier"
    inside = frozenset().union(*of.signs[span.first : span.last + 1])
    if "slide" in inside:
        yield "Points at something not seen"
    if "housekeeping" in inside:
        yield "Sounds like an announcement"


def _one_subject(of: Features, span: Span) -> bool:
    middle = (span.first + span.last + 1) // 2
    if middle == span.first:
        return False
    one, other = (of.means[a:b].mean(axis=0) for a, b in ((span.first, middle), (middle, span.last + 1)))
    alike = float(one @ other / (np.linalg.norm(one) * np.linalg.norm(other)))
    return alike >= _ALIKE and float(of.depth[span.first + 1 : span.last + 1].max()) <= _SHALLOW


def _subject(of: Features, span: Span) -> str:
    """The words that it says most often, where there are such."""
    spoken = Counter(word for n in range(span.first, span.last + 1) for word in of.sentences[n].content)
    most = [word for word, count in spoken.most_common(_NAMED) if count > 1]
    return f": {', '.join(most)}" if most else ""


def _quoted(text: str) -> str:
    short = text if len(text) <= _QUOTED else re.sub(r"\s+\S*$", "", text[:_QUOTED]) + "…"
    return f"“{short}”"
