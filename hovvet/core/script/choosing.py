"""The best take of each line of a script: nothing left out, said as written, without fillers and halts, looking at the camera."""

from collections.abc import Mapping, Sequence
from typing import Annotated, NamedTuple

from pydantic import Field

from hovvet.core.script.beside import Reading, Said
from hovvet.core.value import Value

_COSTS: dict[Said, float] = {"as written": 0.0, "otherwise": 2.0, "added": 1.0, "filler": 1.0, "left out": 3.0}
_HALT = 1.0  # for each halt
_LOOKS = 0.5  # of a reading, below which one looks away
_AWAY = 3.0  # for looking away all the time
_STARRED = -2.0  # a take with a star
_ANOTHER = 0.6  # for a join: what is read in one go sounds so
_LATER = -0.01  # for each later reading: who begins again does so for a reason


class ReadIn(Value):
    """A reading in a take. ``looks`` is how much of it one looks at the camera, 0 to 1; None where that is not known."""

    take: str
    reading: Reading
    starred: bool = False
    looks: Annotated[float, Field(ge=0, le=1)] | None = None


def cost(read: ReadIn) -> float:
    """How much there is against a reading; the less the better."""
    said = sum(_COSTS[token.said] for token in read.reading.tokens)
    away = _AWAY * (1.0 - read.looks) if read.looks is not None else 0.0
    return said + _HALT * read.reading.halts + away + (_STARRED if read.starred else 0.0)


def best(lines: int, read: Sequence[ReadIn]) -> dict[int, ReadIn]:
    """The reading to take of each line, those left out of which there is none: together they cost least, with as few joins as is
    worth it (dynamic programming over lines and readings)."""
    by_line: Mapping[int, list[ReadIn]] = {n: [each for each in read if each.reading.line == n] for n in range(lines)}
    paths: list[tuple[float, list[ReadIn]]] = [(0.0, [])]
    for n in range(lines):
        if not by_line[n]:
            continue
        paths = [
            min(
                (
                    (total + cost(each) + _LATER * place + _joined(chosen, each), [*chosen, each])
                    for total, chosen in paths
                ),
                key=lambda path: path[0],
            )
            for place, each in enumerate(by_line[n])
        ]
    _, chosen = min(paths, key=lambda path: path[0])
    return {each.reading.line: each for each in chosen}


def looks_away(read: ReadIn) -> bool:
    """Whether one looks elsewhere for most of a reading, as far as that is known."""
    return read.looks is not None and read.looks < _LOOKS


class Stretch(NamedTuple):
    """Words ``first`` to ``last`` (ids) of a take."""

    take: str
    first: int
    last: int


def in_one_go(read: Sequence[ReadIn]) -> list[Stretch]:
    """Readings one after the other as stretches of takes: lines that were read in one go are one."""
    made: list[Stretch] = []
    for n, each in enumerate(read):
        if n and _follows(read[n - 1], each) and each.reading.line == read[n - 1].reading.line + 1:
            made[-1] = made[-1]._replace(last=each.reading.last)
        else:
            made.append(Stretch(each.take, each.reading.first, each.reading.last))
    return made


def _follows(before: ReadIn, after: ReadIn) -> bool:
    """Whether both were read in one go."""
    return (before.take, before.reading.run) == (after.take, after.reading.run)


def _joined(chosen: Sequence[ReadIn], after: ReadIn) -> float:
    return 0.0 if not chosen or _follows(chosen[-1], after) else _ANOTHER
