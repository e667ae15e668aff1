"""Texts to be read: TXT, MD and DOCX.

``python -m hovvet.core.script.text_in FILE`` reads one as a program of its own, under limits: they come from outside, and their
parsers are not ours. ``text_apart`` starts it.
"""

import sys
import tempfile
from collections.abc import Iterator, Sequence
from io import BytesIO
from pathlib import Path, PurePath
from zipfile import BadZipFile, ZipFile

from hovvet.core.errors import CoreError
from hovvet.core.media.process import Limits, answer_of, answering
from hovvet.core.text import clean, is_blank
from hovvet.core.words.words_in import decoded

KINDS = (".txt", ".md", ".docx")
LARGEST = 10_000_000  # bytes
_UNPACKED = 60_000_000  # bytes that a DOCX may hold
_MOST_PARTS = 2_000
_WRONG_KIND = "Scripts can be taken from TXT, MD and DOCX files."
_TOO_LARGE = f"The file is larger than {LARGEST // 1_000_000} MB, too large for a script."
_BROKEN = "This document could not be read. Save it again as DOCX, or paste its text."
_LIMITS = Limits(seconds=20, cpu=20, output=0, memory=1024**3)


def text_apart(data: bytes, name: str) -> str:
    """The text of a file of this name, a paragraph a line. Raises CoreError."""
    kind = PurePath(name).suffix.lower()
    if kind not in KINDS:
        raise CoreError(_WRONG_KIND)
    if len(data) > LARGEST:
        raise CoreError(_TOO_LARGE)
    with tempfile.TemporaryDirectory() as scratch:
        file = Path(scratch) / f"given{kind}"
        file.write_bytes(data)
        answer = answer_of("hovvet.core.script.text_in", [str(file)], _LIMITS, _BROKEN)
    return str(answer["text"])


def read_text(data: bytes, kind: str) -> str:
    """The text of a file of this kind (its ending). Raises CoreError for anything that is no such file, or holds no words."""
    readers = {".txt": decoded, ".md": _marked_down, ".docx": _document}
    text = clean(readers[kind](data)).strip()
    if is_blank(text):
        raise CoreError("There are no words in this file.")
    return text


def _marked_down(data: bytes) -> str:
    """What is read of Markdown: its text, without marks, code, pictures and the addresses of links."""
    from markdown_it import MarkdownIt

    made: list[str] = []
    for token in MarkdownIt("commonmark").parse(decoded(data)):
        if token.type == "inline":
            lines = "".join(_inline(token.children or ())).split("\n")
            made.append(" ".join(lines))
        elif token.type == "hr":
            made.append("---")
    return "\n\n".join(made)


def _inline(tokens: Sequence[object]) -> Iterator[str]:
    for token in tokens:
        kind, content = getattr(token, "type", ""), getattr(token, "content", "")
        if kind in ("text", "code_inline"):
            yield content
        elif kind in ("softbreak", "hardbreak"):
            yield "\n"


def _document(data: bytes) -> str:
    from docx import Document
    from docx.opc.exceptions import OpcError

    try:
        with ZipFile(BytesIO(data)) as parts:
            held = parts.infolist()
            if len(held) > _MOST_PARTS or sum(each.file_size for each in held) > _UNPACKED:
                raise CoreError("This document unpacks to far more than a script holds. Paste its text instead.")
        document = Document(BytesIO(data))
    except (BadZipFile, OpcError, KeyError, ValueError, SyntaxError) as error:
        raise CoreError(_BROKEN, repr(error)) from None
    return "\n\n".join(each.text for each in document.paragraphs if each.text.strip())


def main(path: str) -> int:
    """Print the text of a file as JSON, or what is wrong with it."""
    file = Path(path)
    return answering(lambda: {"text": read_text(file.read_bytes(), file.suffix)}, _BROKEN)


if __name__ == "__main__":
    sys.exit(main(sys.argv[1]))
