"""A whole recording to a transcript, stretch by stretch, so that the first words can be read at once."""

from collections.abc import Callable, Iterator, Sequence
from concurrent.futures import Future, ThreadPoolExecutor
from dataclasses import dataclass
from pathlib import Path

from hovvet.core.engines.speech import Heard, Recogniser
from hovvet.core.media.decode import SPEECH_RATE
from hovvet.core.media.wav import read_wav, wav_length
from hovvet.core.sound.silence import Sound
from hovvet.core.spans import Span, subtract
from hovvet.core.value import with_changes
from hovvet.core.words.chunks import chunks
from hovvet.core.words.doubted import believed
from hovvet.core.words.edges import without_overlaps
from hovvet.core.words.fuller import repaired
from hovvet.core.words.sounds import SOUND_TEXT, unwritten
from hovvet.core.words.timing import Refiner
from hovvet.core.words.transcript import Transcript, Word, WordKind
from hovvet.core.words.vocabulary import ENGLISH, is_filler_sound, usual_filler

_FIRST_STRETCH = 30.0  # seconds: short, so that the first words come soon
_STRETCH = 120.0
_UNHEARD = 0.6  # seconds of voice without a word that are listened to again

Progress = Callable[[float], None]


@dataclass(frozen=True)
class _Stretch:
    """A stretch as it was recognised: from ``start`` seconds of the recording on; the rest in seconds of ``sound``."""

    start: float
    done: float  # seconds of the recording
    sound: Sound
    parts: list[Span]
    heard: list[Heard]


def stretches(
    wav: Path, recogniser: Recogniser, aligner: Refiner, start: float = 0.0, hints: Sequence[str] = ()
) -> Iterator[tuple[float, list[Heard]]]:
    """Recognise a 16 kHz mono WAV from ``start`` seconds on.

    Yields (seconds done so far, words of this stretch, on the recording's clock)
    in order. ``start`` may be any "seconds done" of an earlier run, to go on with. While
    the words of a stretch find their places the next one is recognised.
    """
    total = wav_length(wav)[0] / SPEECH_RATE
    ahead = ThreadPoolExecutor(1, "recogniser")

    def begin(at: float, length: float) -> Future[_Stretch] | None:
        return ahead.submit(_recognised, wav, at, length, recogniser, hints) if at < total else None

    try:
        coming = begin(start, _FIRST_STRETCH)
        while coming:
            stretch = coming.result()
            coming = begin(stretch.done, _STRETCH)
            words = place(stretch.heard, stretch.sound, stretch.parts, recogniser, aligner)
            at = stretch.start
            yield stretch.done, [Heard(each.text, each.start + at, each.end + at, each.confidence) for each in words]
    finally:
        ahead.shutdown(wait=False, cancel_futures=True)  # whoever does not want the rest does not wait for it


def _recognised(wav: Path, at: float, length: float, recogniser: Recogniser, hints: Sequence[str]) -> _Stretch:
    total = wav_length(wav)[0] / SPEECH_RATE
    sound = read_wav(wav, round(at * SPEECH_RATE), round(length * SPEECH_RATE))
    voiced = recogniser.voiced(sound)
    parts = chunks(voiced, sound, SPEECH_RATE)
    done = total
    if at + length < total:
        # The last chunk may go on beyond this stretch: leave it to the next one.
        done = at + parts.pop()[0] if len(parts) > 1 else at + (parts[-1][1] if parts else length)
        voiced = [span for span in voiced if span[0] < done - at]
    return _Stretch(at, done, sound, parts, listen(sound, parts, voiced, recogniser, hints))


def listen(
    sound: Sound, parts: Sequence[Span], voiced: Sequence[Span], recogniser: Recogniser, hints: Sequence[str] = ()
) -> list[Heard]:
    """The words in ``parts`` of a sound; voiced stretches that came out empty, or with too few words, are listened to again."""
    found = recogniser.recognise(sound, parts, hints)
    missed = unheard(voiced, found)
    if missed:
        again = recogniser.recognise(
            sound, [(max(a - 0.1, 0), min(b + 0.1, len(sound) / SPEECH_RATE)) for a, b in missed], hints
        )
        found = sorted([*found, *again], key=lambda word: word.start)
    return without_overlaps(repaired(found, sound, parts, voiced, recogniser, hints), len(sound) / SPEECH_RATE)


def place(
    words: Sequence[Heard], sound: Sound, parts: Sequence[Span], recogniser: Recogniser, aligner: Refiner
) -> list[Heard]:
    """Recognised words with better times, and with the sounds that nobody wrote down."""
    refined = aligner.refine_with_fillers(words, sound, parts)
    sounds = unwritten(refined, sound, usual_filler(recogniser.language))
    inside = [each for each in sounds if any(a <= each.start and each.end <= b for a, b in parts)]
    written = sorted([*refined, *inside], key=lambda word: word.start)
    return believed(written, sound, recogniser) if recogniser.language == ENGLISH else written


def unheard(voiced: Sequence[Span], words: Sequence[Heard]) -> list[Span]:
    """Stretches of at least 0.6 s in which there is voice but no word."""
    silent_words = subtract(voiced, [(word.start, word.end) for word in words])
    return [span for span in silent_words if span[1] - span[0] >= _UNHEARD]


def to_words(heard: Sequence[Heard], first_id: int = 1, speaker: str = "S1", language: str = ENGLISH) -> list[Word]:
    """Words of a transcript, numbered from ``first_id`` on."""
    return [
        Word(
            id=first_id + n,
            text=word.text,
            start=round(word.start, 3),
            end=round(word.end, 3),
            confidence=round(min(max(word.confidence, 0.0), 1.0), 3),
            speaker=speaker,
            kind=_kind(word.text, language),
        )
        for n, word in enumerate(heard)
    ]


def _kind(text: str, language: str) -> WordKind:
    if text == SOUND_TEXT:
        return "sound"
    return "filler" if is_filler_sound(text, language) else "word"


def transcribe(
    wav: Path, recogniser: Recogniser, aligner: Refiner, progress: Progress, hints: Sequence[str] = ()
) -> Transcript:
    """The transcript of a 16 kHz mono WAV."""
    duration = wav_length(wav)[0] / SPEECH_RATE
    words: list[Word] = []
    for done, heard in stretches(wav, recogniser, aligner, hints=hints):
        words += to_words(heard, len(words) + 1, language=recogniser.language)
        progress(done / duration)
    return Transcript(duration=round(duration, 3), language=recogniser.language, words=in_order(words))


def in_order(words: Sequence[Word]) -> tuple[Word, ...]:
    """The words with overlaps at the seams of stretches taken away."""
    placed: list[Word] = []
    at = 0.0
    for word in words:
        start = max(word.start, at)
        if word.end - start < 0.02:
            continue
        placed.append(word if start == word.start else with_changes(word, start=start))
        at = placed[-1].end
    return tuple(placed)
