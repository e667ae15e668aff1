"""Finding what stands on the Shelf, by words and by meaning."""

import re
from collections.abc import Callable, Sequence
from typing import NamedTuple

import numpy as np

from hovvet.core.engines.meaning import Vectors

ALIKE = 0.25  # cosine under which a thing has nothing to do with what is looked for
_WORD = re.compile(r"\w+")


class Described(NamedTuple):
    """A thing by its name and tags."""

    name: str
    tags: Sequence[str] = ()

    @property
    def text(self) -> str:
        """What its meaning is told by."""
        return f"{self.name}. {', '.join(self.tags)}" if self.tags else self.name


def found(
    query: str, things: Sequence[Described], means: Vectors, meaning: Callable[[Sequence[str]], Vectors]
) -> list[int]:
    """Which of some things answer a query, best first: those that hold all its words (or beginnings of words), then those
    that mean something like it. Without a query all, as they are.

    ``means`` are the things' own meanings, shape (n, SIZE): those of their ``text``.
    """
    wanted = _WORD.findall(query.lower())
    if not wanted or not things:
        return list(range(len(things)))
    alike = np.round(means @ meaning([query])[0], 6)
    said = [n for n, thing in enumerate(things) if _says(thing, wanted)]
    close = [n for n in range(len(things)) if n not in said and alike[n] >= ALIKE]
    return [*sorted(said, key=lambda n: -alike[n]), *sorted(close, key=lambda n: -alike[n])]


def _says(thing: Described, wanted: Sequence[str]) -> bool:
    words = _WORD.findall(thing.text.lower())
    return all(any(word.startswith(each) for word in words) for each in wanted)
