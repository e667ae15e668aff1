"""A text in blocks (headings, paragraphs, list items, quotations), and its sentences.

Texts are kept with light marks: ``# `` before a heading, ``- `` before an item, ``> `` before a quotation.
"""

import re
from collections.abc import Iterator
from typing import Annotated, Literal
from urllib.parse import urlsplit

from pydantic import Field

from hovvet.core.draft.speakable import said
from hovvet.core.errors import CoreError
from hovvet.core.text import clean, is_blank
from hovvet.core.value import Value
from hovvet.core.words.spoken_text import sentences

BlockKind = Literal["heading", "text", "item", "quotation"]
LONGEST_SENTENCE = 400  # letters: as much as a voice says at once
MOST_WORDS, MOST_LETTERS = 6_000, 60_000  # of a text
MOST_SENTENCES = 600
_MARKS: tuple[tuple[BlockKind, re.Pattern[str]], ...] = (
    ("heading", re.compile(r"#{1,6}\s+")),
    ("quotation", re.compile(r">\s?")),
    ("item", re.compile(r"(?:[-*•–]|\d{1,3}[.)])\s+")),
)
_UNDERLINE = re.compile(r"^(=+|-{3,})$")
_FENCE = re.compile(r"^(```|~~~)")
_TABLE = re.compile(r"^\s*\|.*\|\s*$")
_ENDS = (".", "!", "?", "…", ":", ";", '"', "”", "’", ")")
_HEADING_WORDS = 12  # what has more is no heading, unless it is marked as one
_QUOTED = re.compile(r"^[“\"„«].{12,}[”\"“»][.!?]?$")
_LINK = re.compile(r"https?://[\w.-]+(?::\d+)?(?:[/?#][^\s<>()\"']*)?(?<![.,;:!?])")


class Block(Value):
    """A part of a text; items of one list follow one another."""

    kind: BlockKind
    text: str


class Sentence(Value):
    """What is said in one go. ``part`` is the block that it is from."""

    text: Annotated[str, Field(max_length=2_000)]
    """As it is written."""
    said: Annotated[str, Field(max_length=2_000)]
    """As it is said."""
    kind: BlockKind = "text"
    part: int = 0
    kept: bool = True
    """Whether it is in the clip."""


def blocks_of(text: str) -> list[Block]:
    """The blocks of a text, in order; code and tables are left out."""
    made: list[Block] = []
    for lines in _paragraphs(clean(text)):
        made += _blocks(lines)
    return [_seen(block, n, made) for n, block in enumerate(made)]


def sentences_of(text: str) -> tuple[Sentence, ...]:
    """All the sentences of a text, kept, each as it is written and as it is said. Raises CoreError for a text in which there is
    nothing, or too much."""
    count = len(text.split())
    if is_blank(text):
        raise CoreError("There are no words in this text. Paste an article or a script, or bring a file.")
    if count > MOST_WORDS or len(text) > MOST_LETTERS:
        raise CoreError(
            f"This text has {count:,} words. The most Hovvet takes at once is {MOST_WORDS:,}: take the part that the clip is about."
        )
    made: list[Sentence] = []
    for n, block in enumerate(blocks_of(text)):
        for written in _whole(block.text):
            spoken = _stopped(said(written))
            if any(each.isalnum() for each in spoken):
                made.append(Sentence(text=written, said=spoken[:LONGEST_SENTENCE], kind=block.kind, part=n))
    if not made:
        raise CoreError("There is nothing in this text that can be said: it is all code, tables or signs.")
    return tuple(made[:MOST_SENTENCES])


def title_of(text: str, most: int = 90) -> str:
    """What a text is called: its first heading, or how its first sentence begins."""
    blocks = blocks_of(text)
    heading = next((each.text for each in blocks if each.kind == "heading"), "")
    first = heading or next(iter(sentences(blocks[0].text, LONGEST_SENTENCE)), "") if blocks else ""
    return first if len(first) <= most else first[:most].rsplit(" ", 1)[0].rstrip(" ,.;:") + "…"


def link_of(text: str) -> str:
    """The first link in a text; "" where there is none."""
    found = _LINK.search(text)
    return found[0] if found else ""


def host_of(link: str) -> str:
    """Where a link leads, as it stands on a card: "bench.example"; "" for none."""
    return (urlsplit(link).hostname or "").removeprefix("www.")


def _paragraphs(text: str) -> Iterator[list[str]]:
    lines: list[str] = []
    fenced = False
    for line in [*text.split("\n"), ""]:
        if _FENCE.match(line):
            fenced = not fenced
            continue
        if fenced or _TABLE.match(line):
            continue
        if line.strip():
            lines.append(line.strip())
        elif lines:
            yield lines
            lines = []


def _blocks(lines: list[str]) -> Iterator[Block]:
    """Those of lines with no empty one among them: a line that ends within a sentence goes on in the next."""
    held: list[Block] = []
    for line in lines:
        if _UNDERLINE.match(line):
            if held:
                held[-1] = Block(kind="heading", text=held[-1].text)
            continue
        kind, text = _marked(line)
        goes_on = held and kind == "text" and not held[-1].text.endswith(_ENDS) and held[-1].kind != "heading"
        same_quotation = held and kind == held[-1].kind == "quotation"
        if held and (goes_on or same_quotation):
            held[-1] = Block(kind=held[-1].kind, text=f"{held[-1].text} {text}")
        elif text:
            held.append(Block(kind=kind, text=text))
    yield from held


def _marked(line: str) -> tuple[BlockKind, str]:
    for kind, mark in _MARKS:
        if found := mark.match(line):
            return kind, line[found.end() :].strip().rstrip("#").strip()
    return "text", line


def _seen(block: Block, n: int, among: list[Block]) -> Block:
    """The same as what it reads like, where it is not marked."""
    if block.kind != "text":
        return block
    if _QUOTED.match(block.text):
        return Block(kind="quotation", text=block.text)
    followed = n + 1 < len(among) and among[n + 1].kind in ("text", "item", "quotation")
    short = len(block.text.split()) <= _HEADING_WORDS and not block.text.endswith((*_ENDS, ","))
    return Block(kind="heading", text=block.text) if short and followed and not block.text[:1].islower() else block


def _whole(text: str) -> list[str]:
    """The sentences of a block; one that goes on in small letters after a full stop was not over."""
    made: list[str] = []
    for each in sentences(text, 2 * LONGEST_SENTENCE):
        if made and each[:1].islower() and made[-1].endswith("."):
            made[-1] = f"{made[-1]} {each}"
        else:
            made.append(each)
    return [
        part
        for each in made
        for part in ([each] if len(each) <= LONGEST_SENTENCE else sentences(each, LONGEST_SENTENCE))
    ]


def _stopped(text: str) -> str:
    """A sentence with a full stop, where it has none: a voice does not know otherwise that it is over."""
    text = text.rstrip(" ,;:")
    text = text[:1].upper() + text[1:]
    return text if not text or text.endswith((".", "!", "?", "…", ".”", '."', "!”", "?”")) else f"{text}."
