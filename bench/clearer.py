"""Clearer speech: SI-SDR and word error before and after, at 10 dB of white noise, hum and babble, in a small hall, recorded too
loudly, and clean; and what it takes.

    .venv/bin/python bench/clearer.py [seconds of the talk]
"""

import json
import sys
import tempfile
import time
import wave
from pathlib import Path

import numpy as np
from scipy.signal import fftconvolve

sys.path.insert(0, str(Path(__file__).parent.parent))

from hovvet.core.engines.whisper import WhisperRecogniser
from hovvet.core.media.decode import sound, speech_wav
from hovvet.core.media.probe import probe
from hovvet.core.render.clearing import write_clearer
from hovvet.core.words.timing import Aligner
from hovvet.core.words.transcribe import transcribe
from tests.compare import normal_words, word_error_rate
from tests.core.test_clearer import likeness

RATE = 48_000
SPEECH = Path("demo/speech")


def noises(speech: np.ndarray) -> dict[str, np.ndarray]:
    """The speech, spoiled in each way."""
    chance = np.random.default_rng(0)
    t = np.arange(len(speech)) / RATE
    others = [
        sound(SPEECH / f"{name}.opus", 30, len(speech) / RATE, RATE, 1)[:, 0] for name in ("interview", "open-night")
    ]
    babble = sum(np.roll(other, n * 333_333) for other in others for n in range(3))
    hum = sum(np.sin(2 * np.pi * 50 * n * t + n) / n for n in range(1, 9))
    tail = chance.standard_normal(RATE // 2) * np.exp(-6.9 * np.arange(RATE // 2) / (RATE / 2))
    tail[:200] = 0
    tail *= np.sqrt(0.15 / (tail**2).sum())
    tail[0] = 1

    def at_ten(noise: np.ndarray) -> np.ndarray:
        return speech + noise * np.sqrt((speech**2).mean() / (noise**2).mean() / 10)

    return {
        "white noise": at_ten(chance.standard_normal(len(speech))),
        "hum": at_ten(hum),
        "babble": at_ten(babble),
        "small hall": fftconvolve(speech, tail)[: len(speech)],
        "too loud by 9 dB": np.clip(speech / np.abs(speech).max() * 10 ** (9 / 20), -1, 1),
        "clean": speech,
    }


def main(seconds: float) -> None:
    """Print a line for each."""
    speech = sound(SPEECH / "talk.opus", 0, seconds, RATE, 1)[:, 0]
    recogniser, aligner = WhisperRecogniser(), Aligner()
    told = json.loads((SPEECH / "talk.truth.json").read_text())
    said = [word for each in told["utterances"] if each["end"] < seconds for word in normal_words(each["text"])]
    with tempfile.TemporaryDirectory() as holder:
        folder = Path(holder)

        def heard(file: Path) -> float:
            speech_wav(file, folder / "speech.wav", seconds)
            words = transcribe(folder / "speech.wav", recogniser, aligner, lambda _part: None).words
            text = " ".join(word.text for word in words if word.start < seconds)
            return word_error_rate(said, normal_words(text))

        for name, spoiled in noises(speech).items():
            level = 0.7 / np.abs(spoiled).max()
            with wave.open(str(folder / "in.wav"), "wb") as wav:
                wav.setparams((1, 2, RATE, 0, "NONE", ""))
                wav.writeframes((spoiled * level * 32767).astype("<i2").tobytes())
            media = probe(folder / "in.wav")
            line = f"{name:18} SI-SDR {likeness(speech, spoiled):5.1f} dB, word error {heard(folder / 'in.wav'):.3f};"
            for strength in ("light", "medium", "strong"):
                out = folder / f"{strength}.flac"
                before = time.process_time()
                write_clearer(folder / "in.wav", media, strength, out)
                took = (time.process_time() - before) / seconds
                after = sound(out, 0, seconds, RATE, 1)[:, 0]
                line += f" {strength} {likeness(speech, after):5.1f}, {heard(out):.3f} ({took:.2f} CPU s a second);"
            print(line, flush=True)


if __name__ == "__main__":
    main(float(sys.argv[1]) if len(sys.argv) > 1 else 120.0)
