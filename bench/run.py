"""Measure Hovvet against bare references in the same run: ``make bench``.

Prints ratios; a number depends on the machine, a ratio hardly. Nothing here
fails on a figure: docs/figures.md says what is aimed at.
"""

import gc
import os
import resource
import statistics
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable
from pathlib import Path

ROOT = Path(__file__).parent.parent
sys.path.insert(0, str(ROOT))

from hovvet.core.compile.source import Source
from hovvet.core.compile.steps import compile
from hovvet.core.compile.target import Target
from hovvet.core.engines.whisper import WhisperRecogniser, shipped_model
from hovvet.core.media.wav import read_wav
from hovvet.core.plan.outlets import outlet
from hovvet.core.sheet.applying import apply
from hovvet.core.sheet.edits import CutWords
from hovvet.core.sheet.starting import desk_sheet
from hovvet.core.words.timing import Aligner
from hovvet.core.words.transcribe import transcribe
from hovvet.core.words.transcript import Transcript, Word

SPEECH = ROOT / "demo" / "speech" / "talk.opus"


def measured(work: Callable[[], object]) -> tuple[float, float]:
    """Wall and CPU seconds of some work, its child processes included."""
    before = [resource.getrusage(who) for who in (resource.RUSAGE_SELF, resource.RUSAGE_CHILDREN)]
    began = time.perf_counter()
    work()
    wall = time.perf_counter() - began
    after = [resource.getrusage(who) for who in (resource.RUSAGE_SELF, resource.RUSAGE_CHILDREN)]
    cpu = sum(b.ru_utime + b.ru_stime - a.ru_utime - a.ru_stime for a, b in zip(before, after, strict=True))
    return wall, cpu


def in_turn(ours: Callable[[], object], bare: Callable[[], object], times: int) -> tuple[float, float]:
    """Medians of (wall, CPU) ratios of ours to bare, run in turn so that both meet the same weather."""
    walls, cpus = [], []
    for _ in range(times):
        bare_wall, bare_cpu = measured(bare)
        our_wall, our_cpu = measured(ours)
        walls.append(our_wall / bare_wall)
        cpus.append(our_cpu / bare_cpu)
    return statistics.median(walls), statistics.median(cpus)


def words_of(count: int) -> Transcript:
    """A transcript of many words, about 150 a minute."""
    words = tuple(
        Word(id=n + 1, text=f"word{n % 97}" + ("." if n % 11 == 10 else ""), start=n * 0.4, end=n * 0.4 + 0.31)
        for n in range(count)
    )
    return Transcript(duration=count * 0.4 + 1, words=words)


def collect_as_the_server_does() -> None:
    """Python's collector as hovvet/server/wsgi.py sets it."""
    gc.freeze()
    gc.set_threshold(50_000, 20, 20)


def bench_transcription(scratch: Path, times: int) -> None:
    """The whole way to words with times, against the recogniser alone on the same chunks and settings, and plain."""
    wav = scratch / "talk.wav"
    command = ["ffmpeg", "-v", "error", "-y", "-t", "120", "-i", str(SPEECH), "-ac", "1", "-ar", "16000", str(wav)]
    subprocess.run(command, check=True)
    sound = read_wav(wav)
    recogniser, aligner = WhisperRecogniser(), Aligner()
    from faster_whisper import BatchedInferencePipeline, WhisperModel

    from hovvet.core.words.chunks import chunks

    threads = os.cpu_count() or 2
    plain = BatchedInferencePipeline(
        WhisperModel(str(shipped_model()), device="cpu", compute_type="int8", cpu_threads=threads)
    )
    parts = chunks(recogniser.voiced(sound), sound, 16_000)
    recogniser.recognise(sound[: 16_000 * 10], [(0, 10)])  # load the model

    def ours() -> None:
        transcribe(wav, recogniser, aligner, lambda _part: None)

    def same() -> None:
        recogniser.recognise(sound, parts)

    def default() -> None:
        list(plain.transcribe(sound, language="en", word_timestamps=True, batch_size=6)[0])

    wall, cpu = in_turn(ours, same, times)
    print(
        f"transcription of 120 s against the recogniser alone, same chunks: {wall:.2f}x wall, {cpu:.2f}x CPU (goal 1.3x CPU)"
    )
    wall, cpu = in_turn(ours, default, times)
    print(f"transcription of 120 s against the recogniser as it comes: {wall:.2f}x wall, {cpu:.2f}x CPU")


def bench_edit(times: int) -> None:
    """One edit and its plan on 20,000 words with 600 cuts."""
    transcript = words_of(20_000)
    from hovvet.core.media.info import MediaInfo

    media = MediaInfo(duration=transcript.duration, has_picture=True, has_sound=True, width=1920, height=1080)
    source = {"r": Source(transcript, media)}
    sheet = apply(desk_sheet("r", transcript.duration), CutWords(piece="p1", words=tuple(range(5, 20_000, 33))))
    collect_as_the_server_does()
    took = []
    for n in range(times):
        began = time.perf_counter()
        edited = apply(sheet, CutWords(piece="p1", words=(100 + n, 101 + n)))
        compile(edited, source, Target(outlet("tall"), texts=False))
        took.append((time.perf_counter() - began) * 1000)
    took.sort()
    print(
        f"edit and compile, 20,000 words: p50 {took[len(took) // 2]:.1f} ms, p95 {took[int(len(took) * 0.95)]:.1f} ms (goal 50 ms)"
    )


if __name__ == "__main__":
    rounds = int(sys.argv[1]) if len(sys.argv) > 1 else 3
    with tempfile.TemporaryDirectory() as folder:
        bench_edit(60)
        bench_transcription(Path(folder), rounds)
