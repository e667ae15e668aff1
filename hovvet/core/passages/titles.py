"""What a passage could be called: the best short clauses of its own words."""

import re
from collections.abc import Callable, Sequence

import numpy as np

from hovvet.core.engines.meaning import Vectors
from hovvet.core.passages.features import Features, stem
from hovvet.core.passages.rules import STOP_WORDS, signs_of
from hovvet.core.passages.scoring import Span
from hovvet.core.words.vocabulary import bare

MOST = 3  # that are offered
_SHORTEST, _LONGEST = 3, 11  # words
_CLAUSES = re.compile(r"(?<=[.?!…;:])\s+|,\s+(?=(?:and|but|so|because|which|then)\b)|\s+[–—]\s+")
_GOES_ON = re.compile(r"^(?:and|but|so|because|then|well),?\s+", re.IGNORECASE)
# What the signs of a clause weigh; a first word that nothing is known of without what came before.
_SIGNS = {
    "question": 0.5, "claim": 0.5, "contrast": 0.3, "absolute": 0.25, "number": 0.2, "emotion": 0.2, "commands": 0.1,
    "unresolved": -0.6, "goes on": -0.3, "points back": -0.5, "answers": -0.4, "dangling": -1.0, "slide": -1.0,
    "housekeeping": -1.5, "half thought": -0.8,
}  # fmt: skip
_ABOUT, _RARE, _FIRST = 1.0, 0.5, 0.25  # likeness to all of it; words that say something; being said first


def titles(of: Features, span: Span, meaning: Callable[[Sequence[str]], Vectors]) -> list[str]:
    """The best of its clauses, best first, as titles are written."""
    clauses: list[tuple[str, int]] = []
    for n in range(span.first, span.last + 1):
        for clause in _CLAUSES.split(of.sentences[n].text):
            if _SHORTEST <= len(clause.split()) <= _LONGEST:
                clauses.append((clause.strip(" ,;:"), n - span.first))
    if not clauses:
        words = of.sentences[span.first].text.split()
        return [_titled(" ".join(words[:_LONGEST]))]
    whole = of.means[span.first : span.last + 1].mean(axis=0)
    about = meaning([clause for clause, _ in clauses]) @ (whole / np.linalg.norm(whole))
    scores = [_ABOUT * float(alike) + _own(clause) + (_FIRST if place == 0 else 0.0)
              for (clause, place), alike in zip(clauses, about, strict=True)]  # fmt: skip
    best: list[str] = []
    for n in np.argsort(-np.array(scores), kind="stable"):
        title = _titled(clauses[n][0])
        if all(_differ(title, other) for other in best):
            best.append(title)
        if len(best) == MOST:
            break
    return best


def _own(clause: str) -> float:
    """What a clause is worth by itself."""
    words = [word for each in clause.split() if (word := bare(each))]
    says = sum(word not in STOP_WORDS for word in words) / max(len(words), 1)
    return sum(_SIGNS.get(sign, 0.0) for sign in signs_of(clause)) + _RARE * says


def _titled(clause: str) -> str:
    text = _GOES_ON.sub("", clause.rstrip(" .,;:!…"))
    return text[:1].upper() + text[1:]


def _differ(one: str, other: str) -> bool:
    """Whether less than half of the words of the shorter one are in both."""
    a, b = ({stem(bare(word)) for word in each.split()} for each in (one, other))
    return 2 * len(a & b) < min(len(a), len(b)) + 1
