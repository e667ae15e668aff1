"""What each sentence is like: what it weighs as a beginning, an end, inside a passage and after one."""

import math
from collections import Counter
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from functools import lru_cache

import numpy as np
import snowballstemmer
from numpy.typing import NDArray

from hovvet.core.engines.meaning import Vectors
from hovvet.core.passages.rules import CLOSINGS, HOOKS, signs_of
from hovvet.core.passages.sentences import Sentence

Weights = dict[str, float]
# What the signs of a sentence weigh where a passage begins with it, ends with it, holds it, and where it comes after.
BEGINS: Weights = {
    "question": 1.0, "story": 0.9, "claim": 0.8, "number": 0.4, "contrast": 0.4, "emotion": 0.4, "commands": 0.4,
    "absolute": 0.3, "unresolved": -1.8, "answers": -1.5, "points back": -1.2, "goes on": -0.8, "housekeeping": -2.0,
    "slide": -2.0, "half thought": -1.0, "chat": -0.6,
}  # fmt: skip
ENDS: Weights = {
    "absolute": 0.4, "contrast": 0.3, "claim": 0.2, "question": -1.0, "dangling": -1.5, "half thought": -1.2,
    "housekeeping": -2.0, "slide": -1.0, "chat": -0.6,
}  # fmt: skip
HOLDS: Weights = {
    "story": 0.4, "number": 0.3, "claim": 0.3, "contrast": 0.3, "emotion": 0.2, "housekeeping": -2.5, "slide": -2.0,
    "half thought": -1.0, "chat": -0.8,
}  # fmt: skip
FOLLOWS: Weights = {"reaction": 0.6, "opens a subject": 0.5, "housekeeping": 0.4, "answers": 0.2}
_SHORT_AFTER = 0.2  # for a sentence of a few words that comes after
_FEW, _ENOUGH = 3, 6  # words: a beginning of so few holds nothing; a question that opens has so many
_TOO_SHORT = -1.2
_DEPTH, _DEPTH_AFTER, _PAUSE, _PAUSE_AFTER = 0.6, 0.6, 0.25, 0.3
_HOOK, _CLOSING, _RARITY = 1.2, 0.8, 1.0
_LONG_PAUSE = 2.0  # seconds: a longer one counts no more
_BLOCK = 4  # sentences on each side of a place that are compared, to see whether the subject changes there
_ALIKE = (0.15, 0.55)  # likeness to prototypes that counts nothing, and that counts in full


@dataclass(frozen=True)
class Features:
    """Of n sentences: what each weighs (shape (n,)); their meanings (n, SIZE); ``depth`` is how much the subject changes
    before each, from 0 to 1; their ``signs``, and the ``stems`` of what they are about."""

    sentences: Sequence[Sentence]
    means: Vectors
    signs: Sequence[frozenset[str]]
    stems: Sequence[frozenset[str]]
    begins: NDArray[np.float64]
    ends: NDArray[np.float64]
    holds: NDArray[np.float64]
    follows: NDArray[np.float64]
    depth: NDArray[np.float64]


def features(
    sentences: Sequence[Sentence], meaning: Callable[[Sequence[str]], Vectors], leanings: Mapping[str, float]
) -> Features:
    """Look at sentences. ``meaning`` gives what texts mean, each of length 1; ``leanings`` are added to what signs weigh
    that a passage begins with."""
    opens = {sign: weight + leanings.get(sign, 0.0) for sign, weight in BEGINS.items()}
    means = meaning([each.text for each in sentences])
    signs = [signs_of(each.text) for each in sentences]
    stems = [frozenset(stem(word) for word in each.content) for each in sentences]
    depth = _depths(means)
    after = np.append(depth[1:], 1.0)
    hooks, closings = (_likeness(means, meaning(texts)) for texts in (HOOKS, CLOSINGS))
    rarity = _rarity(stems)
    before_pause = np.array([min(each.before, _LONG_PAUSE) for each in sentences])
    after_pause = np.array([min(each.after, _LONG_PAUSE) for each in sentences])
    begins = _weighed(signs, opens) + _HOOK * hooks + _DEPTH * depth + _PAUSE * before_pause
    begins += [_TOO_SHORT if len(each.words) <= _FEW else 0.0 for each in sentences]
    begins -= [
        opens["question"] if "question" in own and len(each.words) < _ENOUGH else 0.0
        for own, each in zip(signs, sentences, strict=True)
    ]
    ends = _weighed(signs, ENDS) + _CLOSING * closings + _DEPTH_AFTER * after + _PAUSE_AFTER * after_pause
    follows = _weighed(signs, FOLLOWS) + [_SHORT_AFTER if len(each.words) <= _FEW else 0.0 for each in sentences]
    return Features(
        sentences, means, signs, stems, begins, ends, _weighed(signs, HOLDS) + _RARITY * rarity, follows, depth
    )


_STEMMER = snowballstemmer.stemmer("english")


@lru_cache(maxsize=50_000)
def stem(word: str) -> str:
    """A word without its ending (Porter, "Snowball", 2001)."""
    made: str = _STEMMER.stemWord(word)
    return made


def _weighed(signs: Sequence[frozenset[str]], weights: Weights) -> NDArray[np.float64]:
    return np.array([sum(weights.get(sign, 0.0) for sign in own) for own in signs], np.float64)


def _likeness(means: Vectors, prototypes: Vectors) -> NDArray[np.float64]:
    """How near each sentence is to the nearest prototype, from 0 to 1."""
    least, most = _ALIKE
    nearest: NDArray[np.float64] = (means @ prototypes.T).max(axis=1).astype(np.float64)
    return np.clip((nearest - least) / (most - least), 0, 1)


def _depths(means: Vectors) -> NDArray[np.float64]:
    """How much the subject changes before each sentence, from 0 to 1: how much less alike what is before and after it is
    than at the peaks on both sides (Hearst, TextTiling, Computational Linguistics 1997)."""
    n = len(means)
    if n < 2:
        return np.ones(n)
    total = np.concatenate([np.zeros((1, means.shape[1])), np.cumsum(means.astype(np.float64), axis=0)])
    alike = np.ones(n)
    for k in range(1, n):
        a, b = total[k] - total[max(k - _BLOCK, 0)], total[min(k + _BLOCK, n)] - total[k]
        alike[k] = float(a @ b) / max(float(np.linalg.norm(a) * np.linalg.norm(b)), 1e-9)
    depth = np.zeros(n)
    for k in range(1, n):
        left, right = k, k
        while left > 1 and alike[left - 1] >= alike[left]:
            left -= 1
        while right < n - 1 and alike[right + 1] >= alike[right]:
            right += 1
        depth[k] = alike[left] + alike[right] - 2 * alike[k]
    depth[0] = depth.max(initial=0.0)
    return np.clip(depth / max(float(np.percentile(depth, 95)), 1e-9), 0, 1)


def _rarity(stems: Sequence[frozenset[str]]) -> NDArray[np.float64]:
    """How seldom the recording speaks of what each sentence is about, from 0 to 1."""
    spoken = Counter(each for own in stems for each in own)
    most = math.log(max(len(stems), 2))
    return np.array(
        [sum(1 - math.log(spoken[each]) / most for each in own) / len(own) if own else 0.0 for own in stems]
    )
