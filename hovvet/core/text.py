"""Texts from outside, cleaned of what cannot be seen but does something: one way for all of them."""

import re
import unicodedata
from typing import Annotated, Any

from pydantic import AfterValidator

# All control characters but newline; halves of a pair of surrogates; what is no character at all.
_NEVER = re.compile("[\x00-\x09\x0b-\x1f\x7f-\x9f\ud800-\udfff\ufffe\uffff]")
_LINES = re.compile("\r\n?|[\u2028\u2029\x85\x0b\x0c]")
_OPENS = {"\u202a": "\u202c", "\u202b": "\u202c", "\u202d": "\u202c", "\u202e": "\u202c"} | dict.fromkeys(
    "\u2066\u2067\u2068", "\u2069"
)  # bidirectional marks (Unicode Annex 9), and what closes each
_CLOSES = frozenset(_OPENS.values())
_TURNS = frozenset("\u200e\u200f\u061c")
_INVISIBLE = frozenset("\u200b\u200c\u200d\u2060\ufeff\u00ad\u034f\u061c\u115f\u1160\u17b4\u17b5\u3164\uffa0")


def clean(text: str) -> str:
    """A text with no control characters but newline (a tab becomes a space), no lone surrogates, and every bidirectional
    mark that it opens closed on its own line, so that nothing after it is turned round."""
    text = _LINES.sub("\n", text).replace("\t", " ")
    text = _NEVER.sub("", text)
    if text.isascii() or not (_CLOSES.intersection(text) or any(mark in text for mark in _OPENS)):
        return text
    return "\n".join(_closed(line) for line in text.split("\n"))


def _closed(line: str) -> str:
    waiting: list[str] = []
    kept = []
    for each in line:
        if each in _OPENS:
            waiting.append(_OPENS[each])
        elif each in _CLOSES:
            if not waiting or waiting[-1] != each:
                continue  # closes nothing
            waiting.pop()
        kept.append(each)
    return "".join((*kept, *reversed(waiting)))


def clean_all(value: Any) -> Any:
    """A value of JSON with all its texts cleaned, the names of fields included."""
    if isinstance(value, str):
        return clean(value)
    if isinstance(value, list):
        return [clean_all(each) for each in value]
    if isinstance(value, dict):
        return {clean(key): clean_all(each) for key, each in value.items()}
    return value


def is_blank(text: str) -> bool:
    """Whether there is nothing in it to be seen."""
    return all(each.isspace() or each in _INVISIBLE or unicodedata.category(each) == "Cf" for each in text)


def _said(text: str) -> str:
    if is_blank(text):
        raise ValueError("there has to be something to read in it")
    return text


SomeText = Annotated[str, AfterValidator(_said)]  # a text in which there is something to be seen


def without_direction(text: str) -> str:
    """A text without the marks that turn it round."""
    return "".join(each for each in text if each not in _OPENS and each not in _CLOSES and each not in _TURNS)
