"""Telling filler sounds from words by their spelling."""

import re
from functools import lru_cache

ENGLISH = "en"
# What recognisers write for the sounds people make while they think, by language; the usual one first. What is a word of the
# language is not here: "um" and "er" are words of German, "um" and "é" of Portuguese.
_FILLERS = {
    "en": "um umm ummm uhm uh uhh uhhh er err erm ah ahh eh hm hmm hmmm mm mmm mhm uhum huh oh-uh",
    "de": "ähm äh ähh öh öhm ehm hm hmm mhm mm mmm",
    "es": "eh ehh em ehm mm mmm hm hmm",
    "fr": "euh heu euhh hum mm mmm hm hmm",
    "it": "ehm eh ehmm uhm mm mmm hm hmm",
    "nl": "uhm uh ehm eh hm hmm mm mmm",
    "pl": "yyy eee mmm mm hm hmm",
    "pt": "hum ãh hã ahn hm hmm mm mmm",
    "sv": "öh öhm eh ehm äh hm hmm mm mmm",
    "uk": "еее ммм мм гм хм",
}
_EDGE = re.compile(r"^[^\w]+|[^\w]+$")


@lru_cache(maxsize=50_000)
def bare(text: str) -> str:
    """The word without case and surrounding punctuation: ``"Um,"`` gives ``"um"``."""
    return _EDGE.sub("", text).lower().replace("’", "'")


def edges(text: str) -> tuple[str, str]:
    """The punctuation before and after a word: ``"(Um,"`` gives ``("(", ",")``."""
    inner = _EDGE.sub("", text)
    opening, _, closing = text.partition(inner) if inner else ("", "", "")
    return opening, closing


def without_ending(text: str) -> str:
    """A word without the punctuation after it: ``"Um,"`` gives ``"Um"``."""
    return text.rstrip(".,;:!?…")


@lru_cache
def filler_sounds(language: str = ENGLISH) -> frozenset[str]:
    """What is written for filler sounds in a language (ISO 639-1); none where that is not known."""
    return frozenset(_FILLERS.get(language, "").split())


def usual_filler(language: str = ENGLISH) -> str:
    """What is written for a filler sound that nobody wrote down."""
    return _FILLERS.get(language, _FILLERS[ENGLISH]).split()[0]


def is_filler_sound(text: str, language: str = ENGLISH) -> bool:
    """Whether a recognised word is a filler sound such as "um"."""
    return bare(text) in filler_sounds(language)


@lru_cache(maxsize=50_000)
def ends_sentence(text: str) -> bool:
    """Whether a sentence ends with this word."""
    return text.rstrip("\"'”’)").endswith((".", "!", "?", "…"))


@lru_cache(maxsize=50_000)
def ends_phrase(text: str) -> bool:
    """Whether a phrase ends with this word: at any punctuation."""
    return ends_sentence(text) or text.rstrip("\"'”’)").endswith((",", ";", ":", "–", "—"))


# Small words that lean on what follows: a line should not end with one.
_LEANING = frozenset(
    (
        "a an the and but or so of to in on at by for from with as is are was were be if my your his her our "
        "their its i we you they he she it that this not no"
    ).split()
)


def leans(text: str) -> bool:
    """Whether a word leans on what follows it."""
    return text.lower() in _LEANING
