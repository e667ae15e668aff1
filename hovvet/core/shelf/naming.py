"""Finding pictures that have nothing but a name, by what is said or typed."""

import re
from collections.abc import Sequence

_WORD = re.compile(r"[a-z0-9]+")
_ENDINGS = ("", "s", "es", "ed", "d", "ing", "er")  # by which two forms of a word may differ
_SHORTEST = 3  # letters of a word that is looked for: shorter ones are in many names, and mean nothing


def named_for(text: str, names: Sequence[str]) -> list[int]:
    """Which of some names (words joined by hyphens) answer a text, best first: those that hold most of its words, of these
    the shortest. The last word may be a beginning, as it is while it is typed."""
    wanted = [word for word in _WORD.findall(text.lower()) if len(word) >= _SHORTEST]
    if not wanted:
        return []
    scores: dict[int, tuple[int, int]] = {}
    for n, name in enumerate(names):
        words = name.split("-")
        held = sum(any(_alike(word, each) for each in words) for word in set(wanted))
        held += not held and len(wanted) == 1 and any(word.startswith(wanted[0]) for word in words)
        if held:
            scores[n] = -held, len(words)
    return sorted(scores, key=lambda n: (*scores[n], n))


def _alike(one: str, other: str) -> bool:
    short, long = sorted((one, other), key=len)
    return len(short) >= _SHORTEST and long.startswith(short) and long[len(short) :] in _ENDINGS
