"""What is lost of speech in made voices and rooms: ``python bench/hearing.py [--careful] [NAME…]``.

Reads of the invented talks by the voices of espeak-ng, and parts of the demo's open night, spoiled in one way each. Prints the
word error rate, the longest run of said words that is missing, and CPU seconds for each second of sound.
"""

import json
import resource
import subprocess
import sys
import tempfile
from collections.abc import Callable, Iterator, Sequence
from pathlib import Path

import numpy as np
from rapidfuzz.distance import Levenshtein

HERE = Path(__file__).parent
sys.path.insert(0, str(HERE.parent))

from bench.sounds import RATE, Sound, decode, loudness, write
from hovvet.core.engines.whisper import WhisperRecogniser
from hovvet.core.words.timing import Aligner
from hovvet.core.words.transcribe import transcribe
from tests.compare import normal_words, word_error_rate
from tests.talks import marked_talks

# Voices of espeak-ng: accent, words a minute, pitch.
VOICES = {
    "american": ("en-us", 150, 45), "british": ("en-gb", 160, 40), "scottish": ("en-gb-scotland", 150, 50),
    "caribbean": ("en-029", 150, 55), "lancaster": ("en-gb-x-gbclan", 155, 35), "fast": ("en-us", 215, 50),
    "slow": ("en-gb", 105, 45), "high": ("en-us+f3", 155, 60), "west": ("en-gb-x-gbcwmd", 180, 30),
    # English read by the voices of other languages: the strongest accents there are.
    "german": ("de", 140, 45), "french": ("fr", 145, 50), "italian": ("it", 140, 50), "dutch": ("nl", 145, 45),
}  # fmt: skip
_SECONDS = 75.0  # of each part
_WORDS = 190


def say(text: str, voice: str, speed: int, pitch: int) -> Sound:
    """A text read by espeak-ng, 16 kHz mono."""
    with tempfile.TemporaryDirectory() as folder:
        out = Path(folder) / "said.wav"
        command = ["espeak-ng", "-v", voice, "-s", str(speed), "-p", str(pitch), "-g", "3", "-w", str(out), text]
        subprocess.run(command, check=True)
        return decode(out)


def part(start: float) -> tuple[Sound, list[str]]:
    """A part of the demo's open night, and the words that are said in it, without fillers."""
    demo = HERE.parent / "demo" / "speech"
    truth = json.loads((demo / "open-night.truth.json").read_text())["utterances"]
    own = [each for each in truth if each["start"] >= start and each["end"] <= start + _SECONDS]
    sound = decode(
        demo / "open-night.opus",
        "-ss",
        f"{own[0]['start'] - 0.2:.2f}",
        "-t",
        f"{own[-1]['end'] - own[0]['start'] + 0.4:.2f}",
    )
    return sound, [word for word in normal_words(" ".join(each["text"] for each in own)) if word not in ("um", "uh")]


def _coded(sound: Sound, *codec: str) -> Sound:
    with tempfile.TemporaryDirectory() as folder:
        wav, out = Path(folder) / "in.wav", Path(folder) / "out.mka"
        write(wav, sound)
        subprocess.run(["ffmpeg", "-v", "error", "-i", str(wav), *codec, str(out)], check=True)
        return decode(out)


def _music(sound: Sound) -> Sound:
    t = np.arange(len(sound)) / RATE
    chords = sum(
        np.sin(2 * np.pi * f * t) * (0.6 + 0.4 * np.sin(2 * np.pi * 0.5 * t + f)) for f in (220, 277, 330, 440)
    )
    beat = (np.sin(2 * np.pi * 90 * t) * np.exp(-((t * 2) % 1) * 9)).astype(np.float32)
    music = (chords / 4 + beat).astype(np.float32)
    return sound + music * (loudness(sound) * 10 ** (-14 / 20) / float(np.sqrt(np.mean(music**2))))


def _room(sound: Sound) -> Sound:
    rng = np.random.default_rng(3)
    n = int(0.45 * RATE)
    tail = rng.normal(0, 1, n) * np.exp(-np.arange(n) / (0.12 * RATE))
    tail[0] = 8
    made = np.convolve(sound, tail / np.abs(tail).sum() * 3)[: len(sound)]
    return made.astype(np.float32)


SPOILT: dict[str, Callable[[Sound], Sound]] = {
    "music": _music,
    "room": _room,
    "64 kbit": lambda sound: _coded(sound, "-c:a", "libmp3lame", "-b:a", "64k"),
    "clipped": lambda sound: np.clip(sound * 8, -0.5, 0.5),
    "hum": lambda sound: (
        sound + (0.5 * loudness(sound) * np.sin(2 * np.pi * 50 * np.arange(len(sound)) / RATE)).astype(np.float32)
    ),
    "quick": lambda sound: _coded(sound, "-af", "atempo=1.45"),
    "two at once": lambda sound: sound + 0.3 * np.roll(sound, int(31 * RATE)),
    "quiet": lambda sound: sound * 0.03 + np.random.default_rng(4).normal(0, 0.0004, len(sound)).astype(np.float32),
}


def sets() -> Iterator[tuple[str, Sound, list[str]]]:
    """(name, sound, words said) of each."""
    talks = marked_talks()
    for n, (name, voice) in enumerate(VOICES.items()):
        words = talks[n % len(talks)].transcript.words[20 * n : 20 * n + _WORDS]
        text = " ".join(word.text for word in words)
        yield name, say(text, *voice), normal_words(text)
    for n, (name, spoil) in enumerate(SPOILT.items()):
        sound, words = part(20.0 + 80 * n)
        yield name, spoil(sound), words


def longest_lost(said: Sequence[str], heard: Sequence[str]) -> tuple[int, str]:
    """The longest run of words that are missing, more than come in their place."""
    worst, where = 0, ""
    run_lost, run_words = 0, []
    for op in Levenshtein.opcodes(list(said), list(heard)):
        lost = (op.src_end - op.src_start) - (op.dest_end - op.dest_start)
        if op.tag == "equal" and op.src_end - op.src_start > 1:
            run_lost, run_words = 0, []
            continue
        run_lost += lost
        run_words += said[op.src_start : op.src_end]
        if run_lost > worst:
            worst, where = run_lost, " ".join(run_words)
    return worst, where


def main(names: Sequence[str]) -> None:
    """Print it all."""
    careful = "--careful" in names
    names = [name for name in names if name != "--careful"]
    recogniser, aligner = WhisperRecogniser(quality="careful" if careful else "quick"), Aligner()
    with tempfile.TemporaryDirectory() as folder:
        for name, sound, said in sets():
            if names and name not in names:
                continue
            wav = Path(folder) / "sound.wav"
            write(wav, sound)
            before = resource.getrusage(resource.RUSAGE_SELF)
            words = transcribe(wav, recogniser, aligner, lambda _part: None).words
            after = resource.getrusage(resource.RUSAGE_SELF)
            cpu = after.ru_utime + after.ru_stime - before.ru_utime - before.ru_stime
            heard = normal_words(" ".join(word.text for word in words if word.kind == "word"))
            lost, where = longest_lost(said, heard)
            rate, seconds = word_error_rate(said, heard), len(sound) / RATE
            print(
                f"{name:12} {len(said):4} words, error rate {rate:.3f}, longest lost {lost:3} {where[:70]!r}, {cpu / seconds:.2f} CPU s a second",
                flush=True,
            )


if __name__ == "__main__":
    main(sys.argv[1:])
