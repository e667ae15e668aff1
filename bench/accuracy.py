"""Measure transcription and sweep against the labelled sets: ``python bench/accuracy.py [--careful] [--noise] [--why] [NAME…]``.

Prints for each set how many of the planted pieces would go by kind, how many finds are right and how much of the kept words
would be hurt; for the two voices with labelled edges also how far word edges are off and what is heard in the swept sound.
``--why`` lists what was missed, what was found wrongly and which words were hurt.
"""

import json
import sys
import tempfile
from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass
from pathlib import Path

import numpy as np
from rapidfuzz.distance import Levenshtein

HERE = Path(__file__).parent
sys.path.insert(0, str(HERE.parent))

from bench.sounds import RATE, decode, noise, write
from hovvet.core.compile.source import Source
from hovvet.core.compile.steps import compile
from hovvet.core.compile.target import Target
from hovvet.core.engines.whisper import WhisperRecogniser
from hovvet.core.media.info import MediaInfo
from hovvet.core.media.wav import read_wav
from hovvet.core.plan.outlets import outlet
from hovvet.core.render.mix import mix
from hovvet.core.sheet.applying import apply
from hovvet.core.sheet.cutting import kept_spans
from hovvet.core.sheet.starting import desk_sheet
from hovvet.core.spans import Span, intersect, merge, subtract
from hovvet.core.sweep.settings import SweepSettings
from hovvet.core.sweep.sweep import ALL_KINDS, find_silences, sweep, sweep_edit
from hovvet.core.words.timing import Aligner
from hovvet.core.words.transcribe import transcribe
from hovvet.core.words.transcript import Transcript
from hovvet.core.words.vocabulary import bare, is_filler_sound
from tests.compare import normal_words, word_error_rate

PLANTED = ("filler", "phrase", "repeat", "restart", "retake", "pause")
RECOGNISER, ALIGNER = WhisperRecogniser(), Aligner()


def covered(span: Span, by: Sequence[Span]) -> float:
    """The part of a span that lies in others, 0 to 1."""
    return sum(b - a for a, b in intersect([span], merge(by))) / (span[1] - span[0])


def prepare(path: Path, out: Path, under: float | None) -> None:
    """16 kHz mono WAV, with white noise this many dB under the speech if asked for."""
    sound = decode(path)
    write(out, sound if under is None else sound + noise(sound, under, 5))


def heard(wav: Path) -> Transcript:
    """What is recognised in a WAV."""
    return transcribe(wav, RECOGNISER, ALIGNER, lambda _part: None)


@dataclass(frozen=True)
class Score:
    """What a sweep did to one set."""

    planted: dict[str, tuple[int, int]]  # by kind: would go, planted
    right: tuple[int, int]  # finds of words that are right, all of them
    fillers: tuple[int, int]  # the same of fillers alone
    hurt: float  # of the time of kept words, 0 to 1
    why: list[str]

    def line(self) -> str:
        """The figures in one line."""
        counts = "  ".join(f"{kind} {a}/{b}" for kind, (a, b) in self.planted.items() if b)
        return (
            f"{counts}  finds right {self.right[0]}/{self.right[1]} (fillers {self.fillers[0]}/{self.fillers[1]})"
            f"  hurt {self.hurt:.2%}"
        )


def score(transcript: Transcript, sound: np.ndarray, truth: Sequence[dict], settings: SweepSettings) -> Score:
    """How a sweep with all kinds compares with what was planted."""
    finds = sweep(transcript, find_silences(sound, RATE), settings)
    sheet = desk_sheet("r", transcript.duration)
    sheet = apply(sheet, sweep_edit(sheet.pieces[0], transcript, finds, settings))
    kept = kept_spans(transcript, sheet.pieces[0])
    of_words = [find for find in finds.finds if find.kind != "pause"]
    words_out = merge([(find.start, find.end) for find in of_words])
    pauses_out = merge([(find.start, find.end) for find in finds.finds if find.kind == "pause"])
    why: list[str] = []
    planted = {}
    for kind in PLANTED:
        mine = [each for each in truth if each["label"] == kind]
        by = pauses_out if kind == "pause" else words_out
        missed = [each for each in mine if covered((each["start"], each["end"]), by) < 0.5]
        planted[kind] = (len(mine) - len(missed), len(mine))
        why += [f"missed {_told(each, transcript)}" for each in missed]
    too_much = merge([(t["start"], t["end"]) for t in truth if t["label"] not in ("pause", "keep")])
    wrong = [find for find in of_words if covered((find.start, find.end), too_much) < 0.5]
    why += [f"wrong {find.kind} at {find.start:.2f}: {find.text!r}" for find in wrong]
    fillers = [find for find in of_words if find.kind == "filler"]
    speech = [(t["start"], t["end"]) for t in truth if t["label"] == "keep" and t["text"]]
    for span in speech:
        lost = sum(b - a for a, b in subtract([span], kept))
        if lost > 0.08:
            why.append(
                f"hurt by {lost:.2f} s: {_told({'label': 'keep', 'start': span[0], 'end': span[1], 'text': ''}, transcript)}"
            )
    hurt = 1 - sum(b - a for a, b in intersect(merge(speech), kept)) / sum(b - a for a, b in speech)
    return Score(
        planted,
        (len(of_words) - len(wrong), len(of_words)),
        (sum(find not in wrong for find in fillers), len(fillers)),
        hurt,
        why,
    )


def _told(each: dict, transcript: Transcript) -> str:
    around = [w.text for w in transcript.words if w.end > each["start"] - 0.7 and w.start < each["end"] + 0.7]
    return f"{each['label']} {each['text']!r} at {each['start']:.2f}: heard {' '.join(around)!r}"


def measure(path: Path, under: float | None, scratch: Path, again: bool, why: bool) -> Score:
    """One set, clean or with noise; ``again``: the swept sound is listened to again."""
    truth = json.loads(path.with_suffix(".truth.json").read_text())
    wav = scratch / f"{path.stem}.wav"
    prepare(path, wav, under)
    transcript = heard(wav)
    sound = read_wav(wav)
    settings = SweepSettings(kinds=ALL_KINDS)
    made = score(transcript, sound, truth, settings)
    print(f"{path.stem}{'' if under is None else f', noise at {under:g} dB'}: {made.line()}", flush=True)
    for line in made.why if why else ():
        print(f"    {line}")
    if again:
        hear_again(transcript, sound, truth, settings, scratch)
    return made


def hear_again(
    transcript: Transcript, sound: np.ndarray, truth: Sequence[dict], settings: SweepSettings, scratch: Path
) -> None:
    """What is heard in the swept sound, against the same speech without what was planted."""
    finds = sweep(transcript, find_silences(sound, RATE), settings)
    sheet = desk_sheet("r", transcript.duration)
    sheet = apply(sheet, sweep_edit(sheet.pieces[0], transcript, finds, settings))
    media = MediaInfo(duration=transcript.duration, has_picture=False, has_sound=True)
    plan = compile(sheet, {"r": Source(transcript, media)}, Target(outlet("tall"), texts=False))
    upsampled = np.repeat(sound, 3)  # to the plan's 48 kHz and back again
    padded = np.concatenate([upsampled, np.zeros(48_000, np.float32)])
    swept = np.zeros((plan.samples, 2), np.float32)
    mix(plan, lambda _r, first, count: np.repeat(padded[first : first + count, None], 2, axis=1), swept)
    write(scratch / "swept.wav", swept[1::3, 0])
    kept = [t for t in truth if t["label"] == "keep" and t["text"]]
    should = normal_words(" ".join(t["text"] for t in kept))
    again = heard(scratch / "swept.wav")
    clean = np.concatenate([sound[round(t["start"] * RATE) : round(t["end"] * RATE) + RATE // 5] for t in kept])
    write(scratch / "clean.wav", clean)
    swept_rate = word_error_rate(should, normal_words(" ".join(w.text for w in again.words if w.kind != "filler")))
    clean_rate = word_error_rate(should, normal_words(" ".join(w.text for w in heard(scratch / "clean.wav").words)))
    fillers = Counter(w.text for w in again.words if is_filler_sound(w.text))
    print(
        f"  swept and heard again: word error rate {swept_rate:.3f} (without fillers {clean_rate:.3f}); fillers left {dict(fillers)}"
    )


def measure_edges(name: str, under: float | None, scratch: Path) -> None:
    """How far the edges of words that were recognised lie from where they are known to be."""
    truth = json.loads((HERE / "labelled" / "edges.json").read_text())
    wav = scratch / "edges.wav"
    prepare(HERE / "labelled" / f"edges-{name}.opus", wav, under)
    found = heard(wav).words
    off = []
    for op in Levenshtein.opcodes([bare(word["text"]) for word in truth], [bare(word.text) for word in found]):
        if op.tag == "equal":
            for n in range(op.src_end - op.src_start):
                label, word = truth[op.src_start + n], found[op.dest_start + n]
                off += [abs(word.start - label["start"]), abs(word.end - label["end"])]
    print(
        f"{name}, {'clean' if under is None else f'noise at {under:g} dB'}: {len(off)} word edges, "
        f"median {np.median(off) * 1000:.0f} ms, 95th percentile {np.percentile(off, 95) * 1000:.0f} ms"
    )


def added(scores: Sequence[Score]) -> str:
    """The figures of several sets together."""
    total = {kind: tuple(sum(each.planted[kind][n] for each in scores) for n in (0, 1)) for kind in PLANTED}
    right, of = (sum(each.right[n] for each in scores) for n in (0, 1))
    counts = "  ".join(f"{kind} {a}/{b} = {a / b:.1%}" for kind, (a, b) in total.items() if b)
    return (
        f"{counts}  finds right {right}/{of} = {right / of:.1%}  hurt at most {max(each.hurt for each in scores):.2%}"
    )


def main(arguments: Sequence[str]) -> None:
    """Print it all."""
    global RECOGNISER
    names = [each for each in arguments if not each.startswith("--")]
    if "--careful" in arguments:
        RECOGNISER = WhisperRecogniser(quality="careful")
    noises = (None, 20.0) if "--noise" in arguments else (None,)
    files = [path for path in sorted((HERE / "labelled").rglob("*.opus")) if path.with_suffix(".truth.json").exists()]
    scores = []
    with tempfile.TemporaryDirectory() as folder:
        for path in files:
            if names and path.stem not in names:
                continue
            edges = (HERE / "labelled" / f"edges-{path.stem}.opus").exists()
            for under in noises if edges else (None,):
                if edges:
                    measure_edges(path.stem, under, Path(folder))
                scores.append(measure(path, under, Path(folder), edges, "--why" in arguments))
    print(f"{len(scores)} sets: {added(scores)}")


if __name__ == "__main__":
    main(sys.argv[1:])
