"""Whether the words are what was said."""

from collections.abc import Iterator
from itertools import groupby

from hovvet.core.proof.fault import Fix, Rewriting
from hovvet.core.proof.looked import Heard, Looked
from hovvet.core.proof.registry import Found, check
from hovvet.core.value import with_changes
from hovvet.core.words.corrections import Rewritten
from hovvet.core.words.glossary import nearly
from hovvet.core.words.transcript import DOUBTFUL


@check("unsure", "Words still to check", "words", "look")
def unsure(looked: Looked) -> Iterator[Found]:
    """Words that the recogniser was not sure of, side by side as one."""

    def doubted(each: Heard) -> tuple[bool, str]:
        return each.word.kind == "word" and each.word.confidence < DOUBTFUL, each.spot.piece.id

    for (is_one, _), words in groupby(looked.heard, key=doubted):
        if not is_one:
            continue
        said = list(words)
        piece = said[0].spot.piece
        assert piece.recording is not None
        kept = tuple(Rewriting(recording=piece.recording, change=_as_it_is(each)) for each in said)
        text = " ".join(each.word.text for each in said)
        yield Found(
            f"{piece.recording}:{said[0].word.id}",
            f"“{text}”: is that what is said?",
            looked.over(said[0], said[-1]),
            (Fix(label="It is right", rewrites=kept),),
        )


def _as_it_is(each: Heard) -> Rewritten:
    return Rewritten(words=(each.word.id,), text=each.word.text)


@check("near_term", "Names nearly as on the list", "words")
def near_terms(looked: Looked) -> Iterator[Found]:
    """Names & terms of the recording that are spelt otherwise in the clip."""
    for recording, words in groupby(looked.heard, key=lambda each: each.spot.piece.recording):
        own = {each.word.id: each for each in words}
        terms = looked.terms.get(recording or "", ())
        piece = next(iter(own.values())).spot.piece
        transcript = looked.transcript(piece)
        if not terms or transcript is None or recording is None:
            continue
        heard = with_changes(transcript, words=tuple(each.word for each in own.values()))
        for change in nearly(heard, terms):
            said = [own[word] for word in change.words]
            text = " ".join(each.word.text for each in said)
            yield Found(
                f"{recording}:{change.words[0]}",
                f"“{text}” is nearly “{change.text}”, which is on your list of names & terms.",
                looked.over(said[0], said[-1]),
                (Fix(label=f"Write “{change.text}”", rewrites=(Rewriting(recording=recording, change=change),)),),
            )
