"""Spoken sentences one after the other, as one recording with its words."""

import wave
from collections.abc import Sequence
from pathlib import Path

from hovvet.core.plan.model import Spoken
from hovvet.core.render.speaking import sound_file
from hovvet.core.time import SAMPLE_RATE
from hovvet.core.value import with_changes
from hovvet.core.words.transcript import Transcript, Word

_CHANNELS, _BYTES = 2, 2


def in_a_row(sentences: Sequence[Spoken], folder: Path, out: Path, between: float) -> Transcript:
    """Write sentences that are spoken already (their sounds in ``folder``) into one WAV, 48 kHz, with ``between`` seconds of silence
    before, between and after them; the words of all of them, in seconds of it."""
    silence = round(between * SAMPLE_RATE)
    words: list[Word] = []
    at = silence
    with wave.open(str(out), "wb") as target:
        target.setnchannels(_CHANNELS)
        target.setsampwidth(_BYTES)
        target.setframerate(SAMPLE_RATE)
        target.writeframes(bytes(silence * _CHANNELS * _BYTES))
        for each in sentences:
            own = Transcript.model_validate_json((folder / f"{each.media}.json").read_bytes())
            start = at / SAMPLE_RATE
            for word in own.words:
                words.append(
                    with_changes(
                        word, id=len(words) + 1, start=round(start + word.start, 3), end=round(start + word.end, 3)
                    )
                )
            with wave.open(str(sound_file(folder, each.media)), "rb") as source:
                samples = source.getnframes()
                target.writeframes(source.readframes(samples))
            target.writeframes(bytes(silence * _CHANNELS * _BYTES))
            at += samples + silence
    return Transcript(duration=round(at / SAMPLE_RATE, 3), words=tuple(words))
