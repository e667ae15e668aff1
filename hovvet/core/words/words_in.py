"""Words that a person already has: SRT and VTT cues, or a plain text.

``python -m hovvet.core.words.words_in FILE`` reads one as a program of its own (see ``words_apart``).
"""

import json
import re
import sys
from dataclasses import asdict, dataclass
from pathlib import Path, PurePath

import pysubs2

from hovvet.core.errors import CoreError
from hovvet.core.text import clean

LARGEST = 5_000_000  # bytes
_MOST_CUES = 50_000
_MOST_WORDS = 200_000
_LONGEST_LINE = 5_000  # characters of a line in a file of cues
KINDS = (".srt", ".vtt", ".txt")
_SPEAKER = re.compile(r"^([^\W\d_][\w .'-]{0,38}[\w.]):\s+(?=\S)")
_TAG = re.compile(r"<[^<>]*>")
_OVERRIDE = re.compile(r"\{\\[^{}\n]{0,200}\}")
_ROUND = str.maketrans("{}", "()")  # pysubs2 takes quadratic time over braces that are never closed


@dataclass(frozen=True)
class Said:
    """Words said by ``speaker`` ("" when not told), in seconds of the recording where the file tells."""

    text: str
    speaker: str = ""
    start: float | None = None
    end: float | None = None


def read_words(data: bytes, name: str) -> list[Said]:
    """What a words file says, in order. Raises CoreError for anything that is no such file, or holds no words."""
    kind = PurePath(name).suffix.lower()
    if kind not in KINDS:
        raise CoreError("Words can be taken from SRT, VTT and TXT files.")
    if len(data) > LARGEST:
        raise CoreError(f"The file is larger than {LARGEST // 1_000_000} MB, too large for a transcript.")
    text = decoded(data)
    said = _plain(text) if kind == ".txt" else _cues(text, kind)
    count = sum(len(each.text.split()) for each in said)
    if count == 0:
        raise CoreError("There are no words in this file.")
    if count > _MOST_WORDS:
        raise CoreError(f"There are {count:,} words in this file. The most Hovvet takes is {_MOST_WORDS:,}.")
    return said


def decoded(data: bytes) -> str:
    """The text of a file, cleaned. Raises CoreError for what is none."""
    if b"\0" in data[:4096] and not data.startswith((b"\xff\xfe", b"\xfe\xff")):
        raise CoreError("This is not a text file.")
    for encoding in ("utf-16",) if data.startswith((b"\xff\xfe", b"\xfe\xff")) else ("utf-8-sig", "cp1252"):
        try:
            return clean(data.decode(encoding))
        except UnicodeDecodeError:
            continue
    raise CoreError("The letters of this file could not be read. Save it as UTF-8.")


def _plain(text: str) -> list[Said]:
    said = []
    speaker = ""
    for line in text.splitlines():
        line = line.strip()
        if named := _SPEAKER.match(line):
            speaker, line = named[1], line[named.end() :]
        if line:
            said.append(Said(line, speaker))
    return said


def _cues(text: str, kind: str) -> list[Said]:
    if any(len(line) > _LONGEST_LINE for line in text.splitlines()):
        raise CoreError("A line of this file is far too long for a subtitle. Export it again as SRT or VTT.")
    text = _OVERRIDE.sub("", text).translate(_ROUND)
    try:
        file = pysubs2.SSAFile.from_string(text, format_=kind[1:])
    except (pysubs2.Pysubs2Error, ValueError, IndexError):
        raise CoreError("The cues of this file could not be read. Export it again as SRT or VTT.") from None
    if len(file.events) > _MOST_CUES:
        raise CoreError(f"There are {len(file.events):,} cues in this file. The most Hovvet takes is {_MOST_CUES:,}.")
    said = []
    for event in sorted((each for each in file.events if not each.is_comment), key=lambda each: each.start):
        line = " ".join(_TAG.sub("", event.plaintext).split())
        named = _SPEAKER.match(line)
        speaker = named[1] if named else event.name
        line = line[named.end() :] if named else line
        if line and event.end > event.start:
            said.append(Said(line, speaker, event.start / 1000, event.end / 1000))
    return said


def main(path: str) -> None:
    """Print what a words file says as JSON, or what is wrong with it."""
    file = Path(path)
    try:
        answer: dict[str, object] = {"said": [asdict(each) for each in read_words(file.read_bytes(), file.name)]}
    except CoreError as error:
        answer = {"wrong": str(error)}
    json.dump(answer, sys.stdout)


if __name__ == "__main__":
    main(sys.argv[1])
