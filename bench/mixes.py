"""The sound of a clip: mixing it, editing it, fitting music, finding beats, making speech clearer: ``python bench/mixes.py``.

Beats are found beside librosa (0.11) where that is installed: ``python bench/mixes.py beats`` under a Python that has it.
"""

import importlib.util
import statistics
import sys
import tempfile
import time
import wave
from collections.abc import Callable
from pathlib import Path

import numpy as np

ROOT = Path(__file__).parent.parent
sys.path.insert(0, str(ROOT))

from tests.made_music import RATE, Track, track

TRACKS = {  # tempo, seconds, and what else
    "80": track(80, 180), "104": track(104, 180), "132": track(132, 180), "104, swung": track(104, 180, swing=0.66),
    "104, no drums": track(104, 180, drums=False), "104, a pick-up": track(104, 180, pickup=2),
}  # fmt: skip
NEAR = 0.07  # seconds within which a beat is found


def f_measure(found: np.ndarray, beats: np.ndarray) -> float:
    """Of beats that were found, and of those that there are: the harmonic mean of the shares that agree."""
    hits = sum(bool(len(found)) and np.abs(found - beat).min() <= NEAR for beat in beats)
    return 2 * hits / (len(found) + len(beats))


def bench_beats() -> None:
    """F-measure and CPU seconds for a track of three minutes, of ours and of librosa's where that is there."""
    ways: dict[str, Callable[[Track], np.ndarray]] = {}
    if importlib.util.find_spec("hovvet.core") and importlib.util.find_spec("pydantic"):
        from hovvet.core.sound.beats import find_beats

        ways["ours"] = lambda made: np.array(find_beats(made.sound).times)
    if importlib.util.find_spec("librosa"):
        import librosa

        ways["librosa"] = lambda made: librosa.beat.beat_track(y=made.sound.astype(np.float32), sr=RATE, units="time")[
            1
        ]
    for name, way in ways.items():
        began = time.process_time()
        way(TRACKS["104"])
        first = time.process_time() - began
        began = time.process_time()
        scores = {key: f_measure(way(made), made.beats) for key, made in TRACKS.items()}
        each = (time.process_time() - began) / len(TRACKS)
        print(f"beats, {name}: {each:.2f} CPU s a track (the first {first:.1f}; goal 4);", end=" ")
        print(", ".join(f"{key} {score:.2f}" for key, score in scores.items()), flush=True)


def bench_clip() -> None:
    """Mixing and editing a clip with two speakers, ducked and fitted music, an effect, a voice-over, a narration, other speed, and
    sound that crosses at a join; clearer speech."""
    from bench.exports import Bench
    from bench.run import measured
    from hovvet.core.compile.source import Source
    from hovvet.core.compile.steps import compile
    from hovvet.core.compile.target import Target
    from hovvet.core.media.probe import probe
    from hovvet.core.plan.outlets import outlet
    from hovvet.core.render.clearing import write_clearer
    from hovvet.core.render.limiter import limit
    from hovvet.core.render.mix import mix
    from hovvet.core.render.prepared import prepare
    from hovvet.core.render.sounds import SoundReader
    from hovvet.core.render.speaking import sound_file, speak, spoken_source
    from hovvet.core.sheet.applying import apply
    from hovvet.core.sheet.asking import Around, Lay, edit_for
    from hovvet.core.sheet.contents import Content
    from hovvet.core.sheet.contents.narration import Narration
    from hovvet.core.sheet.contents.sound import Sound
    from hovvet.core.sheet.contents.speed import Speed
    from hovvet.core.sheet.contents.transition import Transition
    from hovvet.core.sheet.contents.voice_over import VoiceOver
    from hovvet.core.sheet.edits import CutWords
    from hovvet.core.sheet.model import Piece, Sheet, WordRef
    from hovvet.core.sound.beats import find_beats
    from hovvet.core.sound.energy import energy_of, integrated
    from hovvet.core.sound.fitting import fitted
    from hovvet.core.time import Rate
    from hovvet.core.value import with_changes
    from hovvet.core.words.transcript import Transcript

    with tempfile.TemporaryDirectory() as holder:
        folder = Path(holder)
        bench = Bench(folder, 250)
        words = Transcript(
            duration=bench.transcript.duration,
            words=tuple(
                with_changes(word, speaker="S1" if word.start % 8 < 4 else "S2") for word in bench.transcript.words
            ),
        )
        music = folder / "music.wav"
        made = TRACKS["104"]
        with wave.open(str(music), "wb") as wav:
            wav.setparams((1, 2, RATE, 0, "NONE", ""))
            wav.writeframes((made.sound * 30_000).astype("<i2").tobytes())
        files = {"r": bench.path, "m": music, "v": ROOT / "demo" / "speech" / "interview.opus"}
        sources = {}
        for key, file in files.items():
            media = probe(file)
            energy = energy_of(file, media.channels, media.duration)
            media = with_changes(media, lufs=integrated(energy.power))
            beats = find_beats(made.sound) if key == "m" else None
            sources[key] = Source(
                words if key == "r" else Transcript(duration=media.duration), media, energy=energy, beats=beats
            )
        read = Narration(text="This is read by a voice. And so is this.")
        speak(read.spoken, folder)
        for each in read.spoken:
            sources[each.media] = spoken_source(folder, each.media)
            files[each.media] = sound_file(folder, each.media)
        sheet = Sheet(pieces=(Piece(id="p1", recording="r", start=30.0, end=91.0),))
        sheet = apply(sheet, CutWords(piece="p1", words=tuple(word.id for word in words.between(40, 42))))
        around = Around({"r": words}, Rate(), {})
        inside = [word.id for word in words.between(31, 91)]

        def lay(content: Content, first: int | None = None, count: int = 3) -> None:
            nonlocal sheet
            over = (
                [WordRef(origin="p1", word=inside[n]) for n in (first, first + count)]
                if first is not None
                else [None, None]
            )
            sheet = apply(sheet, edit_for(Lay(content=content, first=over[0], last=over[1]), sheet, around))

        lay(Sound(media="m", ends="fitted", under=9, volume=-9))
        lay(Sound(media="v", ends="when it is over", start=100, volume=-12), 5)
        lay(VoiceOver(media="v", start=20, end=26), 40)
        lay(read, 80)
        lay(Speed(rate=1.25), 100, 8)
        lay(Transition(seconds=0.5, sound=0.5), 60)
        target = Target(outlet("tall"))
        plan = compile(sheet, sources, target)
        for each in plan.prepared:
            files[each.media] = folder / f"{each.media}.wav"
            wall, cpu = measured(lambda each=each: prepare(each, files[each.recording], files[each.media]))
            print(
                f"prepared: {each.samples / 48_000:.1f} s of {each.recording} in {wall:.2f} s, {cpu:.2f} CPU s",
                flush=True,
            )

        def mixing() -> None:
            out = np.zeros((plan.samples, 2), np.float32)
            mix(plan, SoundReader(plan, files), out)
            limit(out, plan.peak_db)

        ratios = []
        for _ in range(3):
            bare, ours = measured(bench.bare(plan.seconds))[1], measured(mixing)[1]
            ratios.append(ours / bare)
        print(
            f"mixing {plan.seconds:.1f} s ({len(plan.sound)} layers): {statistics.median(ratios):.3f} of r1's CPU (goal 0.04)",
            flush=True,
        )

        times = []
        for n in range(60):
            began = time.perf_counter()
            edited = apply(sheet, CutWords(piece="p1", words=(inside[10 + 2 * n],)))
            compile(edited, sources, target)
            times.append((time.perf_counter() - began) * 1000)
        times.sort()
        print(f"an edit on it: median {times[30]:.0f} ms, p95 {times[56]:.0f} ms (goal 60)", flush=True)
        beats = sources["m"].beats
        for seconds in (20, 41, 75):
            began = time.perf_counter()
            fit = fitted(beats, seconds)
            took = time.perf_counter() - began
            print(
                f"fitting 3 min to {seconds} s: {took:.3f} s, {'found' if fit else 'out of reach'} (goal 3)", flush=True
            )
        media = probe(files["v"])
        minute = with_changes(media, duration=60.0)
        _, cpu = measured(lambda: write_clearer(files["v"], minute, "medium", folder / "clear.flac"))
        print(f"clearer speech: {cpu / 60:.3f} CPU s a second (goal 0.2)", flush=True)


if __name__ == "__main__":
    bench_beats()
    if "beats" not in sys.argv:
        bench_clip()
