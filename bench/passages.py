"""How well passages are found in the talks of ``bench/talks``, beside spans at random and TextRank; and what an hour costs.

``python bench/passages.py``: they were marked by hand before the scoring was written.
"""

import random
import resource
import sys
from collections.abc import Callable, Sequence
from pathlib import Path

import numpy as np

sys.path.insert(0, str(Path(__file__).parents[1]))

from hovvet.core.engines.meaning import vectors
from hovvet.core.passages.find import LONGEST, find_passages
from hovvet.core.passages.scoring import SHORTEST
from hovvet.core.passages.sentences import Sentence, sentences
from hovvet.core.words.transcript import Transcript
from tests.talks import Talk, marked_talks

_FIRST = 5  # passages of each talk that count
_HOUR = 3600.0
Span = tuple[int, int]  # the first and last word, by their place
Way = Callable[[Transcript], list[Span]]


def by_hovvet(transcript: Transcript) -> list[Span]:
    """What Hovvet would show."""
    place = transcript.position
    return [(place[each.words[0]], place[each.words[1]]) for each in find_passages(transcript, vectors)]


def at_random(transcript: Transcript) -> list[Span]:
    """Spans of whole sentences of allowed lengths."""
    chance, spans = random.Random(7), _lengths(sentences(transcript.words))
    return chance.sample(spans, min(_FIRST, len(spans)))


def by_textrank(transcript: Transcript) -> list[Span]:
    """The spans whose sentences are most central (Mihalcea and Tarau, TextRank, EMNLP 2004), none over another."""
    said = sentences(transcript.words)
    means = vectors([each.text for each in said])
    alike = np.maximum(means @ means.T, 0)
    np.fill_diagonal(alike, 0)
    share = alike / np.maximum(alike.sum(axis=0, keepdims=True), 1e-9)
    rank = np.full(len(said), 1 / len(said))
    for _ in range(60):
        rank = 0.15 / len(said) + 0.85 * share @ rank
    of = {each.first: n for n, each in enumerate(said)} | {each.last: n for n, each in enumerate(said)}
    best: list[Span] = []
    for span in sorted(_lengths(said), key=lambda span: -float(rank[of[span[0]] : of[span[1]] + 1].mean())):
        if all(span[1] < a or span[0] > b for a, b in best):
            best.append(span)
    return best


def _lengths(said: Sequence[Sentence]) -> list[Span]:
    return [(a.first, b.last) for n, a in enumerate(said) for b in said[n:] if SHORTEST <= b.end - a.start <= LONGEST]


def judge(talks: Sequence[Talk], way: Way) -> dict[str, float]:
    """Of the first five of each talk: how many are marked ones (half of both together is in both); of those, how many begin
    and end within a sentence of the mark; how many touch what must never be shown."""
    shown = right = starts = ends = never = 0
    for talk in talks:
        said = sentences(talk.transcript.words)
        sentence = {n: k for k, each in enumerate(said) for n in range(each.first, each.last + 1)}
        for first, last in way(talk.transcript)[:_FIRST]:
            shown += 1
            never += any(first <= b and last >= a for a, b in talk.never)
            a, b = max(talk.passages, key=lambda mark: min(last, mark[1]) - max(first, mark[0]))
            if 2 * (min(last, b) - max(first, a) + 1) < max(last, b) - min(first, a) + 1:
                continue
            right += 1
            starts += abs(sentence[first] - sentence[a]) <= 1
            ends += abs(sentence[last] - sentence[b]) <= 1
    return {
        "of the first five": right / shown,
        "starts": starts / max(right, 1),
        "ends": ends / max(right, 1),
        "never": never,
    }


def an_hour(talks: Sequence[Talk]) -> Transcript:
    """The talks one after the other, again and again, for an hour."""
    words, at = [], 0.0
    while at < _HOUR:
        for talk in talks:
            words += [
                word.model_copy(update={"id": len(words) + n + 1, "start": word.start + at, "end": word.end + at})
                for n, word in enumerate(talk.transcript.words)
            ]
            at += talk.transcript.duration
    return Transcript(duration=at, words=tuple(word for word in words if word.end < _HOUR))


def main() -> None:
    """Print it all."""
    ways: dict[str, Way] = {"Hovvet": by_hovvet, "at random": at_random, "TextRank": by_textrank}
    for damaged in (False, True):
        for name, way in ways.items():
            told = ", ".join(f"{what} {value:.2f}" for what, value in judge(marked_talks(damaged), way).items())
            print(f"{'damaged' if damaged else 'clean':8}{name:10} {told}")
    transcript = an_hour(marked_talks())
    before = resource.getrusage(resource.RUSAGE_SELF)
    found = find_passages(transcript, vectors)
    after = resource.getrusage(resource.RUSAGE_SELF)
    cpu = after.ru_utime + after.ru_stime - before.ru_utime - before.ru_stime
    print(f"an hour: {len(found)} passages, {cpu:.1f} CPU s, {after.ru_maxrss / 1024:.0f} MB")


if __name__ == "__main__":
    main()
