"""Make the labelled set of word edges: speech of which is known when every word begins and ends.

Run by hand with the voices of ``make voices``: ``.voices/bin/python bench/labelled/make_edges.py``. The voice tells
how long each phone is; between two words without a pause it has a transition that belongs to both, and the label is
its middle. Two Opus files (the second is the same voice, shifted in pitch) with their words are kept in the repository.
"""

import json
import subprocess
import sys
import tempfile
from pathlib import Path

import numpy as np
import onnx
from piper import PiperVoice
from piper.patch_voice_with_alignment import add_alignment_output

HERE = Path(__file__).parent
sys.path.insert(0, str(HERE.parent.parent / "demo"))
sys.path.insert(0, str(HERE))

from make_set import SENTENCES
from make_speech import PITCH, RATE, voice_model

PAUSE = 0.11  # seconds: a longer transition is a pause, and belongs to neither word
SILENCE = (0.25, 0.6, 1.1)  # seconds between sentences, in turn
MARKS = set(",.;:!?")


def patched() -> PiperVoice:
    """The voice, made to tell the length of its phones."""
    source = voice_model()
    model = onnx.load(source)
    add_alignment_output(model)
    folder = Path(tempfile.mkdtemp())
    onnx.save(model, folder / "voice.onnx")
    (folder / "voice.onnx.json").write_bytes(source.with_name(source.name + ".json").read_bytes())
    return PiperVoice.load(folder / "voice.onnx")


def spoken(voice: PiperVoice, sentence: str) -> tuple[np.ndarray, list[tuple[float, float]]]:
    """Samples of a sentence, and where each of its words lies in it, in seconds."""
    (chunk,) = voice.synthesize(sentence, include_alignments=True)
    edges: list[tuple[float, float]] = []
    at, began, ended = 0, None, 0
    gap = 0

    def close(end: int) -> None:
        nonlocal began
        if began is not None:
            edges.append((began / RATE, end / RATE))
        began = None

    for phone in chunk.phoneme_alignments:
        name, length = phone.phoneme, int(phone.num_samples)
        if name in MARKS or name in (" ", "^", "$"):
            gap += length
        else:
            if gap:
                middle = at - gap // 2
                close(middle if gap <= PAUSE * RATE else ended)
                began = middle if gap <= PAUSE * RATE and edges else at
                gap = 0
            elif began is None:
                began = at
            ended = at + length
        at += length
    close(ended)
    return chunk.audio_float_array, edges


def main() -> None:
    """Both files."""
    voice = patched()
    parts, words, at = [np.zeros(RATE // 2, np.float32)], [], 0.5
    for n, line in enumerate(SENTENCES):
        sentence = line.replace(" |", "," if n % 3 == 0 else "")
        samples, edges = spoken(voice, sentence)
        texts = sentence.split()
        if len(texts) != len(edges):
            continue  # the voice says two of its words as one, so it does not tell where they part
        words += [
            {"text": text, "start": round(at + a, 4), "end": round(at + b, 4)}
            for text, (a, b) in zip(texts, edges, strict=True)
        ]
        silence = np.zeros(int(SILENCE[n % 3] * RATE), np.float32)
        parts += [samples, silence]
        at += (len(samples) + len(silence)) / RATE
    whole = np.concatenate(parts)
    whole += np.random.default_rng(9).normal(0, 0.0008, len(whole)).astype(np.float32)
    for name, pitch in PITCH.items():
        shift = f"rubberband=pitch={pitch}:formant=shifted," if pitch != 1 else ""
        out = HERE / f"edges-{name}.opus"
        command = ["ffmpeg", "-v", "error", "-y", "-f", "f32le", "-ar", str(RATE), "-ac", "1", "-i", "-", "-af"]
        command += [f"{shift}aresample=48000", "-c:a", "libopus", "-b:a", "32k", str(out)]
        subprocess.run(command, input=whole.astype(np.float32).tobytes(), check=True)
        print(out.name, f"{len(whole) / RATE:.0f} s, {len(words)} words")
    (HERE / "edges.json").write_text(json.dumps(words, indent=0) + "\n")


if __name__ == "__main__":
    main()
