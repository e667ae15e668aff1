"""Texts from files: TXT, MD, DOCX and HTML, to be read, or (``marked``) with light marks for what is a heading (``# ``), an item
(``- ``) or a quotation (``> ``).

``python -m hovvet.core.script.text_in FILE`` reads one as a program of its own, under limits: they come from outside, and their
parsers are not ours. ``text_apart`` starts it.
"""

import sys
import tempfile
from collections.abc import Iterator, Sequence
from io import BytesIO
from pathlib import Path, PurePath
from typing import Any
from zipfile import BadZipFile, ZipFile

from hovvet.core.errors import CoreError
from hovvet.core.media.process import Limits, answer_of, answering
from hovvet.core.text import clean, is_blank
from hovvet.core.words.words_in import decoded

KINDS = (".txt", ".md", ".docx", ".html", ".htm")
LARGEST = 10_000_000  # bytes
_UNPACKED = 60_000_000  # bytes that a DOCX may hold
_MOST_PARTS = 2_000
_WRONG_KIND = "Texts can be taken from TXT, MD, DOCX and HTML files."
_TOO_LARGE = f"The file is larger than {LARGEST // 1_000_000} MB, too large for a text."
_BROKEN = "This document could not be read. Save it again, or paste its text."
_MARKS = {"heading": "# ", "item": "- ", "quotation": "> ", "text": ""}
_KINDS_OF = {"li": "item", "blockquote": "quotation"} | {f"h{n}": "heading" for n in range(1, 7)}
_INLINE = frozenset(
    "a abbr b bdi bdo cite code data del dfn em i ins kbd label mark q s samp small span strong sub sup time u var wbr font".split()
)
_NOT_READ = frozenset(
    (
        "script",
        "style",
        "noscript",
        "template",
        "nav",
        "header",
        "footer",
        "aside",
        "form",
        "button",
        "svg",
        "iframe",
        "table",
        "pre",
        "head",
    )
)
_DEEPEST = 200  # elements within one another
Part = tuple[str, str]  # what it is (a key of _MARKS), and its text
_LIMITS = Limits(seconds=20, cpu=20, output=0, memory=1024**3)


def text_apart(data: bytes, name: str, marked: bool = False) -> str:
    """The text of a file of this name, a paragraph a line. Raises CoreError."""
    kind = PurePath(name).suffix.lower()
    if kind not in KINDS:
        raise CoreError(_WRONG_KIND)
    if len(data) > LARGEST:
        raise CoreError(_TOO_LARGE)
    with tempfile.TemporaryDirectory() as scratch:
        file = Path(scratch) / f"given{kind}"
        file.write_bytes(data)
        arguments = [str(file), *(["marked"] if marked else [])]
        answer = answer_of("hovvet.core.script.text_in", arguments, _LIMITS, _BROKEN)
    return str(answer["text"])


def read_text(data: bytes, kind: str, marked: bool = False) -> str:
    """The text of a file of this kind (its ending). Raises CoreError for anything that is no such file, or holds no words."""
    readers = {".md": _marked_down, ".docx": _document, ".html": _page, ".htm": _page}
    if kind == ".txt":
        text = decoded(data)
    else:
        parts = [(what, " ".join(part.split())) for what, part in readers[kind](data)]
        text = "\n\n".join(f"{_MARKS[what] if marked else ''}{part}" for what, part in parts if part)
    text = clean(text).strip()
    if is_blank(text):
        raise CoreError("There are no words in this file.")
    return text


def _marked_down(data: bytes) -> Iterator[Part]:
    """What is read of Markdown: its text, without marks, code, pictures and the addresses of links."""
    from markdown_it import MarkdownIt

    within: list[str] = []
    for token in MarkdownIt("commonmark").parse(decoded(data)):
        if token.nesting:
            what = {"heading": "heading", "list_item": "item", "blockquote": "quotation"}.get(
                token.type.rsplit("_", 1)[0]
            )
            if what and token.nesting > 0:
                within.append(what)
            elif what:
                within.pop()
        elif token.type == "inline":
            yield within[-1] if within else "text", "".join(_inline(token.children or ()))
        elif token.type == "hr":
            yield "text", "---"


def _inline(tokens: Sequence[object]) -> Iterator[str]:
    for token in tokens:
        kind, content = getattr(token, "type", ""), getattr(token, "content", "")
        if kind in ("text", "code_inline"):
            yield content
        elif kind in ("softbreak", "hardbreak"):
            yield "\n"


def _page(data: bytes) -> Iterator[Part]:
    """What is read of a page: of its article where it has one; nothing that runs, leads elsewhere or is filled in."""
    from lxml import etree, html  # type: ignore[import-untyped]

    try:
        root = html.document_fromstring(
            data, parser=html.HTMLParser(encoding=_encoding(data), no_network=True, huge_tree=False)
        )
    except (etree.LxmlError, ValueError) as error:
        raise CoreError(_BROKEN, repr(error)) from None
    start = next((found[0] for name in ("article", "main", "body") if (found := root.findall(f".//{name}"))), root)
    held: list[str] = []
    yield from _read_of(start, "text", held)
    yield "text", "".join(held)


def _encoding(data: bytes) -> str:
    """As it is written in the page, or as it reads."""
    head = data[:2_000].lower()
    if b"charset=" in head and b"utf-8" not in head:
        return (
            head.split(b"charset=", 1)[1]
            .lstrip(b"\"' ")
            .split(b'"')[0]
            .split(b"'")[0]
            .split(b">")[0]
            .decode("ascii", "ignore")
            .strip(" ;/")
            or "utf-8"
        )
    return "utf-8"


def _read_of(element: Any, what: str, held: list[str], depth: int = 0) -> Iterator[Part]:
    """The parts of an element; ``held`` is the text that is still to be told, of a part of this kind."""
    if depth > _DEEPEST:
        raise CoreError(_BROKEN, "elements within one another too deep")
    held.append(element.text or "")
    for child in element:
        name = child.tag if isinstance(child.tag, str) else ""
        if name in _INLINE:
            yield from _read_of(child, what, held, depth + 1)
        elif name and name not in _NOT_READ:
            yield what, "".join(held)
            held.clear()
            yield from _read_of(child, _KINDS_OF.get(name, what), held, depth + 1)
            yield _KINDS_OF.get(name, what), "".join(held)
            held.clear()
        held.append(child.tail or "")


def _document(data: bytes) -> Iterator[Part]:
    from docx import Document
    from docx.opc.exceptions import OpcError

    try:
        with ZipFile(BytesIO(data)) as parts:
            held = parts.infolist()
            if len(held) > _MOST_PARTS or sum(each.file_size for each in held) > _UNPACKED:
                raise CoreError("This document unpacks to far more than a text holds. Paste its text instead.")
        document = Document(BytesIO(data))
    except (BadZipFile, OpcError, KeyError, ValueError, SyntaxError) as error:
        raise CoreError(_BROKEN, repr(error)) from None
    for each in document.paragraphs:
        style = (each.style.name or "") if each.style else ""
        named = {"Heading": "heading", "Title": "heading", "List": "item", "Quote": "quotation", "Intense": "quotation"}
        yield next((what for begins, what in named.items() if style.startswith(begins)), "text"), each.text


def main(path: str, *how: str) -> int:
    """Print the text of a file as JSON, or what is wrong with it."""
    file = Path(path)
    return answering(lambda: {"text": read_text(file.read_bytes(), file.suffix, "marked" in how)}, _BROKEN)


if __name__ == "__main__":
    sys.exit(main(*sys.argv[1:]))
