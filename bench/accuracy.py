"""Measure transcription and sweep against the labelled set: ``python bench/accuracy.py [--noise]``.

Prints, for each file: how many of the planted pieces were found by kind, how precise the
filler finds are, how much of the kept words would be hurt, and what is heard in the swept sound.
"""

import json
import subprocess
import sys
import tempfile
import wave
from collections import Counter
from collections.abc import Sequence
from pathlib import Path

import numpy as np
from rapidfuzz.distance import Levenshtein

HERE = Path(__file__).parent
sys.path.insert(0, str(HERE.parent))

from hovvet.core.engines.whisper import WhisperRecogniser
from hovvet.core.media.info import MediaInfo
from hovvet.core.media.wav import read_wav
from hovvet.core.plan.compile import compile
from hovvet.core.plan.kept import kept_spans
from hovvet.core.plan.outlets import outlet
from hovvet.core.plan.source import Source
from hovvet.core.plan.target import Target
from hovvet.core.sheet.applying import apply
from hovvet.core.sheet.starting import desk_sheet
from hovvet.core.sound.mix import mix
from hovvet.core.spans import Span, intersect, merge
from hovvet.core.sweep.settings import SweepSettings
from hovvet.core.sweep.sweep import ALL_KINDS, find_silences, sweep, sweep_edit
from hovvet.core.words.timing import Aligner
from hovvet.core.words.transcribe import transcribe
from hovvet.core.words.transcript import Transcript
from hovvet.core.words.vocabulary import bare, is_filler_sound
from tests.compare import normal_words, word_error_rate

RATE = 16_000
PLANTED = ("filler", "phrase", "repeat", "restart", "retake", "pause")
RECOGNISER, ALIGNER = WhisperRecogniser(), Aligner()


def covered(span: Span, by: Sequence[Span]) -> float:
    """The part of a span that lies in others, 0 to 1."""
    return sum(b - a for a, b in intersect([span], merge(by))) / (span[1] - span[0])


def decode(path: Path, out: Path, noise: float | None) -> None:
    """16 kHz mono WAV, with white noise this many dB under the speech if asked for."""
    command = ["ffmpeg", "-v", "error", "-i", str(path), "-ac", "1", "-ar", str(RATE), "-f", "f32le", "-"]
    sound = np.frombuffer(subprocess.run(command, capture_output=True, check=True).stdout, np.float32)
    if noise is not None:
        speech = np.sqrt(np.mean(sound[np.abs(sound) > 0.01] ** 2))
        sound = sound + np.random.default_rng(5).normal(0, speech * 10 ** (-noise / 20), len(sound))
    write(out, sound)


def write(out: Path, sound: np.ndarray) -> None:
    """16-bit WAV."""
    with wave.open(str(out), "wb") as wav:
        wav.setnchannels(1)
        wav.setsampwidth(2)
        wav.setframerate(RATE)
        wav.writeframes((np.clip(sound, -1, 1) * 32767).astype("<i2").tobytes())


def heard(wav: Path) -> Transcript:
    """What is recognised in a WAV."""
    return transcribe(wav, RECOGNISER, ALIGNER, lambda _part: None)


def measure(name: str, noise: float | None, scratch: Path) -> None:
    """One file, clean or with noise."""
    truth = json.loads((HERE / "labelled" / f"{name}.truth.json").read_text())
    wav = scratch / f"{name}.wav"
    decode(HERE / "labelled" / f"{name}.opus", wav, noise)
    transcript = heard(wav)
    sound = read_wav(wav)
    settings = SweepSettings(kinds=ALL_KINDS)
    finds = sweep(transcript, find_silences(sound, RATE), settings)
    of = {kind: [(f.start, f.end) for f in finds.finds if f.kind == kind] for kind in PLANTED}
    words_out = merge([span for kind in PLANTED if kind != "pause" for span in of[kind]])
    at = {kind: [(t["start"], t["end"]) for t in truth if t["label"] == kind] for kind in (*PLANTED, "keep")}

    print(f"{name}, {'clean' if noise is None else f'noise at {noise:g} dB'}")
    for kind in PLANTED:
        by = of["pause"] if kind == "pause" else words_out
        found = sum(covered(span, by) >= 0.5 for span in at[kind]) if by else 0
        own = sum(any(covered(span, [each]) >= 0.5 for each in of[kind]) for span in at[kind])
        print(
            f"  {kind:8} planted {len(at[kind]):3}, would go {found:3} ({found / len(at[kind]):4.0%}), as this kind {own:3}; finds {len(of[kind])}"
        )
    planted = merge([span for kind in PLANTED if kind != "pause" for span in at[kind]])
    right = sum(covered(span, planted) >= 0.5 for span in of["filler"])
    print(f"  filler precision {right}/{len(of['filler'])} = {right / max(len(of['filler']), 1):.1%}")

    sheet = desk_sheet("r", transcript.duration)
    sheet = apply(sheet, sweep_edit(sheet.pieces[0], transcript, finds, settings))
    kept = kept_spans(transcript, sheet.pieces[0])
    speech = [span for span, t in zip(at["keep"], (t for t in truth if t["label"] == "keep"), strict=True) if t["text"]]
    total = sum(b - a for a, b in speech)
    left = sum(b - a for a, b in intersect(merge(speech), kept))
    print(f"  kept words hurt {1 - left / total:.2%} of their time")

    media = MediaInfo(duration=transcript.duration, has_picture=False, has_sound=True)
    plan = compile(sheet, {"r": Source(transcript, media)}, Target(outlet("tall"), texts=False))
    upsampled = np.repeat(sound, 3)  # to the plan's 48 kHz and back again
    padded = np.concatenate([upsampled, np.zeros(48_000, np.float32)])
    swept = np.zeros((plan.samples, 2), np.float32)
    mix(plan, lambda _r, first, count: np.repeat(padded[first : first + count, None], 2, axis=1), swept)
    write(scratch / "swept.wav", swept[1::3, 0])
    should = normal_words(" ".join(t["text"] for t in truth if t["label"] == "keep"))
    again = heard(scratch / "swept.wav")
    clean = np.concatenate([sound[round(a * RATE) : round(b * RATE) + RATE // 5] for a, b in speech])
    write(scratch / "clean.wav", clean)
    swept_rate = word_error_rate(should, normal_words(" ".join(w.text for w in again.words if w.kind != "filler")))
    clean_rate = word_error_rate(should, normal_words(" ".join(w.text for w in heard(scratch / "clean.wav").words)))
    fillers = Counter(w.text for w in again.words if is_filler_sound(w.text))
    print(
        f"  swept and heard again: word error rate {swept_rate:.3f} (without fillers {clean_rate:.3f}); fillers left {dict(fillers)}"
    )


def measure_edges(name: str, noise: float | None, scratch: Path) -> None:
    """How far the edges of words that were recognised lie from where they are known to be."""
    truth = json.loads((HERE / "labelled" / "edges.json").read_text())
    wav = scratch / "edges.wav"
    decode(HERE / "labelled" / f"edges-{name}.opus", wav, noise)
    found = heard(wav).words
    off = []
    for op in Levenshtein.opcodes([bare(word["text"]) for word in truth], [bare(word.text) for word in found]):
        if op.tag == "equal":
            for n in range(op.src_end - op.src_start):
                label, word = truth[op.src_start + n], found[op.dest_start + n]
                off += [abs(word.start - label["start"]), abs(word.end - label["end"])]
    print(
        f"{name}, {'clean' if noise is None else f'noise at {noise:g} dB'}: {len(off)} word edges, "
        f"median {np.median(off) * 1000:.0f} ms, 95th percentile {np.percentile(off, 95) * 1000:.0f} ms"
    )


if __name__ == "__main__":
    with tempfile.TemporaryDirectory() as folder:
        for voice in ("maren", "tolliver"):
            for noise in (None, 20.0) if "--noise" in sys.argv else (None,):
                measure_edges(voice, noise, Path(folder))
                measure(voice, noise, Path(folder))
