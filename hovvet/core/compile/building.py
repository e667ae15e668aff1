"""Titles that change while they are there: lists whose lines come one after the other, numbers that count up."""

import re
from bisect import bisect_left
from collections.abc import Sequence
from itertools import pairwise

from hovvet.core.plan.model import PlanWord
from hovvet.core.words.vocabulary import bare

COUNTING = 1.2  # seconds that a number takes to get to its end
_SHARE = 0.6  # of the time that its title is there, at most
_STEPS = 24  # values that are shown on the way
_APART = 3  # frames that a line comes after the one before, at least
_LETTERS = 4  # of the words by which it is known when a line is said
_NUMBER = re.compile(r"\d[\d.,]*\d|\d")


def line_starts(lines: Sequence[str], words: Sequence[PlanWord], first: int, last: int, fps: float) -> list[int]:
    """The frames, counted from ``first``, at which the lines of a list come: each when a word of it is first said after the
    line before, those that are not said spread between. The first one is there from the beginning."""
    lines = [line for line in lines if line.strip()]
    if len(lines) < 2:
        return [0] * len(lines)
    near = words[bisect_left(words, first / fps - 1, key=_start) : bisect_left(words, last / fps + 1, key=_start)]
    heard = [(bare(word.text), round(word.start * fps) - first) for word in near]
    heard = [(word, at) for word, at in heard if 0 <= at < last - first]
    known: list[int | None] = [0]
    after = 0
    for line in lines[1:]:
        wanted = {word for text in line.split() if len(word := bare(text)) >= _LETTERS}
        found = next((at for word, at in heard if word in wanted and at > after), None)
        known.append(found)
        after = found if found is not None else after
    return _spread(known, last - first)


def _start(word: PlanWord) -> float:
    return word.start


def _spread(known: Sequence[int | None], frames: int) -> list[int]:
    """Times for all, evenly between those that are known; each after the one before while there is room."""
    told = [(n, at) for n, at in enumerate(known) if at is not None] + [(len(known), frames)]
    starts = [0] * len(known)
    for (a, begins), (b, ends) in pairwise(told):
        for n in range(a, b):
            starts[n] = begins + (ends - begins) * (n - a) // (b - a)
    for n in range(1, len(starts)):
        starts[n] = min(max(starts[n], starts[n - 1] + _APART), max(frames - 1, 0))
    return starts


def counted(text: str, frames: int, fps: float) -> list[tuple[int, str]]:
    """(frame, text) of a text while the first number in it counts up from 0, quickly at first; the text alone where there
    is none. What stands between its digits stays as it is written."""
    number = _NUMBER.search(text)
    if number is None:
        return [(0, text)]
    written = number.group()
    points = re.search(r"[.,](\d{1,2})$", written)
    digits = len(points.group(1)) if points else 0
    whole = written[: points.start()] if points else written
    between = next((each for each in whole if not each.isdigit()), "")
    end = int(re.sub(r"\D", "", whole) + (points.group(1) if points else ""))
    lasts = min(COUNTING * fps, frames * _SHARE)
    made: list[tuple[int, str]] = []
    for step in range(_STEPS + 1):
        share = step / _STEPS
        value = round(end * (1 - (1 - share) ** 3))
        said = f"{value // 10**digits:,}".replace(",", between)
        if points:
            said += f"{points.group()[0]}{value % 10**digits:0{digits}}"
        said = written if step == _STEPS else said
        at = round(lasts * share)
        if made and (made[-1][0] == at or made[-1][1] == said):
            made = [*made[:-1], (made[-1][0], said)] if made[-1][0] == at else made
        else:
            made.append((at, said))
    return [(at, text[: number.start()] + said + text[number.end() :]) for at, said in made]
