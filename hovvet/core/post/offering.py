"""What could stand in the text for a post: taken from the clip's own words, never made up."""

import re
from collections import defaultdict
from collections.abc import Callable, Sequence
from typing import NamedTuple

from hovvet.core.captions.keywords import PLAIN
from hovvet.core.engines.meaning import Vectors
from hovvet.core.passages.hooks import hooks
from hovvet.core.plan.model import PlanWord
from hovvet.core.post.post import Post
from hovvet.core.sweep.phrases import PHRASES
from hovvet.core.words.transcript import Word
from hovvet.core.words.vocabulary import bare, ends_sentence, is_filler_sound

HASHTAGS = 8  # that are offered
_BODY = 3  # sentences, at most
_BODY_LETTERS = 320
_SHORTEST_TAG = 4  # letters
_DOING = ("ed", "ing")  # what is done is seldom what it is about
_NAME, _LONG = 2.0, 0.12  # what being a name counts, and each letter


class Offered(NamedTuple):
    """First lines, a body, and hashtags, the best first."""

    first_lines: tuple[str, ...]
    body: str
    hashtags: tuple[str, ...]


def offered(words: Sequence[PlanWord], title: str, meaning: Callable[[Sequence[str]], Vectors]) -> Offered:
    """What a clip of these words, called ``title``, has to offer."""
    words = [word for word in words if word.layer is None and not is_filler_sound(word.text)]
    said = _said(words)
    whole = _sentences(said)
    strong = [each.text for each in hooks(words, meaning) if ends_sentence(each.text)]
    lines = [_line(each) for each in (*strong, *whole[:1], title) if each.strip()]
    return Offered(tuple(dict.fromkeys(lines)), _body(whole), _hashtags(said))


def _said(words: Sequence[PlanWord]) -> list[Word]:
    """The same, as words of a transcript."""
    return [
        Word(id=n + 1, text=w.text, start=w.start, end=w.end, speaker=f"S{w.voice + 1}") for n, w in enumerate(words)
    ]


def _sentences(said: Sequence[Word]) -> list[str]:
    """What is said, from stop to stop: what has none is no sentence to be written."""
    made, text = [], ""
    for word in said:
        text = f"{text} {word.text}".lstrip()
        if ends_sentence(word.text):
            made.append(text)
            text = ""
    return made


def _line(text: str) -> str:
    """A line as it is written: without what is only said to begin, and begun with a capital."""
    text = " ".join(text.split())
    begins = next((each for each in PHRASES if text.lower().startswith(f"{each}, ")), "")
    text = text[len(begins) :].lstrip(", ")
    return text[:1].upper() + text[1:]


def _body(whole: Sequence[str]) -> str:
    """The first sentences, as many as are read at a glance."""
    chosen: list[str] = []
    for text in whole[:_BODY]:
        if chosen and sum(map(len, chosen)) + len(text) > _BODY_LETTERS:
            break
        chosen.append(_line(text))
    return " ".join(chosen)


def _hashtags(said: Sequence[Word]) -> tuple[str, ...]:
    """What is spoken of most, and names, as hashtags."""
    counts: defaultdict[str, float] = defaultdict(float)
    shown: dict[str, str] = {}
    for n, word in enumerate(said):
        plain = re.sub(r"\W", "", bare(word.text).removesuffix("'s").removesuffix("’s"))
        if len(plain) < _SHORTEST_TAG or bare(word.text) in PLAIN or not plain[0].isalpha() or plain.endswith(_DOING):
            continue
        letters = re.sub(r"\W", "", word.text.removesuffix("'s"))
        begins = n == 0 or said[n - 1].text.endswith((".", "?", "!"))
        is_name = letters[:1].isupper() and not begins
        counts[plain] += 1 + (_NAME if is_name and plain not in shown else 0.0) + _LONG * len(plain)
        if is_name or plain not in shown:
            shown[plain] = letters if is_name else plain
    return tuple(f"#{shown[word]}" for word in sorted(counts, key=counts.__getitem__, reverse=True)[:HASHTAGS])


def begun(offers: Offered) -> Post:
    """A text to begin from."""
    body = offers.body
    first = next(iter(offers.first_lines), "")
    return Post(first_line=first[:300], body=body if body != first else "", hashtags=offers.hashtags[:3])
