"""Invented talks, marked by hand, as a recogniser would have heard them."""

import random
import re
from dataclasses import dataclass
from pathlib import Path

from hovvet.core.words.transcript import Transcript, Word

TALKS = Path(__file__).parents[1] / "bench" / "talks"
_LETTER, _WORD, _COMMA, _STOP, _TURN = 0.055, 0.1, 0.14, 0.42, 0.7  # seconds
_WRONG = 0.05  # of the words of a damaged transcript
_OTHER = ("the", "there", "seven", "mind", "a", "what", "ore", "hear", "than", "wood")


@dataclass(frozen=True)
class Talk:
    """The words of a talk, and which of them (positions, first and last) are a passage, and are never to be one."""

    name: str
    transcript: Transcript
    passages: tuple[tuple[int, int], ...]
    never: tuple[tuple[int, int], ...]


def marked_talks(damaged: bool = False) -> list[Talk]:
    """All of them. ``damaged``: one word in twenty is another one, and most full stops are lost."""
    return [_read(file, damaged) for file in sorted(TALKS.glob("*.txt"))]


def _read(file: Path, damaged: bool) -> Talk:
    chance = random.Random(file.stem)
    speakers: dict[str, str] = {}
    words: list[Word] = []
    marks: dict[str, list[tuple[int, int]]] = {"passage": [], "never": []}
    mark, begins, at = "", 0, 0.5
    for line in file.read_text().splitlines():
        if line.startswith("=== "):
            kind = line.removeprefix("=== ").strip()
            if kind == "end":
                marks[mark].append((begins, len(words) - 1))
            else:
                mark, begins = kind, len(words)
            continue
        if not line.strip() or line.startswith("#"):
            continue
        name, said = line.split(":", 1)
        speaker = speakers.setdefault(name, f"S{len(speakers) + 1}")
        for text in said.split():
            lasts = _WORD + _LETTER * len(text)
            heard = _damaged(text, chance) if damaged else text
            words.append(
                Word(id=len(words) + 1, text=heard, start=round(at, 3), end=round(at + lasts, 3), speaker=speaker)
            )
            at += lasts + (_STOP if text[-1] in ".?!" else _COMMA if text[-1] == "," else 0.02) * chance.uniform(
                0.7, 1.3
            )
        at += _TURN
    return Talk(file.stem, Transcript(duration=at, words=tuple(words)), tuple(marks["passage"]), tuple(marks["never"]))


def _damaged(text: str, chance: random.Random) -> str:
    if chance.random() < _WRONG:
        return chance.choice(_OTHER)
    if text[-1] in ".?!" and chance.random() < 0.7:
        return re.sub(r"[.?!]+$", "", text)
    return text
