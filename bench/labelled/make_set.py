"""Make the labelled set for the sweep: speech with planted fillers, phrases, repeats, restarts, retakes and pauses.

Run by hand with the voices of ``make voices``: ``.voices/bin/python bench/labelled/make_set.py``. Two Opus files (two
voices) with their truth are kept in the repository; ``bench/accuracy.py`` measures against them. Every planted
piece is spoken on its own, so that its place is known to the sample.
"""

import json
import random
import subprocess
import sys
from pathlib import Path

import numpy as np

HERE = Path(__file__).parent
sys.path.insert(0, str(HERE.parent.parent / "demo"))

from make_speech import PITCH, RATE, speak

# Each sentence in two halves: something may be planted between them.
SENTENCES = """
The kettle had a loose handle | and we tightened it with a small screw.
A lamp came in from the harbour office | and nobody knew who had made it.
She carried the radio up the stairs | because the lift was out of order.
We keep a drawer of old springs | which came from a closed factory.
The clock was fast in summer | and it was slow in winter.
He asked for a new battery | but the contact was only dirty.
Our bench is made of oak | from the deck of a fishing boat.
The toaster threw the bread | right across the kitchen table.
We open the doors at six | when the market has gone home.
My neighbour lent us a ladder | that he had borrowed from his brother.
The sewing machine needed oil | and a little patience.
A child brought a broken kite | on the windiest day of the year.
They mended the gate in the rain | while the goats looked on.
The old camera still had film in it | from a wedding by the lighthouse.
We wrote the name of every tool | on a card beside the door.
The heater smelled of dust | so we took the cover off.
Somebody had glued the hinge | and that made it much harder.
The violin lost a string | in the middle of a concert.
I found the fault in a minute | and I looked for the screw all evening.
The torch had been under water | since the spring flood.
We drink our tea from jars | as the cups are always being mended.
The bicycle had no bell | so we gave it one from a ship.
Her coffee grinder was older | than anybody in the room.
The speaker crackled softly | whenever a boat went past.
A fuse costs almost nothing | and it saves the whole machine.
The umbrella opened by itself | in the quietest part of the talk.
Two brothers brought one watch | and they shared it between them.
The printer worked again | after we cleaned the rollers.
The drill was warm and tired | at the end of the season.
We never charge for a repair | because the tools belong to everybody.
""".strip().splitlines()

FILLERS = ["Um,", "Uh,", "Um.", "Uh,"]
PHRASES = ["you know,", "I mean,", "like,", "you know,"]
WANTED = {"filler": 32, "phrase": 11, "repeat": 8, "restart": 6, "retake": 4, "pause": 22}  # in each file


def plan(rng: random.Random) -> list[tuple[str, str | float]]:
    """(label, words) and (label, seconds of silence) in order; the label of what stays is "keep"."""
    todo = [kind for kind, count in WANTED.items() if kind not in ("pause", "retake") for _ in range(count)]
    rng.shuffle(todo)
    # Twice in the same order: a sentence that came again within a minute would be a retake nobody planted.
    pool = [line.split(" | ") for line in rng.sample(SENTENCES, len(SENTENCES))] * 2
    parts: list[tuple[str, str | float]] = []
    pauses = set(rng.sample(range(len(pool)), WANTED["pause"]))
    taken_twice = set(rng.sample(range(len(pool)), WANTED["retake"]))
    for n, (one, two) in enumerate(pool):
        if n in taken_twice:
            parts += [("retake", f"{one} {two}"), ("keep", 0.9)]
        parts.append(("keep", one + ("," if todo else "")))
        if todo:
            kind = todo.pop()
            parts += [
                ("keep", rng.uniform(0.12, 0.3)),
                (kind, planted(kind, two, rng)),
                ("keep", rng.uniform(0.12, 0.3)),
            ]
        else:
            parts.append(("keep", 0.05))
        parts += [("keep", two), ("pause", rng.uniform(1.0, 2.4)) if n in pauses else ("keep", rng.uniform(0.3, 0.5))]
    return parts


def planted(kind: str, following: str, rng: random.Random) -> str:
    """What is said too much before ``following``."""
    words = following.rstrip(".").split()
    if kind == "filler":
        return rng.choice(FILLERS)
    if kind == "phrase":
        return rng.choice(PHRASES)
    if kind == "repeat":
        return " ".join(words[: rng.choice([1, 2, 2])]) + ","
    return " ".join(words[:2]) + rng.choice([" the,", " a,", " to,"])


def make(voice: str, seed: int) -> None:
    """One file with one voice."""
    parts = plan(random.Random(seed))
    texts = [part for _, part in parts if isinstance(part, str)]
    spoken = iter(speak(texts, PITCH[voice]))
    sound: list[np.ndarray] = [np.zeros(RATE // 2, np.float32)]
    at, truth = len(sound[0]), []
    for label, part in parts:
        samples = next(spoken) if isinstance(part, str) else np.zeros(int(part * RATE), np.float32)
        if isinstance(part, str) or label == "pause":
            text = part if isinstance(part, str) else ""
            truth.append(
                {
                    "label": label,
                    "start": round(at / RATE, 3),
                    "end": round((at + len(samples)) / RATE, 3),
                    "text": text,
                }
            )
        sound.append(samples)
        at += len(samples)
    whole = np.concatenate(sound)
    whole += np.random.default_rng(seed).normal(0, 0.0008, len(whole)).astype(np.float32)
    out = HERE / f"{voice}.opus"
    encode = ["ffmpeg", "-v", "error", "-y", "-f", "f32le", "-ar", str(RATE), "-ac", "1", "-i", "-"]
    subprocess.run(
        [*encode, "-c:a", "libopus", "-b:a", "32k", str(out)], input=whole.astype(np.float32).tobytes(), check=True
    )
    out.with_suffix(".truth.json").write_text(json.dumps(truth, indent=0) + "\n")
    print(out.name, f"{len(whole) / RATE:.0f} s")


if __name__ == "__main__":
    make("maren", 11)
    make("tolliver", 12)
