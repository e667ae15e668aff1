"""What was said in a take, beside the script: each time a line was read, with what was left out, added or said otherwise."""

from itertools import pairwise
from typing import Literal

from hovvet.core.script.aligning import align
from hovvet.core.script.lines import Script, written_words
from hovvet.core.value import Value
from hovvet.core.words.transcript import Transcript, Word
from hovvet.core.words.vocabulary import bare

Said = Literal["as written", "otherwise", "added", "filler", "left out"]
_READ = 0.3  # of the words of a line: of less it was not read
_HALTS = 0.8  # seconds between two words that are a halt


class SaidToken(Value):
    """A word beside the script: as it was said (``left out``: as it is written); ``word`` is its id, None where it was not said."""

    text: str
    said: Said
    word: int | None


class Reading(Value):
    """One reading of a line in a take: words ``first`` to ``last`` (ids) of its transcript, ``start`` to ``end`` seconds. ``run`` counts
    up whenever one went back: readings of one run follow one another in the recording."""

    line: int
    run: int
    first: int
    last: int
    start: float
    end: float
    tokens: tuple[SaidToken, ...]
    longest_halt: float
    """Seconds of the longest pause within it."""
    halts: int
    """Pauses within it of more than 0.8 s."""

    def count(self, said: Said) -> int:
        """How many of its words were said so."""
        return sum(token.said == said for token in self.tokens)

    @property
    def whole(self) -> bool:
        """Whether nothing was left out."""
        return not self.count("left out")


def readings(script: Script, transcript: Transcript) -> list[Reading]:
    """Every time a line of a script was read in a recording, in the order in which they were."""
    words = [word for word in transcript.words if bare(word.text)]
    found = align([bare(word.text) for word in words], script.words, script.starts[:-1], transcript.language)
    made: list[Reading] = []
    run, begun = 0, 0
    place: tuple[int, int] | None = None  # the line and the run of the words gathered
    for n, (at, back) in enumerate([*found, (None, True)]):
        run += back
        here = (script.line_at(at), run) if at is not None else place
        if n == len(words) or here != place:
            if place is not None:
                made += _reading(script, *place, list(zip(words[begun:n], found[begun:n], strict=True)))
            place, begun = here, n
    return made


def _reading(script: Script, line: int, run: int, said: list[tuple[Word, tuple[int | None, bool]]]) -> list[Reading]:
    """What was said between the first and the last word of a line that stands for one of it; nothing where that is too little of it."""
    first, end = script.starts[line], script.starts[line + 1]
    stands = [n for n, (_, (at, _)) in enumerate(said) if at is not None]
    if len(stands) < max(_READ * (end - first), 1):
        return []
    kept = said[stands[0] : stands[-1] + 1]
    written = written_words(script.lines[line].text)
    tokens: list[SaidToken] = []
    before = first
    for word, (at, _) in kept:
        if at is None:
            tokens.append(SaidToken(text=word.text, said="filler" if word.kind == "filler" else "added", word=word.id))
            continue
        tokens += [SaidToken(text=written[n - first], said="left out", word=None) for n in range(before, at)]
        same = bare(word.text) == script.words[at]
        tokens.append(SaidToken(text=word.text, said="as written" if same else "otherwise", word=word.id))
        before = at + 1
    tokens += [SaidToken(text=written[n - first], said="left out", word=None) for n in range(before, end)]
    pauses = [after.start - word.end for (word, _), (after, _) in pairwise(kept)]
    return [
        Reading(
            line=line,
            run=run,
            first=kept[0][0].id,
            last=kept[-1][0].id,
            start=kept[0][0].start,
            end=kept[-1][0].end,
            tokens=tuple(tokens),
            longest_halt=round(max(pauses, default=0.0), 3),
            halts=sum(each > _HALTS for each in pauses),
        )
    ]
