"""Whether a clip begins and ends as people speak: with whole sentences and words."""

from collections.abc import Iterator, Sequence

from hovvet.core.passages.sentences import sentences
from hovvet.core.proof.fault import Fix
from hovvet.core.proof.looked import Heard, Looked
from hovvet.core.proof.registry import Found, check
from hovvet.core.sheet.cutting import piece_words
from hovvet.core.sheet.edits import CutWords, EditError, TrimPiece
from hovvet.core.sheet.trimming import trimmed_to_sentence
from hovvet.core.words.transcript import Transcript, Word, plain_text

_AROUND = 60  # words of the recording on either side, in which the sentence is looked for
_WITHIN = 0.04  # seconds: nearer to its edge, a word is not cut into


@check("sentence", "Begins or ends within a sentence", "words")
def within_sentence(looked: Looked) -> Iterator[Found]:
    """What is struck in the piece itself is the person's wish; what it does not take in may be an oversight."""
    if not looked.heard:
        return
    first, last = looked.heard[0], looked.heard[-1]
    if (transcript := looked.transcript(first.spot.piece)) and (before := _left_out(first, transcript, "start")):
        rest = [each for each in looked.heard if each.spot.piece.id == first.spot.piece.id]
        yield Found(
            f"start:{first.spot.piece.origin}",
            f"It begins within a sentence: “{plain_text(before[-5:])}” is left out.",
            looked.over(first),
            tuple(_mended(looked, first, "start", transcript, rest)),
        )
    if (transcript := looked.transcript(last.spot.piece)) and (after := _left_out(last, transcript, "end")):
        rest = [each for each in looked.heard if each.spot.piece.id == last.spot.piece.id]
        yield Found(
            f"end:{last.spot.piece.origin}",
            f"It ends within a sentence: “{plain_text(after[:5])}” is left out.",
            looked.over(last),
            tuple(_mended(looked, last, "end", transcript, rest)),
        )


def _left_out(heard: Heard, transcript: Transcript, edge: str) -> Sequence[Word]:
    """The words of its sentence that the piece of a word does not take in; fillers are nothing."""
    own = piece_words(transcript, heard.spot.piece)
    if not own:
        return ()
    at = transcript.position[own[0].id if edge == "start" else own[-1].id]
    low = max(at - _AROUND, 0)
    around = transcript.words[low : at + _AROUND]
    sentence = next((each for each in sentences(around) if each.first <= at - low <= each.last), None)
    if sentence is None:
        return ()
    out = around[sentence.first : at - low] if edge == "start" else around[at - low + 1 : sentence.last + 1]
    return [word for word in out if word.kind == "word"]


def _mended(looked: Looked, at: Heard, edge: str, transcript: Transcript, rest: Sequence[Heard]) -> Iterator[Fix]:
    side = "start" if edge == "start" else "end"
    try:
        trim = trimmed_to_sentence(at.spot.piece, "start" if side == "start" else "end", transcript)
        yield Fix(label="Take in the whole sentence", edits=(trim,))
    except EditError:
        pass
    words = [each.word for each in rest]
    whole = sentences(words)
    if len(whole) > 1:
        gone = words[whole[0].first : whole[0].last + 1] if edge == "start" else words[whole[-1].first :]
        kept = words[whole[1].first] if edge == "start" else words[whole[-2].last]
        piece = at.spot.piece
        trim = TrimPiece(
            piece=piece.id,
            start=kept.start if edge == "start" else piece.start,
            end=piece.end if edge == "start" else kept.end,
        )
        cut = CutWords(piece=piece.id, words=tuple(word.id for word in gone))
        yield Fix(label="Leave out the rest of it", edits=(cut, trim))


@check("within_word", "Begins or ends within a word", "words")
def within_word(looked: Looked) -> Iterator[Found]:
    """Half a word is worse than none."""
    for piece in looked.sheet.pieces:
        transcript = looked.transcript(piece)
        if transcript is None:
            continue
        for edge, at in (("begins", piece.start), ("ends", piece.end)):
            near = transcript.between(max(at - 2, 0), at + 2)
            word = next((each for each in near if each.start + _WITHIN < at < each.end - _WITHIN), None)
            own = [each for each in looked.heard if each.spot.piece.id == piece.id]
            beside = own[0 if edge == "begins" else -1] if own else None
            if (
                word is None
                or beside is None
                or (beside.word.id != word.id and not _heard_of(word, piece.start, piece.end))
            ):
                continue
            start, end = (word.start, piece.end) if edge == "begins" else (piece.start, word.end)
            fix = Fix(label=f"Take in all of “{word.text}”", edits=(TrimPiece(piece=piece.id, start=start, end=end),))
            yield Found(
                f"{edge}:{piece.origin}:{word.id}",
                f"It {edge} within the word “{word.text}”.",
                looked.over(beside),
                (fix,),
            )


def _heard_of(word: Word, start: float, end: float) -> bool:
    """Whether something of a word is within a piece, be it less than half."""
    return min(word.end, end) - max(word.start, start) > _WITHIN
