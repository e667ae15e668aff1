"""Filler phrases: words that say something elsewhere and nothing here."""

from collections.abc import Sequence

from hovvet.core.sweep.finds import Find
from hovvet.core.words.transcript import Word, plain_text
from hovvet.core.words.vocabulary import ENGLISH, bare, ends_phrase

SET_OFF = 0.12  # seconds of silence that set a phrase off like a comma


class PhraseRule:
    """When a phrase is a filler: its words, how it must be set off, and what beside it makes it mean something."""

    def __init__(self, words: str, before: str, after: str, both_sides: bool = False) -> None:
        self.words = words.split()
        self.before, self.after = frozenset(before.split()), frozenset(after.split())
        self.both_sides = both_sides

    def matches(self, words: Sequence[Word], first: int) -> bool:
        """Whether the phrase stands at ``first`` and says nothing there."""
        end = first + len(self.words)
        if [bare(word.text) for word in words[first:end]] != self.words:
            return False
        opened, closed = _set_off(words, first - 1), _set_off(words, end - 1)
        if self.both_sides:
            return opened and closed
        before = bare(words[first - 1].text) if first else ""
        after = bare(words[end].text) if end < len(words) else ""
        if before in self.before and not opened:
            return False
        return closed or after not in self.after


_ASKING = "what how that who where why when if about"
_NOUN = "the a an my your his her our their this these it them him me us you"
RULES = (
    PhraseRule(
        "you know", "do did does if as when what how would could should to not never already", f"{_ASKING} {_NOUN}"
    ),
    PhraseRule("i mean", "what that which do did does if when", f"{_ASKING} it to by business well"),
    PhraseRule(
        "sort of",
        _NOUN + " some any what every one same different another no that those all certain",
        "thing things person people way place man woman",
    ),
    PhraseRule(
        "kind of",
        _NOUN + " some any what every one same different another no that those all certain",
        "thing things person people way place man woman",
    ),
    PhraseRule("like", "", "", both_sides=True),
    PhraseRule("you see", "", "", both_sides=True),
    PhraseRule("basically", "", "", both_sides=True),
    PhraseRule("okay so", "", "", both_sides=True),
)

# In other languages only where they are set off on both sides.
_ELSEWHERE = {
    "de": "weißt du, sozusagen, sag ich mal, wie gesagt",
    "es": "o sea, este, digamos, ya sabes",
    "fr": "tu vois, vous voyez, en fait, du coup",
    "it": "cioè, diciamo, sai",
    "nl": "weet je, zeg maar, ik bedoel",
    "pt": "tipo, sabe, quer dizer, um",
}

_RULES = {" ".join(rule.words): rule for rule in RULES}
_RULES |= {text: PhraseRule(text, "", "", both_sides=True) for each in _ELSEWHERE.values() for text in each.split(", ")}


def phrases_of(language: str = ENGLISH) -> tuple[str, ...]:
    """The filler phrases that are known in a language (ISO 639-1)."""
    if language == ENGLISH:
        return tuple(" ".join(rule.words) for rule in RULES)
    return tuple(_ELSEWHERE[language].split(", ")) if language in _ELSEWHERE else ()


PHRASES = phrases_of()


def _set_off(words: Sequence[Word], n: int) -> bool:
    """Whether a comma, a pause, or a filler parts word ``n`` from the next one; so do both ends of the transcript."""
    if n < 0 or n + 1 >= len(words):
        return True
    here, following = words[n], words[n + 1]
    return ends_phrase(here.text) or following.start - here.end >= SET_OFF or "filler" in (here.kind, following.kind)


def filler_phrases(words: Sequence[Word], phrases: Sequence[str] = PHRASES) -> list[Find]:
    """Every filler phrase among the words. A phrase without a rule of its own counts wherever it stands."""
    found = []
    rules = [_RULES.get(phrase.lower()) or PhraseRule(phrase.lower(), "", "") for phrase in phrases]
    n = 0
    while n < len(words):
        rule = next((rule for rule in rules if rule.matches(words, n)), None)
        if rule is None:
            n += 1
            continue
        phrase = words[n : n + len(rule.words)]
        found.append(find_of("phrase", phrase, 0.8))
        n += len(rule.words)
    return found


def find_of(kind: str, words: Sequence[Word], confidence: float) -> Find:
    """A find that covers some words in a row."""
    return Find(
        kind=kind,  # type: ignore[arg-type]
        start=words[0].start,
        end=words[-1].end,
        text=plain_text(words),
        words=tuple(word.id for word in words),
        confidence=confidence,
    )
