"""Make the labelled sets of many voices for the sweep: speech with planted fillers, repeats and restarts.

Run by hand with the voices of ``make voices`` and, from Debian, flite, espeak-ng, festival with festvox-kallpc16k,
festvox-kdlpc16k and festvox-us-slt-hts: ``.voices/bin/python bench/labelled/make_voices.py``. Each set is an Opus file in
``voices`` with its truth, of the form that ``make_set.py`` writes. What is said comes from the invented talks; what those say
twice by themselves is "unmarked": neither to be found nor wrong to find. Names of sets make those alone.
"""

import json
import random
import re
import subprocess
import sys
import tempfile
from collections.abc import Callable, Iterator
from pathlib import Path

import numpy as np

HERE = Path(__file__).parent
sys.path[:0] = [str(HERE.parent.parent / "demo"), str(HERE.parent.parent)]

import make_speech

from bench.sounds import decode, hall, loudness, music

RATE = make_speech.RATE
FILLERS = ["Um,", "Uh,", "Um.", "Uh,", "Um,"]
PHRASES = ["you know,", "I mean,", "you know,"]
WANTED = {"filler": 12, "phrase": 3, "repeat": 4, "restart": 4}
MEANT = ["Dry, dry, dry.", "It was very, very cold.", "No, no, no.", "Again and again and again.", "Slowly, slowly."]
SMALL = (
    "a",
    "and",
    "at",
    "but",
    "in",
    "of",
    "on",
    "or",
    "so",
    "that",
    "the",
    "then",
    "up",
    "was",
    "i",
    "it",
    "to",
    "them",
)
Parts = list[tuple[str, str, str | float]]  # label, voice, words or seconds of silence
Say = Callable[[list[str]], list[np.ndarray]]


def said_by(command: list[str], stdin: bool = False) -> Say:
    """Speech by a command that writes a WAV; ``{text}`` and ``{out}`` stand for what is said and where."""

    def say(texts: list[str]) -> list[np.ndarray]:
        made = []
        with tempfile.TemporaryDirectory() as folder:
            out = Path(folder) / "said.wav"
            for text in texts:
                words = [part.format(text=text, out=out) for part in command]
                subprocess.run(words, input=text.encode() if stdin else None, check=True)
                samples = decode(out, rate=RATE)
                loud = np.flatnonzero(np.abs(samples) > 0.01)
                made.append(0.12 / loudness(samples) * samples[max(loud[0] - 300, 0) : loud[-1] + 900])
        return made

    return say


def flite(name: str, stretch: float = 1.0) -> Say:
    """A voice of flite."""
    return said_by(["flite", "-voice", name, "--setf", f"duration_stretch={stretch}", "-t", "{text}", "-o", "{out}"])


def espeak(name: str, speed: int, pitch: int) -> Say:
    """A voice of espeak-ng."""
    return said_by(["espeak-ng", "-v", name, "-s", str(speed), "-p", str(pitch), "-w", "{out}", "{text}"])


def festival(name: str) -> Say:
    """A voice of festival."""
    return said_by(["text2wave", "-eval", f"(voice_{name})", "-o", "{out}"], stdin=True)


def piper(pitch: float) -> Say:
    """The voice of ``make voices``, shifted in pitch."""
    return lambda texts: [0.12 / loudness(samples) * samples for samples in make_speech.speak(texts, pitch)]


VOICES: dict[str, Say] = {
    "flite-slt": flite("slt"), "flite-rms": flite("rms", 1.1), "flite-awb": flite("awb"), "flite-kal": flite("kal16", 1.1),
    "espeak-us": espeak("en-us", 150, 45), "espeak-scottish": espeak("en-gb-scotland+f3", 150, 55),
    "espeak-caribbean": espeak("en-029", 145, 40), "festival-kal": festival("kal_diphone"),
    "festival-ked": festival("ked_diphone"), "festival-slt": festival("cmu_us_slt_arctic_hts"),
    "piper-high": piper(1.22), "piper-deep": piper(0.75),
}  # fmt: skip


def sentences() -> list[str]:
    """The sentences of 6 to 22 words of the invented talks."""
    found = []
    for file in sorted((HERE.parent / "talks").glob("*.txt")):
        for line in file.read_text().splitlines():
            if line.startswith(("#", "===")) or ":" not in line:
                continue
            found += re.findall(r"[^.?!]+[.?!]", line.split(":", 1)[1].strip())
    # One that says something twice by itself would be a find nobody planted.
    return [each.strip() for each in found if 6 <= len(each.split()) <= 22 and not _twice(each.lower().split())]


def _twice(words: list[str]) -> bool:
    bare = [word.strip(".,?!") for word in words]
    return any(bare[n : n + 2] == bare[m : m + 2] for n in range(len(bare) - 2) for m in range(n + 1, n + 6))


def halves(sentence: str, rng: random.Random) -> tuple[str, str]:
    """A sentence in two: at a comma, else before a word that a phrase begins with, else in its middle."""
    words = sentence.split()
    places = [n for n in range(2, len(words) - 3) if words[n - 1].endswith(",")]
    begins = (
        "and",
        "but",
        "that",
        "because",
        "the",
        "a",
        "in",
        "on",
        "at",
        "to",
        "for",
        "with",
        "it",
        "they",
        "we",
        "he",
        "she",
    )
    places = places or [n for n in range(3, len(words) - 3) if words[n].lower() in begins] or [len(words) // 2]
    at = rng.choice(places)
    return " ".join(words[:at]), " ".join(words[at:])


def plan(voices: list[str], pool: list[str], rng: random.Random) -> Parts:
    """What is said and how long the silences are, in order; the label of what stays is "keep". Two voices take turns."""
    todo = [kind for kind, count in WANTED.items() for _ in range(count)]
    rng.shuffle(todo)
    thrice, stopped, meant = 1, 2, rng.sample(MEANT, 2)
    parts: Parts = []
    for n in range(len(todo) + 4):
        who = voices[n // 3 % len(voices)]
        one, two = halves(pool.pop(), rng)
        if n in (5, 15):
            parts += [("keep", who, meant.pop()), ("keep", who, rng.uniform(0.35, 0.5))]
        if n >= len(todo):
            parts += [("keep", who, f"{one} {two}"), ("keep", who, rng.uniform(0.35, 0.5))]
            continue
        kind, words = todo[n], two.rstrip(".?!").split()
        if kind == "repeat":
            too_much = " ".join(words[: rng.choice([1, 2])]).rstrip(",") + ","
            planted, thrice = [too_much] * (1 + thrice), 0
        elif kind == "restart" and stopped:
            stopped -= 1
            planted = [f"{' '.join(words[:3]).rstrip(',')}, {rng.choice(['we only', 'and we', 'it was the'])}."]
        elif kind == "restart":
            planted = [" ".join(words[:2]).rstrip(",") + rng.choice([" the,", " a,", " to,"])]
        else:
            planted = [rng.choice(FILLERS if kind == "filler" else PHRASES)]
        parts += [("keep", who, one.rstrip(",") + ","), ("keep", who, rng.uniform(0.06, 0.3))]
        for each in planted:
            parts += [(kind, who, each), ("keep", who, rng.uniform(0.06, 0.3))]
        parts += [("keep", who, two), ("keep", who, rng.uniform(0.3, 0.55))]
    return parts


def thoughtful(voice: str, pool: list[str], rng: random.Random) -> Parts:
    """Speech of one who thinks while speaking: small words stand alone between pauses, and all of it is meant."""
    parts: Parts = []
    for sentence in pool:
        words = sentence.split()
        places = [n for n in range(2, len(words) - 2) if words[n].lower() in SMALL]
        if not places:
            continue
        at = rng.choice(places)
        for each in (" ".join(words[:at]), words[at] + ",", " ".join(words[at + 1 :])):
            parts += [("keep", voice, each), ("keep", voice, rng.uniform(0.1, 0.3))]
        parts.append(("keep", voice, rng.uniform(0.2, 0.4)))
        if len(parts) > 7 * 24:
            break
    return parts


def sets() -> Iterator[tuple[str, list[str], float | None, bool]]:
    """(name, voices, dB of music under the speech, in a hall) of each."""
    for name in VOICES:
        yield name, [name], None, False
    yield "talk-of-two", ["flite-slt", "piper-deep"], None, False
    yield "two-in-a-hall", ["flite-rms", "espeak-scottish"], None, True
    yield "under-music", ["festival-slt", "piper-high"], 18.0, False
    for name in ("flite-slt", "flite-rms", "espeak-us", "piper-high"):
        yield f"thoughtful-{name}", [name], None, False


def make(name: str, voices: list[str], soft: float | None, hall: bool, seed: int, pool: list[str]) -> None:
    """One set."""
    chance = random.Random(seed)
    parts = thoughtful(voices[0], pool, chance) if name.startswith("thoughtful") else plan(voices, pool, chance)
    spoken = {}
    for who in voices:
        spoken[who] = iter(VOICES[who]([part for _, voice, part in parts if voice == who and isinstance(part, str)]))
    sound: list[np.ndarray] = [np.zeros(RATE // 2, np.float32)]
    at, truth = len(sound[0]), []
    for label, who, part in parts:
        samples = next(spoken[who]) if isinstance(part, str) else np.zeros(int(part * RATE), np.float32)
        if isinstance(part, str):
            place = {"start": round(at / RATE, 3), "end": round((at + len(samples)) / RATE, 3)}
            unmarked = label == "keep" and any(phrase in part.lower() for phrase in ("you know,", "i mean"))
            truth.append({"label": "unmarked" if unmarked else label, **place, "text": part, "speaker": who})
        sound.append(samples)
        at += len(samples)
    rng = np.random.default_rng(seed)
    whole = np.concatenate(sound)
    whole = hall(whole, rng, RATE) if hall else whole
    whole = whole + rng.normal(0, 0.0006, len(whole)).astype(np.float32)
    if soft is not None:
        whole += music(len(whole), RATE) * np.float32(0.12 * 10 ** (-soft / 20))
    out = HERE / "voices" / f"{name}.opus"
    encode = ["ffmpeg", "-v", "error", "-y", "-f", "f32le", "-ar", str(RATE), "-ac", "1", "-i", "-"]
    subprocess.run(
        [*encode, "-c:a", "libopus", "-b:a", "24k", str(out)],
        input=np.clip(whole, -1, 1).astype(np.float32).tobytes(), check=True,
    )  # fmt: skip
    out.with_suffix(".truth.json").write_text(json.dumps(truth, indent=0) + "\n")
    print(out.name, f"{len(whole) / RATE:.0f} s")


if __name__ == "__main__":
    (HERE / "voices").mkdir(exist_ok=True)
    pool = sentences()
    for seed, (name, voices, soft, hall) in enumerate(sets()):
        if sys.argv[1:] and name not in sys.argv[1:]:
            continue
        mixed = random.Random(100 + seed).sample(pool, len(pool))
        make(name, voices, soft, hall, 300 + seed, mixed)
