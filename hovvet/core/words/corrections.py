"""Corrections: every change to a transcript is a small value, and ``correct`` is a pure function.

Correcting a word changes neither its id nor its time, so that cuts and clips,
which name words, stay true. Only where words are split or joined do times have
to be shared out, and they stay within the stretch of the words corrected.
"""

from collections.abc import Iterable, Sequence
from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field

from hovvet.core.errors import CoreError
from hovvet.core.value import with_changes
from hovvet.core.words.transcript import Speaker, SpeakerBy, Transcript, Word
from hovvet.core.words.vocabulary import bare, is_filler_sound, without_ending

SHORTEST = 0.02  # seconds: no word is made shorter than this
WordIds = Annotated[tuple[int, ...], Field(min_length=1, max_length=100_000)]
SpeakerKey = Annotated[str, Field(pattern=r"^S[1-9]\d?$")]


class CorrectionError(CoreError):
    """The correction does not fit the transcript."""


class _Correction(BaseModel):
    model_config = ConfigDict(frozen=True, extra="forbid")


class Rewritten(_Correction):
    """Words in a row and what they are to read: as many words as before, fewer (joined) or more (split)."""

    words: Annotated[tuple[int, ...], Field(min_length=1, max_length=200)]
    text: Annotated[str, Field(min_length=1, max_length=2000)]


class Rewrite(_Correction):
    """Change what words read. ``fresh`` is the first free id, for words that come to be by splitting."""

    type: Literal["rewrite"] = "rewrite"
    changes: Annotated[tuple[Rewritten, ...], Field(min_length=1, max_length=20_000)]
    fresh: Annotated[int, Field(ge=0)] = 0


class JoinWords(_Correction):
    """Make one word of two neighbours; ``texts`` is how each is to read in it. What ends the first is left out."""

    type: Literal["join"] = "join"
    words: tuple[int, int]
    texts: tuple[
        Annotated[str, Field(min_length=1, max_length=200)], Annotated[str, Field(min_length=1, max_length=200)]
    ]


class SetSpeaker(_Correction):
    """Say who speaks these words."""

    type: Literal["set_speaker"] = "set_speaker"
    words: WordIds
    speaker: SpeakerKey


class NameSpeaker(_Correction):
    """Name a speaker, or give another colour; what is None stays as it is."""

    type: Literal["name_speaker"] = "name_speaker"
    speaker: SpeakerKey
    name: Annotated[str, Field(max_length=80)] | None = None
    colour: Annotated[str, Field(pattern=r"^#[0-9a-f]{6}$")] | None = None


class Turn(_Correction):
    """Words from ``first`` to ``last`` (ids, both included) by one speaker."""

    first: int
    last: int
    speaker: SpeakerKey


class SuggestSpeakers(_Correction):
    """Who speaks, as the voices suggest. Words that a person has given a speaker stay as they are."""

    type: Literal["suggest_speakers"] = "suggest_speakers"
    turns: Annotated[tuple[Turn, ...], Field(max_length=20_000)]


Correction = Annotated[
    Rewrite | JoinWords | SetSpeaker | NameSpeaker | SuggestSpeakers,
    Field(discriminator="type"),
]


def correct(transcript: Transcript, correction: Correction) -> Transcript:
    """The transcript after the correction. The given transcript is not changed.

    Raises CorrectionError when it names words that are not there or not in a
    row, leaves a word without text, or asks for more words than there is time for.
    """
    match correction:
        case Rewrite():
            return _rewrite(transcript, correction)
        case JoinWords():
            text = without_ending(correction.texts[0].strip()) + correction.texts[1].strip()
            joined = Rewritten(words=correction.words, text="".join(text.split()))
            return _rewrite(transcript, Rewrite(changes=(joined,)))
        case SetSpeaker():
            return _with_speakers(transcript, ((word, correction.speaker) for word in correction.words), "hand")
        case SuggestSpeakers():
            return _with_speakers(transcript, _suggested(transcript, correction.turns), "voices")
        case NameSpeaker():
            return _named(transcript, correction)


def difference(before: Transcript, after: Transcript) -> tuple[tuple[int, ...], tuple[Word, ...]]:
    """What to change to come from one transcript to the other: ids of words that go, and words that come."""
    if before.words is after.words:
        return (), ()
    old = {word.id: word for word in before.words}
    new = {word.id for word in after.words}
    gone = tuple(word_id for word_id in old if word_id not in new)
    return gone, tuple(word for word in after.words if old.get(word.id) is not word and old.get(word.id) != word)


def next_id(transcript: Transcript) -> int:
    """The first id that no word of the transcript has."""
    return max((word.id for word in transcript.words), default=0) + 1


def _place(transcript: Transcript, word_id: int) -> int:
    try:
        return transcript.position[word_id]
    except KeyError:
        raise CorrectionError(
            "Those words are no longer in the transcript. Look at the page again.", f"no word {word_id}"
        ) from None


def _rewrite(transcript: Transcript, correction: Rewrite) -> Transcript:
    fresh = max(correction.fresh, next_id(transcript))
    made: dict[int, list[Word]] = {}  # by the place of the first word rewritten
    lengths: dict[int, int] = {}
    taken: set[int] = set()
    for change in correction.changes:
        places = [_place(transcript, word) for word in change.words]
        if places != list(range(places[0], places[0] + len(places))):
            raise CorrectionError("Only words that stand side by side can be corrected as one.")
        if taken.intersection(places):
            raise CorrectionError("A word was to be corrected twice at once.")
        taken.update(places)
        texts = change.text.split()
        if not texts:
            raise CorrectionError("A word cannot be empty. To take it out of the sound, cut it.")
        now = _shared_out(transcript.words[places[0] : places[-1] + 1], texts, fresh, transcript.language)
        fresh = max(fresh, max(word.id for word in now) + 1)
        made[places[0]], lengths[places[0]] = now, len(places)
    words: list[Word] = []
    at = 0
    for place in sorted(made):
        words += transcript.words[at:place]
        words += made[place]
        at = place + lengths[place]
    return _changed(transcript, (*words, *transcript.words[at:]))


def _shared_out(before: Sequence[Word], texts: Sequence[str], fresh: int, language: str) -> list[Word]:
    """The words under their new texts; times stay, unless there are now fewer words or more."""
    if len(texts) == len(before):
        return [_reading(word, text, word.start, word.end, language) for word, text in zip(before, texts, strict=True)]
    start, end = before[0].start, before[-1].end
    if (end - start) / len(texts) < SHORTEST:
        raise CorrectionError("There is not enough sound under this word for so many words.")
    weights = [max(len(bare(text)), 1) for text in texts]
    share = (end - start - SHORTEST * len(texts)) / sum(weights)
    edges = [start]
    for weight in weights[:-1]:
        edges.append(edges[-1] + SHORTEST + share * weight)
    edges.append(end)
    made = []
    for n, text in enumerate(texts):
        model = before[min(n, len(before) - 1)]
        word = _reading(model, text, round(edges[n], 4), round(edges[n + 1], 4), language)
        made.append(word if n < len(before) else with_changes(word, id=fresh + n - len(before)))
    return made


def _reading(word: Word, text: str, start: float, end: float, language: str) -> Word:
    kind = "filler" if is_filler_sound(text, language) else "word"
    return with_changes(word, text=text[:200], start=start, end=end, confidence=1.0, kind=kind)


def _with_speakers(transcript: Transcript, wanted: Iterable[tuple[int, str]], by: SpeakerBy) -> Transcript:
    words = list(transcript.words)
    changed = False
    for word_id, speaker in wanted:
        place = _place(transcript, word_id)
        word = words[place]
        if (word.speaker, word.speaker_by) != (speaker, by) and not (by == "voices" and word.speaker_by == "hand"):
            words[place] = with_changes(word, speaker=speaker, speaker_by=by)
            changed = True
    return _changed(transcript, tuple(words), same_ids=True) if changed else transcript


def _suggested(transcript: Transcript, turns: Sequence[Turn]) -> Iterable[tuple[int, str]]:
    for turn in turns:
        first, last = _place(transcript, turn.first), _place(transcript, turn.last)
        yield from ((word.id, turn.speaker) for word in transcript.words[first : last + 1])


def _named(transcript: Transcript, correction: NameSpeaker) -> Transcript:
    given = {field: value.strip() for field in ("name", "colour") if (value := getattr(correction, field)) is not None}
    known = {speaker.key: speaker for speaker in transcript.speakers}
    before = known.get(correction.speaker, Speaker(key=correction.speaker))
    known[correction.speaker] = with_changes(before, **given)
    return with_changes(transcript, speakers=tuple(known[key] for key in sorted(known)))


def _changed(transcript: Transcript, words: tuple[Word, ...], same_ids: bool = False) -> Transcript:
    """With other words: built without checking anew what cannot have changed."""
    after = Transcript.model_construct(
        version=transcript.version, duration=transcript.duration, words=words, speakers=transcript.speakers
    )
    if same_ids:
        after.__dict__["position"] = transcript.position
    return after
