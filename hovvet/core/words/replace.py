"""Finding words everywhere in a transcript, to read or to replace."""

import re
from collections.abc import Sequence

from pydantic import BaseModel, ConfigDict

from hovvet.core.words.corrections import Rewritten
from hovvet.core.words.transcript import Transcript, Word, plain_text
from hovvet.core.words.vocabulary import bare, edges, ends_sentence

_CONTEXT = 5  # words on each side


class Occurrence(BaseModel):
    """One place where words are found: what it reads now, what it would read, and the words around it."""

    model_config = ConfigDict(frozen=True)

    change: Rewritten
    now: str
    start: float
    before: str
    after: str


def places(words: Sequence[Word], find: str, parts: bool = False) -> list[tuple[int, int]]:
    """Where the words of ``find`` stand in a row, as (first, one past last), without regard to case and punctuation.

    With ``parts`` the first may be the end of a longer word and the last the beginning of one; a single one may stand
    anywhere in a word.
    """
    wanted = [text for text in map(bare, find.split()) if text]
    if not wanted:
        return []
    spoken = [bare(word.text) for word in words]
    found: list[tuple[int, int]] = []
    n = 0
    while n + len(wanted) <= len(spoken):
        if _stands(spoken, n, wanted, parts):
            found.append((n, n + len(wanted)))
            n += len(wanted)
        else:
            n += 1
    return found


def _stands(spoken: Sequence[str], n: int, wanted: Sequence[str], parts: bool) -> bool:
    last = n + len(wanted) - 1
    if not parts:
        return spoken[n] == wanted[0] and spoken[n : last + 1] == wanted
    if n == last:
        return wanted[0] in spoken[n]
    return (
        spoken[n].endswith(wanted[0]) and spoken[last].startswith(wanted[-1]) and spoken[n + 1 : last] == wanted[1:-1]
    )


def occurrences(transcript: Transcript, find: str, put: str, parts: bool = False) -> list[Occurrence]:
    """Every place that reads ``find`` and could read ``put``; places that read so already are left out.

    Punctuation around the words stays; at the beginning of a sentence the first letter stays a capital. With
    ``parts`` (see ``places``) what is around the part stays as well.
    """
    words = transcript.words
    made = []
    for first, end in places(words, find, parts):
        whole = [bare(word.text) for word in words[first:end]] == list(map(bare, find.split()))
        text = _fitted(words, first, end, put) if whole else _put_in(plain_text(words[first:end]), find, put)
        if text != plain_text(words[first:end]) and text.strip():
            made.append(in_context(transcript, Rewritten(words=tuple(w.id for w in words[first:end]), text=text)))
    return made


def _put_in(text: str, find: str, put: str) -> str:
    """The text with a part of it replaced, without regard to case."""
    wanted = r"\W+".join(re.escape(bare(word)) for word in find.split())
    return re.sub(wanted, lambda _: put.strip(), text, count=1, flags=re.IGNORECASE)


def in_context(transcript: Transcript, change: Rewritten) -> Occurrence:
    """A place that is to be changed, with the words around it."""
    words = transcript.words
    first = transcript.position[change.words[0]]
    end = first + len(change.words)
    return Occurrence(
        change=change,
        now=plain_text(words[first:end]),
        start=words[first].start,
        before=plain_text(words[max(first - _CONTEXT, 0) : first]),
        after=plain_text(words[end : end + _CONTEXT]),
    )


def _fitted(words: Sequence[Word], first: int, end: int, put: str) -> str:
    opening, _ = edges(words[first].text)
    _, closing = edges(words[end - 1].text)
    put = put.strip()
    if put[:1].islower() and (first == 0 or ends_sentence(words[first - 1].text)):
        put = put[:1].upper() + put[1:]
    if closing and put.endswith(closing):
        closing = ""
    return f"{opening}{put}{closing}"
