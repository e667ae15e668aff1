"""Is anything lost or doubled where long files are cut? ``python bench/seams.py``.

Joins known speech to half an hour, recognises it whole and part by part, and prints both word error rates, how
long the first words took, and the CPU for each second of sound.
"""

import json
import resource
import subprocess
import sys
import tempfile
import time
from pathlib import Path

import numpy as np

ROOT = Path(__file__).parent.parent
sys.path.insert(0, str(ROOT))
sys.path.insert(0, str(ROOT / "bench"))

from accuracy import ALIGNER, RATE, RECOGNISER, heard, write

from hovvet.core.words.transcribe import stretches
from hovvet.core.words.vocabulary import is_filler_sound
from tests.compare import normal_words, word_error_rate

MINUTES = 30


def parts() -> list[tuple[np.ndarray, list[str]]]:
    """Known speech: samples at 16 kHz, and the words said without filler sounds."""
    made = []
    for speech in sorted(
        [*(ROOT / "demo" / "speech").glob("*.opus"), *(ROOT / "bench" / "labelled").glob("*.truth.json")]
    ):
        audio = speech if speech.suffix == ".opus" else speech.with_name(speech.name.replace(".truth.json", ".opus"))
        truth = json.loads(audio.with_suffix(".truth.json").read_text())
        command = ["ffmpeg", "-v", "error", "-i", str(audio), "-ac", "1", "-ar", str(RATE), "-f", "f32le", "-"]
        sound = np.frombuffer(subprocess.run(command, capture_output=True, check=True).stdout, np.float32)
        said = " ".join(each["text"] for each in (truth["utterances"] if isinstance(truth, dict) else truth))
        made.append((sound, [word for word in normal_words(said) if not is_filler_sound(word)]))
    return made


def words_of(wav: Path) -> list[str]:
    """What is recognised, without filler sounds."""
    return normal_words(" ".join(word.text for word in heard(wav).words if word.kind == "word"))


def main() -> None:
    """Measure."""
    known = parts()
    with tempfile.TemporaryDirectory() as folder:
        wav = Path(folder) / "part.wav"
        alone = []
        for sound, _ in known:
            write(wav, sound)
            alone.append(words_of(wav))
        order: list[int] = []
        while sum(len(known[n][0]) for n in order) < MINUTES * 60 * RATE:
            order.append(len(order) % len(known))
        whole = np.concatenate([known[n][0] for n in order])
        write(wav, whole)
        began = time.perf_counter()
        first = next(iter(stretches(wav, RECOGNISER, ALIGNER)))
        print(
            f"first {len(first[1])} words of {len(whole) / RATE / 60:.0f} min after {time.perf_counter() - began:.1f} s"
        )
        before = resource.getrusage(resource.RUSAGE_SELF)
        together = words_of(wav)
        after = resource.getrusage(resource.RUSAGE_SELF)
        cpu = after.ru_utime + after.ru_stime - before.ru_utime - before.ru_stime
        said = [word for n in order for word in known[n][1]]
        parted = [word for n in order for word in alone[n]]
        print(
            f"word error rate of the parts {word_error_rate(said, parted):.4f}, joined {word_error_rate(said, together):.4f}"
        )
        print(
            f"words said {len(said)}, heard in parts {len(parted)}, joined {len(together)}; CPU/sound {cpu / (len(whole) / RATE):.3f}"
        )


if __name__ == "__main__":
    main()
