"""Retakes: sentences said again within a minute. The earlier take goes."""

from collections.abc import Sequence

from rapidfuzz import fuzz

from hovvet.core.sweep.finds import Find
from hovvet.core.sweep.phrases import find_of
from hovvet.core.sweep.said import ends, places, readings, trails_off
from hovvet.core.value import with_changes
from hovvet.core.words.transcript import Word
from hovvet.core.words.vocabulary import bare, ends_phrase

_RETAKE_WITHIN = 60.0  # seconds between the two takes
_RETAKE_WORDS = 4  # the shortest sentence that counts
_RETAKE_ALIKE = 84.0  # of 100
_PHRASE_PAUSE = 0.25  # seconds between two phrases
_SENTENCE_PAUSE = 0.6  # seconds of silence that end a sentence without a full stop
_REMARK = frozenset(
    "sorry again restart over retake take redo once more wait scratch okay let me try start say".split()
)
_REMARK_WORDS = 10


def sentences(words: Sequence[Word], gone: frozenset[int] = frozenset()) -> list[Sequence[Word]]:
    """The words not in ``gone`` in sentences: up to a full stop, or a silence of 0.6 s in which nothing was left out."""
    said = [word for word in words if word.id not in gone]
    standing = places(words)
    made: list[Sequence[Word]] = []
    first = 0
    for n, word in enumerate(said):
        following = said[n + 1] if n + 1 < len(said) else None
        silent = (
            following is not None
            and standing[following.id] == standing[word.id] + 1
            and following.start - word.end >= _SENTENCE_PAUSE
        )
        if following is None or silent or ends(word):
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
                with_changes(find_of("retake", goes, round(alike / 100, 2)), instead=tuple(word.id for word in later))
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
    a, b = readings(one), readings(two)
    if len(a) < _RETAKE_WORDS:
        return 0.0
    if len(b) < _RETAKE_WORDS or (len(b) < len(a) and not ends_phrase(two[-1].text)):
        return 0.0  # the later take is no better than the earlier
    whole = fuzz.ratio(" ".join(a), " ".join(b)) if abs(len(a) - len(b)) <= max(len(a), len(b)) * 0.4 else 0.0
    broken = not ends(one[-1]) or trails_off(one[-1].text)
    if broken and len(a) < len(b):
        return max(whole, fuzz.ratio(" ".join(a), " ".join(b[: len(a)])))
    return whole


def _is_remark(words: Sequence[Word]) -> bool:
    """Whether words between two takes only speak of the taking."""
    if not words:
        return True
    return len(words) <= _REMARK_WORDS and sum(text in _REMARK for text in readings(words)) >= max(1, len(words) // 4)
