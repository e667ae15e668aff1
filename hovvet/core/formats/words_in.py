"""Words that a person already has: SRT and VTT cues, or a plain text."""

import re
from dataclasses import dataclass
from pathlib import PurePath

import pysubs2

from hovvet.core.errors import CoreError

LARGEST = 5_000_000  # bytes
KINDS = (".srt", ".vtt", ".txt")
_SPEAKER = re.compile(r"^([^\W\d_][\w .'-]{0,38}[\w.]):\s+(?=\S)")
_TAG = re.compile(r"<[^<>]*>")


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
    text = _decoded(data)
    said = _plain(text) if kind == ".txt" else _cues(text, kind)
    if not any(each.text for each in said):
        raise CoreError("There are no words in this file.")
    return said


def _decoded(data: bytes) -> str:
    if b"\0" in data[:4096] and not data.startswith((b"\xff\xfe", b"\xfe\xff")):
        raise CoreError("This is not a text file.")
    for encoding in ("utf-16",) if data.startswith((b"\xff\xfe", b"\xfe\xff")) else ("utf-8-sig", "cp1252"):
        try:
            return data.decode(encoding)
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
    try:
        file = pysubs2.SSAFile.from_string(text, format_=kind[1:])
    except (pysubs2.Pysubs2Error, ValueError, IndexError):
        raise CoreError("The cues of this file could not be read. Export it again as SRT or VTT.") from None
    said = []
    for event in sorted((each for each in file.events if not each.is_comment), key=lambda each: each.start):
        line = " ".join(_TAG.sub("", event.plaintext).split())
        named = _SPEAKER.match(line)
        speaker = named[1] if named else event.name
        line = line[named.end() :] if named else line
        if line and event.end > event.start:
            said.append(Said(line, speaker, event.start / 1000, event.end / 1000))
    return said
