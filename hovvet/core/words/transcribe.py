"""A whole recording to a transcript, stretch by stretch, so that the first words can be read at once."""

from collections.abc import Callable, Iterator, Sequence
from pathlib import Path

from hovvet.core.engines.speech import Heard, Recogniser
from hovvet.core.media.decode import SPEECH_RATE
from hovvet.core.media.wav import read_wav, wav_length
from hovvet.core.sound.silence import Sound
from hovvet.core.spans import Span, subtract
from hovvet.core.words.chunks import chunks
from hovvet.core.words.fuller import mended
from hovvet.core.words.sounds import SOUND_TEXT, unwritten
from hovvet.core.words.timing import Refiner, without_overlaps
from hovvet.core.words.transcript import Transcript, Word, WordKind
from hovvet.core.words.vocabulary import is_filler_sound

_FIRST_STRETCH = 30.0  # seconds: short, so that the first words come soon
_STRETCH = 120.0
_UNHEARD = 0.6  # seconds of voice without a word that are listened to again

Progress = Callable[[float], None]


def stretches(
    wav: Path, recogniser: Recogniser, aligner: Refiner, start: float = 0.0, hints: Sequence[str] = ()
) -> Iterator[tuple[float, list[Heard]]]:
    """Recognise a 16 kHz mono WAV from ``start`` seconds on.

    Yields (seconds done so far, words of this stretch, on the recording's clock)
    in order. ``start`` may be any "seconds done" of an earlier run, to go on with.
    """
    total = wav_length(wav)[0] / SPEECH_RATE
    at = start
    while at < total:
        length = _FIRST_STRETCH if at == start else _STRETCH
        sound = read_wav(wav, round(at * SPEECH_RATE), round(length * SPEECH_RATE))
        voiced = recogniser.voiced(sound)
        last = at + length >= total
        parts = chunks(voiced, sound, SPEECH_RATE)
        if last:
            done = total
        else:
            # The last chunk may go on beyond this stretch: leave it to the next one.
            done = at + parts.pop()[0] if len(parts) > 1 else at + (parts[-1][1] if parts else length)
            voiced = [span for span in voiced if span[0] < done - at]
        heard = listen(sound, parts, voiced, recogniser, aligner, hints)
        yield done, [Heard(word.text, word.start + at, word.end + at, word.confidence) for word in heard]
        at = done


def listen(
    sound: Sound, parts: Sequence[Span], voiced: Sequence[Span], recogniser: Recogniser, aligner: Refiner,
    hints: Sequence[str] = (),
) -> list[Heard]:  # fmt: skip
    """The words in ``parts`` of a sound; voiced stretches that came out empty are listened to a second time."""
    heard = recogniser.recognise(sound, parts, hints)
    missed = unheard(voiced, heard)
    if missed:
        again = recogniser.recognise(
            sound, [(max(a - 0.1, 0), min(b + 0.1, len(sound) / SPEECH_RATE)) for a, b in missed], hints
        )
        heard = sorted([*heard, *again], key=lambda word: word.start)
    heard = mended(heard, sound, parts, voiced, recogniser, hints)
    written = without_overlaps(heard, len(sound) / SPEECH_RATE)
    placed = aligner.refine_with_fillers(written, sound, parts)
    inside = [each for each in unwritten(placed, sound) if any(a <= each.start and each.end <= b for a, b in parts)]
    return sorted([*placed, *inside], key=lambda word: word.start)


def unheard(voiced: Sequence[Span], heard: Sequence[Heard]) -> list[Span]:
    """Stretches of at least 0.6 s in which there is voice but no word."""
    silent_words = subtract(voiced, [(word.start, word.end) for word in heard])
    return [span for span in silent_words if span[1] - span[0] >= _UNHEARD]


def to_words(heard: Sequence[Heard], first_id: int = 1, speaker: str = "S1") -> list[Word]:
    """Words of a transcript, numbered from ``first_id`` on."""
    return [
        Word(
            id=first_id + n,
            text=word.text,
            start=round(word.start, 3),
            end=round(word.end, 3),
            confidence=round(min(max(word.confidence, 0.0), 1.0), 3),
            speaker=speaker,
            kind=_kind(word.text),
        )
        for n, word in enumerate(heard)
    ]


def _kind(text: str) -> WordKind:
    if text == SOUND_TEXT:
        return "sound"
    return "filler" if is_filler_sound(text) else "word"


def transcribe(
    wav: Path, recogniser: Recogniser, aligner: Refiner, progress: Progress, hints: Sequence[str] = ()
) -> Transcript:
    """The transcript of a 16 kHz mono WAV."""
    duration = wav_length(wav)[0] / SPEECH_RATE
    words: list[Word] = []
    for done, heard in stretches(wav, recogniser, aligner, hints=hints):
        words += to_words(heard, len(words) + 1)
        progress(done / duration)
    return Transcript(duration=round(duration, 3), words=in_order(words))


def in_order(words: Sequence[Word]) -> tuple[Word, ...]:
    """The words with overlaps at the seams of stretches taken away."""
    placed: list[Word] = []
    at = 0.0
    for word in words:
        start = max(word.start, at)
        if word.end - start < 0.02:
            continue
        placed.append(word if start == word.start else word.model_copy(update={"start": start}))
        at = placed[-1].end
    return tuple(placed)
