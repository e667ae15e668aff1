"""Where somebody is in a script, by what was heard last of them."""

from collections.abc import Sequence

import numpy as np

from hovvet.core.script.aligning import Along
from hovvet.core.script.lines import Script
from hovvet.core.value import Value

LONGEST = 12  # seconds that are listened to at once
QUIETEST = 0.004  # root mean square of sound under which nobody speaks
_FEWEST = 3  # words that have to be heard
_ELSEWHERE = 3.0  # what it costs to be somewhere else than one was, or is expected
_SURE = 0.45  # cost a word up to which it is believed
_CLEAR = 0.6  # by which a place must be better than any that is not beside it
_BESIDE = 4  # words
_STRAYED, _ELSE = 5, 0.7  # words, and cost a word, from which on something else is said


class Followed(Value):
    """Where one is in a script."""

    word: int
    """The next word to be said."""
    sure: bool
    """Whether that is to be believed; where it is not, one goes on by the pace."""
    silent: bool = False
    """Whether nothing was said: then one waits."""
    strayed: bool = False
    """Whether something else was said: likewise."""


def follow(script: Script, word: int, heard: Sequence[str], language: str) -> Followed:
    """Where one is after ``heard`` (words as they are compared, the last few seconds of what was said), having been before ``word``
    when they were begun, or a little further: what was heard may overlap what was heard before."""
    if len(heard) < _FEWEST or not script.words:
        return Followed(word=word, sure=False, silent=not heard)
    along = Along(script.words, script.starts[:-1], language)
    along.begin_at(min(word, len(script.words)), _ELSEWHERE)
    along.costs[max(word - len(heard), 0) : word + 1] = 0.0
    for each in heard:
        along.hear(each)
    at = int(np.argmin(along.costs))
    others = np.ones(len(along.costs), bool)
    others[max(at - _BESIDE, 0) : at + _BESIDE + 1] = False
    clear = float(np.min(along.costs[others], initial=np.inf)) - float(along.costs[at]) >= _CLEAR
    least = float(along.costs[at]) / len(heard)
    return Followed(word=at, sure=clear and least <= _SURE, strayed=len(heard) >= _STRAYED and least >= _ELSE)
