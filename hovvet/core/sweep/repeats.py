"""Repeats: words said twice in a row. The earlier saying is the one that goes."""

from collections.abc import Sequence

from hovvet.core.sweep.finds import Find
from hovvet.core.sweep.phrases import find_of
from hovvet.core.sweep.said import SUBJECTS, UNFINISHED, ends, readings
from hovvet.core.words.transcript import Word
from hovvet.core.words.vocabulary import ends_phrase

_REPEAT_WORDS = 4  # the longest repeat looked for
_REPEAT_GAP = 1.5  # seconds between the two sayings
# Said twice on purpose, or twice by grammar.
_DOUBLED = frozenset(
    (
        "very really so no yes yeah much many long far big old never ha bye now well more too had that please "
        "die der das sehr nous vous muy très molto heel muito"  # of other languages
    ).split()
)


def repeats(words: Sequence[Word], gone: frozenset[int] = frozenset()) -> list[Find]:
    """Up to four words said twice in a row: "and we, and we". Words in ``gone`` count as not said."""
    said = [word for word in words if word.id not in gone]
    texts = readings(said)
    found: list[Find] = []
    n = 0
    while n < len(said):
        length = next((k for k in range(_REPEAT_WORDS, 0, -1) if _is_repeat(said, texts, n, k)), 0)
        if length:
            found.append(find_of("repeat", said[n : n + length], 0.9 if length > 1 else 0.8))
        elif said[n].text.endswith("-") and n + 1 < len(said) and texts[n + 1].startswith(texts[n].rstrip("-")):
            found.append(find_of("repeat", said[n : n + 1], 0.8))  # a word broken off and begun again
        n += length or 1
    return found


def _is_repeat(said: Sequence[Word], texts: Sequence[str], n: int, k: int) -> bool:
    if n + 2 * k > len(said) or texts[n : n + k] != texts[n + k : n + 2 * k] or not all(texts[n : n + k]):
        return False
    if k == 1 and texts[n] in _DOUBLED and not _goes_on_anew(said, texts, n):
        return False
    if (k == 1 and _meant(said, texts, n)) or (k == 2 and _over_and_over(texts, n)):
        return False
    first, second = said[n : n + k], said[n + k : n + 2 * k]
    if first[0].speaker != second[0].speaker:
        return False  # a question and its answer
    if any(ends(word) for word in first) and not _stop_amid(first, second):
        return False  # the end of one sentence and the beginning of the next
    return second[0].start - first[-1].end <= _REPEAT_GAP


def _stop_amid(first: Sequence[Word], second: Sequence[Word]) -> bool:
    """Whether a full stop between two sayings is but what the recogniser made of breaking off: some words, said again as the
    beginning of something longer."""
    return len(first) > 1 and not any(ends(word) for word in (*first[:-1], *second))


def _meant(said: Sequence[Word], texts: Sequence[str], n: int) -> bool:
    """Whether a word is said again on purpose: "dry, dry, dry", all there is of a phrase, or "Slowly, slowly.", a sentence."""
    first = last = n
    while first and texts[first - 1] == texts[n]:
        first -= 1
    while last + 1 < len(said) and texts[last + 1] == texts[n]:
        last += 1
    run = said[first : last + 1]
    sentence = (first == 0 or ends(said[first - 1])) and ends(run[-1]) and not any(ends(word) for word in run[:-1])
    if sentence and texts[n] not in SUBJECTS:
        return True
    says = texts[n] not in UNFINISHED and texts[n] not in SUBJECTS
    return says and len(run) > 2 and all(ends_phrase(word.text) for word in run)


def _over_and_over(texts: Sequence[str], n: int) -> bool:
    """Whether two words are part of "again and again and again"."""
    said = texts[n + 1] if texts[n] == "and" else texts[n]
    if "and" not in texts[n : n + 2] or said in UNFINISHED or said in SUBJECTS:
        return False
    first = n + 1 if texts[n] == "and" else n
    while first > 1 and texts[first - 2 : first] == [said, "and"]:
        first -= 2
    return list(texts[first : first + 5]) == [said, "and", said, "and", said]


def _goes_on_anew(said: Sequence[Word], texts: Sequence[str], n: int) -> bool:
    """Whether a doubled "so" opens a sentence: "so, so we gave it one", not "so so big"."""
    if texts[n] != "so" or n + 2 >= len(said):
        return False
    return ends_phrase(said[n].text) and texts[n + 2] in SUBJECTS
