"""A script in lines: sentences to be read one after the other, or cards with one thought each."""

import re
import unicodedata
from bisect import bisect_right
from collections.abc import Sequence
from functools import cached_property
from typing import Annotated, Literal

from pydantic import Field

from hovvet.core.errors import CoreError
from hovvet.core.text import clean
from hovvet.core.value import Value
from hovvet.core.words.spoken_text import sentences
from hovvet.core.words.vocabulary import bare

ScriptKind = Literal["flowing", "cards"]
KINDS: dict[ScriptKind, str] = {"flowing": "Read word by word", "cards": "Cards, one thought each"}
MOST_WORDS = 6_000  # of a script: three quarters of an hour
MOST_LETTERS = 60_000
_LONGEST_LINE = 400  # letters of a sentence; a longer one is parted where it pauses
_APART = re.compile(r"\n\s*\n|\n\s*-{3,}\s*(?:\n|$)")  # what stands between cards: an empty line, or a rule


class Line(Value):
    """What is read in one go: ``part`` is the paragraph, or the card, that it is from."""

    text: Annotated[str, Field(min_length=1)]
    part: int


class Script(Value):
    """The lines of a script, in order; ``right_to_left`` is how most of it is written."""

    lines: tuple[Line, ...] = ()
    right_to_left: bool = False

    @cached_property
    def words(self) -> tuple[str, ...]:
        """All its words, as they are compared: small letters without punctuation."""
        return tuple(text for line in self.lines for text in words_of(line.text))

    @cached_property
    def starts(self) -> tuple[int, ...]:
        """At which word each line begins, and after the last how many words there are."""
        found = [0]
        for line in self.lines:
            found.append(found[-1] + len(words_of(line.text)))
        return tuple(found)

    def line_at(self, word: int) -> int:
        """The line in which a word stands; the last for those beyond."""
        return min(bisect_right(self.starts, word), len(self.lines)) - 1


def written_words(text: str) -> list[str]:
    """The words of a text as they are written; what has neither letter nor digit is none."""
    return [word for word in text.replace("—", " ").replace("–", " ").split() if bare(word)]


def words_of(text: str) -> list[str]:
    """The words of a text as they are compared."""
    return [bare(word) for word in written_words(text)]


def script_of(text: str, kind: ScriptKind) -> Script:
    """The lines of a text. Raises CoreError where it is longer than can be read at once."""
    text = clean(text)
    count = len(text.split())
    if count > MOST_WORDS or len(text) > MOST_LETTERS:
        raise CoreError(
            f"This script has {count:,} words, about {count / 140:.0f} minutes to read. The most Hovvet takes at once is "
            f"{MOST_WORDS:,}: part it into several scripts."
        )
    if kind == "cards":
        parts = [" ".join(part.split()) for part in _APART.split(text)]
        lines = [Line(text=part, part=n) for n, part in enumerate(filter(words_of, parts))]
    else:
        paragraphs = filter(words_of, text.split("\n"))
        lines = [
            Line(text=each, part=n)
            for n, paragraph in enumerate(paragraphs)
            for each in sentences(paragraph, _LONGEST_LINE)
        ]
    return Script(lines=tuple(lines), right_to_left=_right_to_left(lines))


def _right_to_left(lines: Sequence[Line]) -> bool:
    strong = [unicodedata.bidirectional(letter) for line in lines for letter in line.text]
    return sum(each in ("R", "AL") for each in strong) > strong.count("L")
