"""Telling filler sounds from words by their spelling."""

import re
from functools import lru_cache

# What recognisers write for the sounds people make while they think.
FILLER_SOUNDS = frozenset(
    "um umm ummm uhm uh uhh uhhh er err erm ah ahh eh hm hmm hmmm mm mmm mhm uhum huh oh-uh "
    "äh ähm öh öhm ehm euh heu".split()
)
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


def is_filler_sound(text: str) -> bool:
    """Whether a recognised word is a filler sound such as "um"."""
    return bare(text) in FILLER_SOUNDS


@lru_cache(maxsize=50_000)
def ends_sentence(text: str) -> bool:
    """Whether a sentence ends with this word."""
    return text.rstrip("\"'”’)").endswith((".", "!", "?", "…"))


@lru_cache(maxsize=50_000)
def ends_phrase(text: str) -> bool:
    """Whether a phrase ends with this word: at any punctuation."""
    return ends_sentence(text) or text.rstrip("\"'”’)").endswith((",", ";", ":", "–", "—"))
