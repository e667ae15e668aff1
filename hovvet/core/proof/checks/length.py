"""Whether a clip fits its outlet."""

from collections.abc import Iterator

from hovvet.core.proof.fault import Fix, Where
from hovvet.core.proof.looked import Heard, Looked
from hovvet.core.proof.registry import Found, check
from hovvet.core.render.output import Output, expected_bytes
from hovvet.core.sheet.edits import CutWords, Edit, RemovePiece, TrimPiece
from hovvet.core.sheet.starting import edges_of
from hovvet.core.time import clock
from hovvet.core.words.vocabulary import ends_sentence

_TRIES = 6  # sentences given up, one after the other, until what is left is short enough


@check("too_long", "Longer than the outlet allows", "length")
def too_long(looked: Looked) -> Iterator[Found]:
    """Ends where the last sentence does that fits."""
    outlet, plan = looked.target.outlet, looked.plan
    over = plan.seconds - outlet.longest
    if over <= 0:
        return
    says = f"{clock(plan.seconds)} is {over:.1f} s longer than {outlet.name} allows ({clock(outlet.longest)})."
    where = Where(start=outlet.longest, end=plan.seconds)
    yield Found("", says, where, tuple(_ended_earlier(looked)))


def _ended_earlier(looked: Looked) -> Iterator[Fix]:
    after = sum(piece.end for piece in looked.sheet.pieces if piece.is_gap)  # cards stay
    ends = [
        n
        for n, word in enumerate(looked.heard[:-1])
        if ends_sentence(word.word.text) and word.end + after <= looked.target.outlet.longest
    ]
    for n in reversed(ends[-_TRIES:]):
        edits = _without(looked, looked.heard[n], looked.heard[n + 1 :])
        if edits and looked.with_edits(*edits).plan.seconds <= looked.target.outlet.longest:
            said = " ".join(word.word.text for word in looked.heard[max(n - 3, 0) : n + 1])
            yield Fix(label=f"End after “{said}”", edits=tuple(edits))
            return


def _without(looked: Looked, last: Heard, after: list[Heard]) -> list[Edit]:
    """What ends a clip with a word; cards stay."""
    ended = last.spot.piece
    transcript = looked.transcript(ended)
    if transcript is None:
        return []
    gone = dict.fromkeys(word.spot.piece.id for word in after if word.spot.piece.id != ended.id)
    own = tuple(word.word.id for word in after if word.spot.piece.id == ended.id)
    place = transcript.position[last.word.id]
    end = min(edges_of(transcript, place, place)[1], ended.end)
    edits: list[Edit] = [RemovePiece(piece=piece) for piece in gone]
    if own:
        edits += [CutWords(piece=ended.id, words=own), TrimPiece(piece=ended.id, start=ended.start, end=end)]
    return edits


@check("too_large", "Larger than the outlet allows", "length")
def too_large(looked: Looked) -> Iterator[Found]:
    """By the file that is there, else by what is expected of one."""
    limit = looked.target.outlet.file_limit
    outlet, plan = looked.target.outlet, looked.plan
    size = looked.file.bytes if looked.file else expected_bytes(Output(), outlet, plan.rate.fps, plan.seconds)
    if limit is not None and size > limit:
        what = "is" if looked.file else "would be about"
        yield Found(
            "",
            f"The file {what} {_megabytes(size)}; {looked.target.outlet.name} takes {_megabytes(limit)}. Shorten it.",
        )


def _megabytes(size: int) -> str:
    return f"{size / 1e6:.1f} MB"
