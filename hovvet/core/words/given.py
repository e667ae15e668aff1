"""Words that a person gave, put where they are said.

Cues are spread over the speech found within them; a plain text is laid along
what the recogniser hears. Both are then refined by the sound word by word.
"""

from collections.abc import Iterator, Sequence
from pathlib import Path

from rapidfuzz.distance import Levenshtein

from hovvet.core.engines.speech import Heard, Recogniser
from hovvet.core.errors import CoreError
from hovvet.core.media.decode import SPEECH_RATE
from hovvet.core.media.wav import read_wav, wav_length
from hovvet.core.sound.silence import silences
from hovvet.core.spans import Span, intersect, subtract
from hovvet.core.time import EPSILON
from hovvet.core.value import with_changes
from hovvet.core.words.edges import SHORTEST_WORD, without_overlaps
from hovvet.core.words.sounds import unwritten
from hovvet.core.words.timing import Refiner
from hovvet.core.words.transcribe import Progress, in_order, stretches, to_words
from hovvet.core.words.transcript import Speaker, Transcript, Word
from hovvet.core.words.vocabulary import bare, is_filler_sound, usual_filler
from hovvet.core.words.words_in import Said

_LONGEST_CUE = 20.0  # seconds aligned at once
_EDGE = 0.25  # seconds by which a cue may miss the speech it belongs to
_FEWEST_KNOWN = 0.3  # of the words of a text must be heard in the recording


def from_cues(wav: Path, said: Sequence[Said], refiner: Refiner, progress: Progress) -> Transcript:
    """The transcript of timed cues in the language of the refiner, their words placed by the speech in a 16 kHz mono WAV."""
    total = wav_length(wav)[0] / SPEECH_RATE
    inside = [cue for cue in said if cue.start is not None and cue.end is not None and cue.start < total]
    if not inside:
        raise CoreError("All cues of this file lie after the end of the recording. Is it the right file?")
    words: list[Word] = []
    keys = _speaker_keys(said)
    for group in _groups(inside):
        first, last = max((group[0].start or 0) - _EDGE, 0.0), min((group[-1].end or 0) + _EDGE, total)
        sound = read_wav(wav, round(first * SPEECH_RATE), round((last - first) * SPEECH_RATE))
        length = len(sound) / SPEECH_RATE
        silent = silences(sound, SPEECH_RATE, 0.15)
        spread = [
            (word, cue) for cue in group for word in _spread(cue.text.split(), _spoken(cue, first, length, silent))
        ]
        placed = without_overlaps([word for word, _ in spread], length)
        if len(placed) == len(spread):
            placed = refiner.refine(placed, sound, [(0.0, length)])
        speakers = [cue.speaker for _, cue in spread]
        if len(placed) != len(speakers):
            speakers = [group[0].speaker] * len(placed)
        fresh = to_words(
            [Heard(w.text, w.start + first, w.end + first, 1.0) for w in placed], language=refiner.language
        )
        words += [with_changes(word, **_by(name, keys)) for word, name in zip(fresh, speakers, strict=True)]
        sounds = unwritten(placed, sound, usual_filler(refiner.language))
        extra = to_words(
            [Heard(w.text, w.start + first, w.end + first, 0.5) for w in sounds], language=refiner.language
        )
        words += [with_changes(word, **_by(group[0].speaker, keys)) for word in extra]
        progress(min(last / total, 1.0))
    return _transcript(total, words, keys, refiner.language)


def from_text(
    wav: Path, said: Sequence[Said], recogniser: Recogniser, refiner: Refiner, progress: Progress
) -> Transcript:
    """The transcript of a plain text, laid along what is heard in a 16 kHz mono WAV.

    Filler sounds that are heard and not in the text are kept, so that they can be cut. Raises
    CoreError when the text is of something else.
    """
    total = wav_length(wav)[0] / SPEECH_RATE
    texts = [(word, each.speaker) for each in said for word in each.text.split()]
    heard: list[Heard] = []
    names = [word for word, _ in texts if word[:1].isupper()][:40]
    for done, part in stretches(wav, recogniser, refiner, hints=names):
        heard += part
        progress(0.9 * done / total)
    language = recogniser.language
    spoken = [word for word in heard if not is_filler_sound(word.text, language)]
    places = matched([word for word, _ in texts], spoken)
    known = sum(
        place is not None and bare(word) == bare(spoken[place].text)
        for (word, _), place in zip(texts, places, strict=True)
    )
    if known < _FEWEST_KNOWN * len(texts):
        raise CoreError("This text and this recording have hardly a word in common. Is it the right file?")
    keys = _speaker_keys(said)
    timed = list(_filled([word for word, _ in texts], places, spoken, total))
    words = [
        with_changes(word, **_by(speaker, keys))
        for word, (_, speaker) in zip(to_words(timed, language=language), texts, strict=True)
    ]
    taken = [(word.start, word.end) for word in words]
    fillers = [word for word in heard if is_filler_sound(word.text, language)]
    for filler in to_words(fillers, language=language):
        if subtract([(filler.start, filler.end)], taken) == [(filler.start, filler.end)]:
            near = min(words, key=lambda word: abs(word.start - filler.start))
            words.append(with_changes(filler, speaker=near.speaker, speaker_by=near.speaker_by))
    progress(1.0)
    return _transcript(total, words, keys, language)


def matched(texts: Sequence[str], heard: Sequence[Heard]) -> list[int | None]:
    """For each word of a text, which heard word it is, if any: the fewest edits between the two."""
    places: list[int | None] = [None] * len(texts)
    ours, theirs = [bare(text) for text in texts], [bare(word.text) for word in heard]
    for op in Levenshtein.opcodes(ours, theirs):
        if op.tag in ("equal", "replace") and op.src_end - op.src_start == op.dest_end - op.dest_start:
            for n in range(op.src_end - op.src_start):
                places[op.src_start + n] = op.dest_start + n
    return places


def _filled(
    texts: Sequence[str], places: Sequence[int | None], heard: Sequence[Heard], total: float
) -> Iterator[Heard]:
    """Heard words under the given texts; words that were not heard share the time between their neighbours."""
    n = 0
    at = 0.0
    while n < len(texts):
        place = places[n]
        if place is not None:
            word = heard[place]
            start = max(word.start, at)
            at = max(word.end, start + SHORTEST_WORD)
            yield Heard(texts[n], start, at, 1.0)
            n += 1
            continue
        last = n
        while last < len(texts) and places[last] is None:
            last += 1
        following = places[last] if last < len(texts) else None
        until = max(heard[following].start if following is not None else total, at + (last - n) * SHORTEST_WORD)
        for word in _spread(texts[n:last], [(at, min(until, at + 0.4 * (last - n)))]):
            yield Heard(word.text, word.start, word.end, 0.3)
        at = until if following is not None else at + 0.4 * (last - n)
        n = last


def _groups(cues: Sequence[Said]) -> Iterator[list[Said]]:
    """Cues that follow each other closely, up to 20 s together: aligned at once, so that words may cross cue edges."""
    group: list[Said] = []
    for cue in cues:
        start, end = cue.start or 0.0, cue.end or 0.0
        if group and (start - (group[-1].end or 0) > 1.0 or end - (group[0].start or 0) > _LONGEST_CUE):
            yield group
            group = []
        group.append(cue)
    if group:
        yield group


def _spoken(cue: Said, first: float, length: float, silent: Sequence[Span]) -> list[Span]:
    """Where there is speech within a cue, in seconds from ``first``; the whole cue when there is none."""
    start = min(max((cue.start or 0) - first, 0.0), length)
    end = min(max((cue.end or 0) - first, start + 0.1), length)
    loud = subtract([(start, end)], intersect(silent, [(start, end)]))
    return [span for span in loud if span[1] - span[0] >= 0.05] or [(start, max(end, start + 0.1))]


def _spread(texts: Sequence[str], spans: Sequence[Span]) -> list[Heard]:
    """Words over stretches of speech, each as long as it has letters."""
    weights = [len(bare(text)) + 1 for text in texts]
    spoken = sum(b - a for a, b in spans)
    made: list[Heard] = []
    done = 0.0
    for text, weight in zip(texts, weights, strict=True):
        start, done = done, done + spoken * weight / sum(weights)
        made.append(Heard(text, _at(spans, start), max(_at(spans, done, True), _at(spans, start) + 0.01), 1.0))
    return made


def _at(spans: Sequence[Span], spoken: float, ending: bool = False) -> float:
    """The time at which ``spoken`` seconds of the stretches have passed; at a join, the end before or the start after."""
    for n, (a, b) in enumerate(spans):
        last = n + 1 == len(spans)
        if spoken < b - a or last or (ending and spoken <= b - a + EPSILON):
            return min(a + spoken, b)
        spoken -= b - a
    return spans[-1][1]


def _speaker_keys(said: Sequence[Said]) -> dict[str, str]:
    return {name: f"S{n + 1}" for n, name in enumerate(dict.fromkeys(each.speaker for each in said))}


def _by(name: str, keys: dict[str, str]) -> dict[str, str]:
    """What a word says of its speaker: one that the file names was set by a person."""
    return {"speaker": keys[name], "speaker_by": "hand" if name else "nobody"}


def _transcript(total: float, words: Sequence[Word], keys: dict[str, str], language: str) -> Transcript:
    ordered = in_order(sorted(words, key=lambda word: word.start))
    numbered = tuple(with_changes(word, id=n + 1) for n, word in enumerate(ordered))
    named = tuple(Speaker(key=key, name=name) for name, key in keys.items() if name)
    duration = round(max(total, numbered[-1].end if numbered else 0), 3)
    return Transcript(duration=duration, language=language, words=numbered, speakers=named)
