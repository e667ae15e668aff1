"""Restarts: phrases begun, abandoned and begun again. What was abandoned goes."""

from collections.abc import Sequence

from hovvet.core.sweep.finds import Find
from hovvet.core.sweep.phrases import find_of
from hovvet.core.sweep.said import UNFINISHED, ends, places, readings, trails_off
from hovvet.core.words.transcript import DOUBTFUL, Word
from hovvet.core.words.vocabulary import ends_phrase

_RESTART_WORDS = 8  # the longest beginning that is abandoned
_RESTART_GAP = 2.0
_GIVEN_UP = 3  # words after a full stop that were begun and given up
_JOINING = frozenset("and but or so because then".split())
_ONE_IN_COMMON = 4  # words of a beginning of which but the first is said again
_SURELY, _SOON = 2, 2  # words of a phrase that is said again, and words after it before that

# Nothing said on purpose ends with one of these.
_NEVER_LAST = frozenset("a an the my your our their".split())


def restarts(words: Sequence[Word], gone: frozenset[int] = frozenset()) -> list[Find]:
    """A phrase begun, abandoned and begun again: "We opened the, we opened a library"."""
    said = [word for word in words if word.id not in gone]
    texts = readings(said)
    standing = places(words)
    found: list[Find] = []
    taken = 0
    for again in range(2, len(said)):
        begun = [
            first
            for first in range(max(taken, again - _RESTART_WORDS), again - 1)
            if _is_restart(standing, said, texts, first, again)
        ]
        if begun:
            # The one that has most in common; of alike ones the longest.
            first = max(begun, key=lambda first: (_in_common(texts, first, again), -first))
            found.append(find_of("restart", said[first:again], 0.75))
            taken = again
    return found


def _in_common(texts: Sequence[str], first: int, again: int) -> int:
    """How many words a beginning shares with what comes after it."""
    same = 0
    while again + same < len(texts) and first + same < again and texts[first + same] == texts[again + same]:
        same += 1
    return same


def _is_restart(standing: dict[int, int], said: Sequence[Word], texts: Sequence[str], first: int, again: int) -> bool:
    same = _in_common(texts, first, again)
    if same == 0 or first + same >= again:
        return False  # nothing in common, or a plain repeat
    if first and texts[first - 1] == texts[again - 1]:
        return False  # both begin a word earlier
    if texts[again - 1] in _JOINING and texts[again - 2] not in UNFINISHED and again - first > same + 1:
        return False  # one finished thought after another: "it takes two minutes, and it helps us"
    broke = said[again - 1]
    if len(set(texts[first:again])) == 1:
        return False  # one word over and over
    stops = [n for n in range(first, again) if ends(said[n])]
    broke_off = stops == [again - 1] and same > 1 and (same > 2 or texts[again - 1] in _NEVER_LAST)
    if stops and not broke_off and not _given_up(texts, first, again, stops[-1], same):
        return False
    if said[first].speaker != said[again].speaker:
        return False
    if said[again].start - broke.end > _RESTART_GAP:
        return False
    between = standing[said[again].id] - standing[broke.id] > 1  # fillers stood there
    parted = ends_phrase(broke.text) or trails_off(broke.text) or said[again].start - broke.end >= 0.2 or between
    # A word broken off is often misheard: the recogniser is not sure of it.
    unfinished = texts[again - 1] in UNFINISHED or trails_off(broke.text) or broke.confidence < DOUBTFUL
    begins = first == 0 or ends_phrase(said[first - 1].text) or said[first].start - said[first - 1].end >= 0.15
    # "The first summer, we only, the first summer": a phrase, a word or two, and the phrase again.
    soon = same >= _SURELY and again - first <= same + _SOON and ends_phrase(said[first + same - 1].text)
    if not parted or not (unfinished or soon or _outgrown(said, first, again, same)):
        return False
    if same >= 2:
        return True
    return (
        begins
        and again - first <= _ONE_IN_COMMON
        and (texts[first] not in ("and", "the", "a", "of", "to", "in") or texts[again - 1] in _NEVER_LAST)
    )


def _given_up(texts: Sequence[str], first: int, again: int, stop: int, same: int) -> bool:
    """Whether what follows a full stop is two or three words that nothing ends with, before the same phrase comes again.

    "It takes two. It was the, it takes two minutes."
    """
    begun = list(texts[again : again + same])
    anew = any(list(texts[n : n + same]) == begun for n in range(first + 1, again - same + 1))
    return same > 1 and 1 < again - 1 - stop <= _GIVEN_UP and texts[again - 1] in UNFINISHED and not anew


def _outgrown(said: Sequence[Word], first: int, again: int, same: int) -> bool:
    """Whether a short beginning is said again and goes on well beyond where it broke off.

    "In the two, in the quietest part of the talk", where the last word of the beginning is what the
    recogniser made of one broken off. Things listed side by side are about as long as each other.
    """
    fragment = again - first
    if same < 2 or fragment != same + 1:
        return False
    length = next((n for n in range(1, len(said) - again + 1) if ends_phrase(said[again + n - 1].text)), 0)
    return length >= fragment + 2
