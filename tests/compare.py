"""How far a recognised text is from what was said."""

import re
from collections.abc import Sequence

from num2words import num2words
from rapidfuzz.distance import Levenshtein


def normal_words(text: str) -> list[str]:
    """Lower-case words without punctuation; numerals spelled out, hyphens opened."""
    text = text.lower().replace("’", "'").replace("-", " ").replace("%", " percent")
    text = re.sub(r"(?<=\d),(?=\d{3})", "", text)
    text = re.sub(r"\d+", lambda digits: f" {num2words(int(digits[0]))} ".replace("-", " "), text)
    return [word for word in re.findall(r"[a-z']+", text) if word.strip("'")]


def word_error_rate(said: Sequence[str], heard: Sequence[str]) -> float:
    """Substituted, lost and added words, in parts of the words said (0 is perfect, above 1 is possible).

    The usual Levenshtein distance over words; 0 when nothing was said and nothing heard.
    """
    if not said:
        return float(bool(heard))
    return Levenshtein.distance(list(said), list(heard)) / len(said)
