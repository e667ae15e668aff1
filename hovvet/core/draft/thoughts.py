"""Thoughts: sentences that are seen together, each under one picture, and which picture that is."""

import re
from collections.abc import Callable, Sequence
from typing import NamedTuple

import numpy as np

from hovvet.core.draft.choosing import seconds_of
from hovvet.core.draft.written import BlockKind, Sentence
from hovvet.core.engines.meaning import Vectors
from hovvet.core.shelf.searching import ALIKE

SHORTEST = 2.6  # seconds of a picture: what is shorter is seen together with what follows
ASKED = 0.1  # of likeness that is enough where a person asks for another picture
_LETTERS = 90  # that a slide has room for
_FIGURE = re.compile(
    r"[$€£]\s?\d[\d,.]*(?:\s?(?:k|m|bn|million|billion|thousand)\b)?|\d[\d,.]*\s?(?:%|percent\b|million\b|billion\b|thousand\b|km\b|kg\b|°C)|\b\d{1,3}(?:,\d{3})+\b"
)
_CLAUSES = re.compile(r"(?<=[,;:–—])\s+")


class Thought(NamedTuple):
    """Sentences ``first`` to ``last`` (positions in those kept), both in it, and what is written of them."""

    first: int
    last: int
    text: str
    kind: BlockKind


class Lettering(NamedTuple):
    """What a slide says, and how it looks (by the name of a template)."""

    text: str
    template: str


def thoughts_of(kept: Sequence[Sentence], pace: float = 1.0) -> list[Thought]:
    """The thoughts of the sentences that are said, in order; they end where sentences do."""
    made: list[Thought] = []
    lasts: list[float] = []
    for n, each in enumerate(kept):
        length = seconds_of(each.said, pace)
        if made and _goes_along(made[-1], each, kept) and min(lasts[-1], length) < SHORTEST:
            made[-1] = made[-1]._replace(last=n, text=f"{made[-1].text} {each.text}")
            lasts[-1] += length
        else:
            made.append(Thought(n, n, each.text, each.kind))
            lasts.append(length)
    return made


def _goes_along(before: Thought, sentence: Sentence, kept: Sequence[Sentence]) -> bool:
    return before.kind == sentence.kind == "text" and kept[before.last].part == sentence.part


def pictures_for(
    thoughts: Sequence[Thought], means: Vectors, meaning: Callable[[Sequence[str]], Vectors]
) -> list[int | None]:
    """For each thought the thing that shows it (by its place in ``means``, shape (n, SIZE)), None where nothing fits; none is
    shown twice, and all together are as alike as can be (the assignment problem). Items and quotations are read, not shown."""
    shown = [n for n, each in enumerate(thoughts) if each.kind not in ("item", "quotation")]
    found: list[int | None] = [None] * len(thoughts)
    if not shown or not len(means):
        return found
    from scipy.optimize import linear_sum_assignment  # here: slow to load

    alike = np.round(meaning([thoughts[n].text for n in shown]) @ means.T, 6)
    fits = np.where(alike >= ALIKE, alike, 0.0)
    for row, column in zip(*linear_sum_assignment(-fits), strict=True):
        if fits[row, column] > 0:
            found[shown[int(row)]] = int(column)
    return found


def next_best(
    text: str, means: Vectors, others: Sequence[int], shown: int | None, meaning: Callable[[Sequence[str]], Vectors]
) -> int | None:
    """The thing (its place in ``means``) that shows a text next best after the one that is ``shown`` now (None: the best of all), none
    of ``others``; from the last that fits one comes to the best again. None where nothing else fits."""
    if not len(means):
        return None
    alike = np.round(meaning([text])[0] @ means.T, 6)
    order = [int(n) for n in np.argsort(-alike, kind="stable") if alike[n] >= ASKED and n not in others]
    if shown is None:
        return order[0] if order else None
    rest = [n for n in order if n != shown]
    later = [n for n in rest if alike[n] <= alike[shown] and (alike[n] < alike[shown] or n > shown)]
    return next(iter(later or rest), None)


def lettering(thought: Thought) -> Lettering:
    """What a slide says where a thought has no picture: its figure, its item, its quotation, or how it begins."""
    if thought.kind == "quotation":
        return Lettering(_short(thought.text.strip('“”"„«»'), 140), "quote")
    if thought.kind == "item":
        return Lettering(_short(thought.text), "slide-book")
    figure = _FIGURE.search(thought.text)
    if figure:
        return Lettering(figure[0].strip(" ,."), "number")
    return Lettering(_short(thought.text), "slide")


def _short(text: str, most: int = _LETTERS) -> str:
    """As much of a text as is read at a glance: all of it, its first clauses, or its first words."""
    if len(text) <= most:
        return text.rstrip(" ,;:")
    parts = _CLAUSES.split(text)
    held = parts[0]
    for part in parts[1:]:
        if len(held) + 1 + len(part) > most:
            break
        held = f"{held} {part}"
    return held.rstrip(" ,;:–—") if len(held) <= most else held[:most].rsplit(" ", 1)[0].rstrip(" ,.;:") + "…"
