"""Telling filler sounds from words by their spelling."""

import re

# What recognisers write for the sounds people make while they think.
FILLER_SOUNDS = frozenset(
    "um umm ummm uhm uh uhh uhhh er err erm ah ahh eh hm hmm hmmm mm mmm mhm uhum huh oh-uh".split()
)
_EDGE = re.compile(r"^[^\w]+|[^\w]+$")


def bare(text: str) -> str:
    """The word without case and surrounding punctuation: ``"Um,"`` gives ``"um"``."""
    return _EDGE.sub("", text).lower().replace("’", "'")


def is_filler_sound(text: str) -> bool:
    """Whether a recognised word is a filler sound such as "um"."""
    return bare(text) in FILLER_SOUNDS


def ends_sentence(text: str) -> bool:
    """Whether a sentence ends with this word."""
    return text.rstrip("\"'”’)").endswith((".", "!", "?", "…"))


def ends_phrase(text: str) -> bool:
    """Whether a phrase ends with this word: at any punctuation."""
    return ends_sentence(text) or text.rstrip("\"'”’)").endswith((",", ";", ":", "–", "—"))
