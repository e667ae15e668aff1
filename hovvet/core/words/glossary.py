"""Names & terms: how they are written, and what a recogniser makes of them."""

from collections.abc import Sequence
from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field
from rapidfuzz.distance import Levenshtein

from hovvet.core.value import with_changes
from hovvet.core.words.corrections import Rewrite, Rewritten, correct
from hovvet.core.words.replace import occurrences
from hovvet.core.words.transcript import Transcript
from hovvet.core.words.vocabulary import bare

_SHORTEST_NAME = 6  # letters: in shorter ones one letter makes another word
_Text = Annotated[str, Field(min_length=1, max_length=120)]


class Term(BaseModel):
    """A name or term as it should read, and the ways it has been heard."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    text: _Text
    heard: Annotated[tuple[_Text, ...], Field(max_length=50)] = ()


def hints(terms: Sequence[Term], most: int = 40) -> list[str]:
    """What a recogniser is told to expect; the newest ``most`` terms, since its memory is short."""
    return [term.text for term in terms][-most:]


def rewrites(transcript: Transcript, terms: Sequence[Term]) -> list[Rewritten]:
    """Every place that was heard as one of the terms' other forms; no word in two of them, longer forms first."""
    forms = sorted(
        ((heard, term.text) for term in terms for heard in term.heard), key=lambda form: -len(form[0].split())
    )
    taken: set[int] = set()
    found = []
    for heard, text in forms:
        for each in occurrences(transcript, heard, text):
            if taken.isdisjoint(each.change.words):
                taken.update(each.change.words)
                found.append(each.change)
    return sorted(found, key=lambda change: transcript.position[change.words[0]])


def nearly(transcript: Transcript, terms: Sequence[Term]) -> list[Rewritten]:
    """Every place that reads nearly like one of the terms, by a letter or two, and like none of them: names are spelt so when
    a recogniser, or a person, did not know them. Only for a person to look at."""
    known = {_plain(word) for term in terms for word in term.text.split()}
    spoken = [_plain(word.text) for word in transcript.words]
    found: dict[int, Rewritten] = {}
    for term in terms:
        wanted = [_plain(word) for word in term.text.split()]
        for n in range(len(spoken) - len(wanted) + 1):
            words = transcript.words[n : n + len(wanted)]
            if not all(word.text.lstrip("“\"'(")[:1].isupper() for word in words) or n in found:
                continue
            pairs = list(zip(spoken[n : n + len(wanted)], wanted, strict=True))
            unlike = [said for said, meant in pairs if said != meant]
            if (
                unlike
                and known.isdisjoint(unlike)
                and all(said == meant or _near(said, meant) for said, meant in pairs)
            ):
                texts = [
                    _respelt(word.text, said, own)
                    for word, (said, _), own in zip(words, pairs, term.text.split(), strict=True)
                ]
                found[n] = Rewritten(words=tuple(word.id for word in words), text=" ".join(texts))
    return [found[n] for n in sorted(found)]


def _plain(text: str) -> str:
    """A word without case, punctuation, and the 's of what is somebody's."""
    return bare(text).removesuffix("'s").removesuffix("’s")


def _near(said: str, meant: str) -> bool:
    most = 0 if len(meant) < _SHORTEST_NAME else 1 if len(meant) < 10 else 2
    return 0 < Levenshtein.distance(said, meant, score_cutoff=most) <= most


def _respelt(text: str, said: str, meant: str) -> str:
    """A word of the page with the name in it spelt as it should be; what is around the name stays."""
    at = text.lower().find(said)
    return meant if at < 0 else text[:at] + meant + text[at + len(said) :]


def apply_terms(transcript: Transcript, terms: Sequence[Term]) -> Transcript:
    """The transcript with every known mishearing of the terms put right."""
    changes = rewrites(transcript, terms)
    return correct(transcript, Rewrite(changes=tuple(changes))) if changes else transcript


def spelt_otherwise(transcript: Transcript, terms: Sequence[Term]) -> list[Rewritten]:
    """Every place at which one of the terms reads otherwise than it should: heard as something else, or in other letters."""
    return rewrites(transcript, [with_changes(term, heard=(*term.heard, term.text)) for term in terms])


def with_term(terms: Sequence[Term], text: str, heard: str = "") -> tuple[Term, ...]:
    """The terms with one more, or with one more way in which it was heard."""
    text, heard = text.strip(), heard.strip()
    kept = [term for term in terms if term.text != text]
    forms = next((term.heard for term in terms if term.text == text), ())
    if heard and heard.lower() != text.lower() and heard not in forms:
        forms = (*forms, heard)
    return (*kept, Term(text=text, heard=forms))


def without_term(terms: Sequence[Term], text: str, heard: str = "") -> tuple[Term, ...]:
    """The terms without one of them, or without one way in which it was heard."""
    if not heard:
        return tuple(term for term in terms if term.text != text)
    return tuple(
        with_changes(term, heard=tuple(form for form in term.heard if form != heard)) if term.text == text else term
        for term in terms
    )


def merged_terms(terms: Sequence[Term], more: Sequence[Term]) -> tuple[Term, ...]:
    """The terms, and more of them; what was heard for a term that is in both is put together."""
    for term in more:
        for heard in term.heard or ("",):
            terms = with_term(terms, term.text, heard)
    return tuple(terms)
