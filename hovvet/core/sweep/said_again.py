"""Things said again: repeats, restarts and retakes. The earlier saying is the one that goes."""

from collections.abc import Sequence

from rapidfuzz import fuzz

from hovvet.core.sweep.finds import Find
from hovvet.core.sweep.phrases import find_of
from hovvet.core.words.transcript import DOUBTFUL, Word
from hovvet.core.words.vocabulary import bare, ends_phrase, ends_sentence

_REPEAT_WORDS = 4  # the longest repeat looked for
_REPEAT_GAP = 1.5  # seconds between the two sayings
# Said twice on purpose, or twice by grammar.
_DOUBLED = frozenset(
    (
        "very really so no yes yeah much many long far big old never ha bye now well more too had that please "
        "die der das sehr nous vous muy très molto heel muito"  # of other languages
    ).split()
)

_SUBJECTS = frozenset("i we you he she it they the this that there these those my our your his her".split())

_RESTART_WORDS = 8  # the longest beginning that is abandoned
_RESTART_GAP = 2.0
_GIVEN_UP = 3  # words after a full stop that were begun and given up
_JOINING = frozenset("and but or so because then".split())
_ONE_IN_COMMON = 4  # words of a beginning of which but the first is said again
_SURELY, _SOON = 2, 2  # words of a phrase that is said again, and words after it before that
# A phrase that ends with one of these was not finished.
_UNFINISHED = frozenset(
    (
        "a an the and but or so of to in on at by for from with as is are was were be been am if my your his "
        "her our their its i we you they he she it that this these those not no when where who which because "
        "would could should can will have has had do did does very really about into just"
    ).split()
)

# Nothing said on purpose ends with one of these.
_NEVER_LAST = frozenset("a an the my your our their".split())

_RETAKE_WITHIN = 60.0  # seconds between the two takes
_RETAKE_WORDS = 4  # the shortest sentence that counts
_RETAKE_ALIKE = 84.0  # of 100
_PHRASE_PAUSE = 0.25  # seconds between two phrases
_SENTENCE_PAUSE = 0.6  # seconds of silence that end a sentence without a full stop
_REMARK = frozenset(
    "sorry again restart over retake take redo once more wait scratch okay let me try start say".split()
)
_REMARK_WORDS = 10


def _bare(words: Sequence[Word]) -> list[str]:
    return [bare(word.text) for word in words]


def _trails_off(text: str) -> bool:
    return text.rstrip().endswith(("...", "…", "-", "–", "—"))


def _ends(word: Word) -> bool:
    """Whether a sentence is finished with this word; one that trails off is not."""
    return ends_sentence(word.text) and not _trails_off(word.text)


def repeats(words: Sequence[Word], gone: frozenset[int] = frozenset()) -> list[Find]:
    """Up to four words said twice in a row: "and we, and we". Words in ``gone`` count as not said."""
    said = [word for word in words if word.id not in gone]
    texts = _bare(said)
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
    if any(_ends(word) for word in first) and not _stop_amid(first, second):
        return False  # the end of one sentence and the beginning of the next
    return second[0].start - first[-1].end <= _REPEAT_GAP


def _stop_amid(first: Sequence[Word], second: Sequence[Word]) -> bool:
    """Whether a full stop between two sayings is but what the recogniser made of breaking off: some words, said again as the
    beginning of something longer."""
    return len(first) > 1 and not any(_ends(word) for word in (*first[:-1], *second))


def _meant(said: Sequence[Word], texts: Sequence[str], n: int) -> bool:
    """Whether a word is said again on purpose: "dry, dry, dry", all there is of a phrase, or "Slowly, slowly.", a sentence."""
    first = last = n
    while first and texts[first - 1] == texts[n]:
        first -= 1
    while last + 1 < len(said) and texts[last + 1] == texts[n]:
        last += 1
    run = said[first : last + 1]
    sentence = (first == 0 or _ends(said[first - 1])) and _ends(run[-1]) and not any(_ends(word) for word in run[:-1])
    if sentence and texts[n] not in _SUBJECTS:
        return True
    says = texts[n] not in _UNFINISHED and texts[n] not in _SUBJECTS
    return says and len(run) > 2 and all(ends_phrase(word.text) for word in run)


def _over_and_over(texts: Sequence[str], n: int) -> bool:
    """Whether two words are part of "again and again and again"."""
    said = texts[n + 1] if texts[n] == "and" else texts[n]
    if "and" not in texts[n : n + 2] or said in _UNFINISHED or said in _SUBJECTS:
        return False
    first = n + 1 if texts[n] == "and" else n
    while first > 1 and texts[first - 2 : first] == [said, "and"]:
        first -= 2
    return list(texts[first : first + 5]) == [said, "and", said, "and", said]


def _goes_on_anew(said: Sequence[Word], texts: Sequence[str], n: int) -> bool:
    """Whether a doubled "so" opens a sentence: "so, so we gave it one", not "so so big"."""
    if texts[n] != "so" or n + 2 >= len(said):
        return False
    return ends_phrase(said[n].text) and texts[n + 2] in _SUBJECTS


def restarts(words: Sequence[Word], gone: frozenset[int] = frozenset()) -> list[Find]:
    """A phrase begun, abandoned and begun again: "We opened the, we opened a library"."""
    said = [word for word in words if word.id not in gone]
    texts = _bare(said)
    places = _places(words)
    found: list[Find] = []
    taken = 0
    for again in range(2, len(said)):
        begun = [
            first
            for first in range(max(taken, again - _RESTART_WORDS), again - 1)
            if _is_restart(places, said, texts, first, again)
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


def _places(words: Sequence[Word]) -> dict[int, int]:
    """Where each word stands, by id: ids say nothing of it once words were joined or split."""
    return {word.id: n for n, word in enumerate(words)}


def _is_restart(places: dict[int, int], said: Sequence[Word], texts: Sequence[str], first: int, again: int) -> bool:
    same = _in_common(texts, first, again)
    if same == 0 or first + same >= again:
        return False  # nothing in common, or a plain repeat
    if first and texts[first - 1] == texts[again - 1]:
        return False  # both begin a word earlier
    if texts[again - 1] in _JOINING and texts[again - 2] not in _UNFINISHED and again - first > same + 1:
        return False  # one finished thought after another: "it takes two minutes, and it helps us"
    broke = said[again - 1]
    if len(set(texts[first:again])) == 1:
        return False  # one word over and over
    stops = [n for n in range(first, again) if _ends(said[n])]
    broke_off = stops == [again - 1] and same > 1 and (same > 2 or texts[again - 1] in _NEVER_LAST)
    if stops and not broke_off and not _given_up(texts, first, again, stops[-1], same):
        return False
    if said[first].speaker != said[again].speaker:
        return False
    if said[again].start - broke.end > _RESTART_GAP:
        return False
    between = places[said[again].id] - places[broke.id] > 1  # fillers stood there
    parted = ends_phrase(broke.text) or _trails_off(broke.text) or said[again].start - broke.end >= 0.2 or between
    # A word broken off is often misheard: the recogniser is not sure of it.
    unfinished = texts[again - 1] in _UNFINISHED or _trails_off(broke.text) or broke.confidence < DOUBTFUL
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
    return same > 1 and 1 < again - 1 - stop <= _GIVEN_UP and texts[again - 1] in _UNFINISHED and not anew


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


def sentences(words: Sequence[Word], gone: frozenset[int] = frozenset()) -> list[Sequence[Word]]:
    """The words not in ``gone`` in sentences: up to a full stop, or a silence of 0.6 s in which nothing was left out."""
    said = [word for word in words if word.id not in gone]
    places = _places(words)
    made: list[Sequence[Word]] = []
    first = 0
    for n, word in enumerate(said):
        following = said[n + 1] if n + 1 < len(said) else None
        silent = (
            following is not None
            and places[following.id] == places[word.id] + 1
            and following.start - word.end >= _SENTENCE_PAUSE
        )
        if following is None or silent or _ends(word):
            made.append(said[first : n + 1])
            first = n + 1
    return made


def retakes(words: Sequence[Word], gone: frozenset[int] = frozenset()) -> list[Find]:
    """Sentences said again within a minute, with a remark such as "sorry, again" between them.

    The earlier take goes. A take broken off half-way counts when it is the
    beginning of the later one.
    """
    parts = sentences(words, gone)
    found: list[Find] = []
    skip = 0
    for n, part in enumerate(parts):
        if n < skip or len(part) < _RETAKE_WORDS:
            continue
        for m in range(n + 1, min(n + 8, len(parts))):
            if parts[m][0].start - part[-1].end > _RETAKE_WITHIN:
                break
            if parts[m][0].speaker != part[0].speaker:
                continue
            takes = [
                (_alike(earlier, later), earlier, later)
                for later in (
                    parts[m],
                    _joined(parts, m),
                    _beginning(_joined(parts, m), len(part), bare(part[-1].text)),
                )
                for earlier in (part, _ending(part, len(later)))
            ]
            alike, earlier, later = max(takes, key=lambda take: (take[0], len(take[1])))
            if alike < _RETAKE_ALIKE:
                continue
            remark = [word for each in parts[n + 1 : m] for word in each]
            goes = [*earlier, *remark] if _is_remark(remark) else list(earlier)
            found.append(
                find_of("retake", goes, round(alike / 100, 2)).model_copy(
                    update={"instead": tuple(word.id for word in later)}
                )
            )
            skip = m if _is_remark(remark) else n + 1
            break
    return found


def _joined(parts: Sequence[Sequence[Word]], m: int) -> Sequence[Word]:
    """A sentence and the one after it as one: a filler taken out of the middle may have left a full stop."""
    return [word for part in parts[m : m + 2] for word in part]


def _ending(part: Sequence[Word], length: int) -> Sequence[Word]:
    """The last words of a sentence, about ``length`` of them, from where a phrase begins; none when none does there.

    Recognisers often write a comma where one sentence ends and the next begins.
    """
    for first in sorted(range(1, len(part)), key=lambda n: abs(len(part) - n - length)):
        if abs(len(part) - first - length) > 2:
            break
        if ends_phrase(part[first - 1].text) or part[first].start - part[first - 1].end >= _PHRASE_PAUSE:
            return part[first:]
    return ()


def _beginning(part: Sequence[Word], length: int, last: str) -> Sequence[Word]:
    """The first words of a sentence, about ``length`` of them, up to where a phrase ends with ``last``; else none."""
    for end in sorted(range(1, len(part)), key=lambda n: abs(n - length)):
        if abs(end - length) > 2:
            break
        if ends_phrase(part[end - 1].text):
            return part[:end] if bare(part[end - 1].text) == last else ()
    return ()


def _alike(one: Sequence[Word], two: Sequence[Word]) -> float:
    a, b = _bare(one), _bare(two)
    if len(a) < _RETAKE_WORDS:
        return 0.0
    if len(b) < _RETAKE_WORDS or (len(b) < len(a) and not ends_phrase(two[-1].text)):
        return 0.0  # the later take is no better than the earlier
    whole = fuzz.ratio(" ".join(a), " ".join(b)) if abs(len(a) - len(b)) <= max(len(a), len(b)) * 0.4 else 0.0
    broken = not _ends(one[-1]) or _trails_off(one[-1].text)
    if broken and len(a) < len(b):
        return max(whole, fuzz.ratio(" ".join(a), " ".join(b[: len(a)])))
    return whole


def _is_remark(words: Sequence[Word]) -> bool:
    """Whether words between two takes only speak of the taking."""
    if not words:
        return True
    return len(words) <= _REMARK_WORDS and sum(text in _REMARK for text in _bare(words)) >= max(1, len(words) // 4)
