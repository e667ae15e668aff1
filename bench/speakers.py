"""How well speakers are told apart: ``python bench/speakers.py [NAME…]``.

Conversations put together from the labelled sets of many voices (``labelled/voices``) and the demo's interview: people take turns,
speak into one another, say short things while another speaks, over music and in a hall. Prints how much of the time of words is
given to the wrong one, with the number given and with the number that is suggested.
"""

import json
import random
import sys
import time
from collections.abc import Iterator
from pathlib import Path

import numpy as np
from scipy.optimize import linear_sum_assignment

HERE = Path(__file__).parent
sys.path.insert(0, str(HERE.parent))

from bench.sounds import RATE, Sound, decode, hall, loudness, music, noise
from hovvet.core.words.speakers import suggest_speakers
from hovvet.core.words.transcript import Word

# Name, voices, how many of the turns begin before the other has finished, music under speech (dB), in a hall, noise (dB)
TALKS = (
    ("two", ("flite-slt", "piper-deep"), 0.0, None, False, None),
    ("two, overlaps", ("flite-rms", "espeak-scottish"), 0.4, None, False, None),
    ("two, music", ("festival-ked", "piper-high"), 0.0, 15.0, False, None),
    ("one voice at two pitches", ("piper-high", "piper-deep"), 0.2, None, False, None),
    ("three, overlaps", ("espeak-us", "flite-kal", "festival-slt"), 0.4, None, False, None),
    ("three, hall", ("flite-awb", "festival-slt", "piper-deep"), 0.2, None, True, None),
    ("three, noise", ("flite-slt", "flite-rms", "festival-kal"), 0.2, None, False, 15.0),
    ("four, overlaps, music", ("flite-awb", "festival-slt", "espeak-scottish", "piper-deep"), 0.4, 15.0, False, None),
    ("one", ("flite-slt",), 0.0, None, False, None),
    ("one, music", ("piper-high",), 0.0, 15.0, False, None),
)  # fmt: skip


def said_by(voice: str) -> Iterator[tuple[Sound, str]]:
    """What a voice says and means to say, piece by piece."""
    path = HERE / "labelled" / "voices" / f"{voice}.opus"
    sound = decode(path)
    for each in json.loads(path.with_suffix(".truth.json").read_text()):
        if each["label"] == "keep" and len(each["text"].split()) > 1:
            yield sound[round(each["start"] * RATE) : round(each["end"] * RATE)], each["text"]


def talk(
    voices: tuple[str, ...], overlaps: float, rng: random.Random
) -> tuple[Sound, list[tuple[float, float, str, str]]]:
    """A conversation of about three minutes, and (start, end, text, voice) of what is said."""
    said = {voice: said_by(voice) for voice in voices}
    placed: list[tuple[int, Sound, str, str]] = []
    at, who = RATE // 2, voices[0]
    while at < 180 * RATE:
        for _ in range(rng.choice([1, 1, 2, 3, 4])):
            sound, text = next(said[who], (None, ""))
            if sound is None:
                break
            placed.append((at, sound, text, who))
            if len(voices) > 1 and overlaps and len(sound) > 2.5 * RATE and rng.random() < overlaps / 2:
                other = rng.choice([voice for voice in voices if voice != who])
                short, words = next(((s, t) for s, t in said[other] if len(s) < 1.6 * RATE), (None, ""))
                if short is not None:
                    placed.append((at + len(sound) // 3, 0.6 * short, words, other))
            at += len(sound) + round(rng.uniform(0.1, 0.4) * RATE)
        if sound is None:
            break
        who = rng.choice([voice for voice in voices if voice != who] or [who])
        if rng.random() < overlaps:
            at -= round(rng.uniform(0.4, 0.9) * RATE)
    whole = np.zeros(max(begin + len(sound) for begin, sound, _, _ in placed) + RATE, np.float32)
    for begin, sound, _, _ in placed:
        whole[begin : begin + len(sound)] += sound
    return whole, [(begin / RATE, (begin + len(s)) / RATE, text, who) for begin, s, text, who in placed]


def words_of(said: list[tuple[float, float, str, str]]) -> tuple[list[Word], list[str]]:
    """The words as they would be written, evenly over what they belong to, and who says each.

    Of two that are said at once the one of whoever spoke first is written.
    """
    found: list[tuple[float, float, str, str]] = []
    until = 0.0
    for start, end, text, who in sorted(said):
        words = text.split()
        letters = np.cumsum([0.0, *(len(word) + 1.0 for word in words)])
        for n, word in enumerate(words):
            a, b = (start + (end - start) * letters[k] / letters[-1] for k in (n, n + 1))
            if a >= until - 0.02:
                found.append((a, b, word, who))
        until = max(until, end)
    words = [Word(id=n + 1, text=t, start=round(a, 3), end=round(b, 3)) for n, (a, b, t, _) in enumerate(found)]
    return words, [who for *_, who in found]


def wrong(sound: Sound, words: list[Word], who: list[str], count: int | None) -> tuple[float, int]:
    """The part of the time of words that is given to the wrong one, names matched as well as they can be, and how many there are."""
    turns = suggest_speakers(sound, words, count)
    given = [turn.speaker for turn in turns for _ in range(turn.first, turn.last + 1)]
    people, names = sorted(set(who)), sorted(set(given))
    times = np.zeros((len(people), len(names)))
    for word, person, name in zip(words, who, given, strict=True):
        times[people.index(person), names.index(name)] += word.end - word.start
    right = times[linear_sum_assignment(-times)].sum()
    return 1 - right / times.sum(), len(names)


def demo(name: str) -> tuple[Sound, list[Word], list[str]]:
    """A recording of the demo with its known words."""
    speech = HERE.parent / "demo" / "speech"
    truth = json.loads((speech / f"{name}.truth.json").read_text())["utterances"]
    words, who = words_of([(each["start"], each["end"], each["text"], each["speaker"]) for each in truth])
    return decode(speech / f"{name}.opus"), words, who


def main(names: list[str]) -> None:
    """Print it all."""
    for n, (name, voices, overlaps, soft, in_hall, hiss) in enumerate(TALKS):
        sound, said = talk(voices, overlaps, random.Random(40 + n))
        loud = loudness(sound)
        sound = hall(sound, np.random.default_rng(5)) if in_hall else sound
        if soft is not None:
            sound = sound + music(len(sound)) * np.float32(loud * 10 ** (-soft / 20))
        if hiss is not None:
            sound = sound + noise(sound, hiss, n)
        if not names or name in names:
            tell(name, sound, *words_of(said))
    for name in ("interview", "open-night"):
        if not names or name in names:
            tell(f"demo, {name}", *demo(name))


def tell(name: str, sound: Sound, words: list[Word], who: list[str]) -> None:
    """Measure one, and print."""
    began = time.process_time()
    given, _ = wrong(sound, words, who, len(set(who)))
    took = time.process_time() - began
    free, count = wrong(sound, words, who, None)
    print(
        f"{name:26} {len(set(who))} speakers: {given:.1%} of the time wrong; of itself {count}, {free:.1%} wrong; "
        f"{took / (len(sound) / RATE):.3f} CPU s a second",
        flush=True,
    )


if __name__ == "__main__":
    main(sys.argv[1:])
