"""The languages that a show can be in."""

from collections import Counter
from collections.abc import Iterable

from hovvet.core.spans import Span
from hovvet.core.words.vocabulary import ENGLISH

LANGUAGES = {
    "en": "English", "de": "German", "es": "Spanish", "fr": "French", "it": "Italian", "nl": "Dutch", "pl": "Polish",
    "pt": "Portuguese", "sv": "Swedish", "uk": "Ukrainian",
}  # fmt: skip


_LIKELY = 0.8  # from which on another language than the one set is worth telling
_TOLD = 2  # tries that have to agree
_TASTE = 25.0  # seconds of a part that tells of the language, at most
_WHERE = (0.2, 0.5, 0.8)  # of a recording such parts are


def tastes(total: float) -> list[Span]:
    """The parts of a recording of ``total`` seconds that are asked for their language, in seconds."""
    length = min(_TASTE, total / 3)  # of a short one no part is asked twice
    return [(start, start + length) for start in ((total - length) * where for where in _WHERE)]


def another_language(taken_for: Iterable[tuple[str, float] | None], language: str) -> str:
    """The language that a recording sounds like where it is another than the one set; "" where that is not clear.

    ``taken_for`` is what a recogniser takes several parts of it for. It errs, so a person is asked.
    """
    sure = Counter(each[0] for each in taken_for if each and each[1] >= _LIKELY and each[0] in LANGUAGES)
    (likely, count), *_ = [*sure.most_common(1), ("", 0)]
    return likely if count >= _TOLD and likely != language else ""


def limits_of(language: str) -> str:
    """What a person should know of words in a language; "" for English."""
    if language == ENGLISH:
        return ""
    return (
        f"Its words are in {LANGUAGES.get(language, language)}: their times are less exact than in English, filler sounds "
        "are found where they were written down, and abandoned beginnings and passages are not looked for."
    )
