"""Measure exports against a bare transcode of the same length to the same size, in the same run: ``make bench``.

A plain captioned clip and a rich one, from sources with long and short groups of pictures; again after small edits; more
shapes of the same clip; memory. Edits of a large sheet.
"""

import math
import resource
import shutil
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable
from pathlib import Path

from PIL import Image

ROOT = Path(__file__).parent.parent
sys.path.insert(0, str(ROOT))

from bench.run import SPEECH, collect_as_the_server_does, in_turn, measured, words_of
from hovvet.core.captions.style import caption_style
from hovvet.core.colour.grade import LOOKS
from hovvet.core.colour.lut import keep, lut_of
from hovvet.core.compile.source import Source
from hovvet.core.compile.steps import compile, planned, staged
from hovvet.core.compile.target import Target
from hovvet.core.media.info import NO_MEDIA, MediaInfo
from hovvet.core.media.probe import probe
from hovvet.core.picture.faces import Faces, Track
from hovvet.core.picture.own_sticker import bring_in_sticker
from hovvet.core.plan.model import Plan
from hovvet.core.plan.outlets import outlet
from hovvet.core.render.cache import ChunkCache
from hovvet.core.render.encoding import Encoding
from hovvet.core.render.export import Folders, Shape, export
from hovvet.core.render.picking import screen_found
from hovvet.core.render.sources import Original
from hovvet.core.sheet.applying import apply
from hovvet.core.sheet.asking import Around, Lay, edit_for
from hovvet.core.sheet.contents import Content
from hovvet.core.sheet.contents.background import Background
from hovvet.core.sheet.contents.broll import Broll
from hovvet.core.sheet.contents.framing import Framing
from hovvet.core.sheet.contents.logo import Logo
from hovvet.core.sheet.contents.look import Look
from hovvet.core.sheet.contents.marker import Marker
from hovvet.core.sheet.contents.punch import Punch
from hovvet.core.sheet.contents.sticker import Sticker
from hovvet.core.sheet.contents.title import Title
from hovvet.core.sheet.contents.transition import Transition
from hovvet.core.sheet.edits import Batch, CutWords, SplitPiece
from hovvet.core.sheet.model import Layer, Piece, Sheet, WordRef
from hovvet.core.time import Rate
from hovvet.core.view.rows import bars, rows
from hovvet.core.words.transcript import Transcript

CLIP = 60.0  # seconds that are kept
SHORT = 15.0  # seconds of the clips that hold one thing each
AT = 120.0  # where in the recording the clip lies
STILL, STICKER = (1920, 1080), (1080, 1080)  # sizes of what is laid besides, in pixels
BOLD = caption_style("bold")


def camera(out: Path, gop: int) -> Path:
    """Five minutes of moving 1080p picture as cameras write it, with the demo speech over and over."""
    minute = out.with_name(f"minute-{gop}.mp4")
    command = ["ffmpeg", "-v", "error", "-y", "-f", "lavfi", "-i", "testsrc2=s=1920x1080:r=30,noise=alls=6:allf=t"]
    command += ["-stream_loop", "-1", "-i", str(SPEECH), "-t", "60", "-c:v", "libx264", "-preset", "veryfast"]
    command += ["-crf", "22", "-g", str(gop), "-keyint_min", str(gop), "-sc_threshold", "0", "-bf", "2"]
    subprocess.run([*command, "-pix_fmt", "yuv420p", "-c:a", "aac", "-ar", "48000", str(minute)], check=True)
    loop = ["ffmpeg", "-v", "error", "-y", "-stream_loop", "4", "-i", str(minute), "-c", "copy", str(out)]
    subprocess.run(loop, check=True)
    return out


def forty_cuts(transcript: Transcript) -> Sheet:
    """A clip of a minute with 40 cuts."""
    end = AT + CLIP + 16.0
    inside = [word.id for word in transcript.between(AT, end)]
    sheet = Sheet(pieces=(Piece(id="p1", recording="r", start=AT, end=end),))
    return apply(sheet, CutWords(piece="p1", words=tuple(inside[2::4][:40])))


def rich(sheet: Sheet, transcript: Transcript, moved: int = 0) -> Sheet:
    """The same, dressed with what a person lays: colours over all of it, a logo, closer views, two crossfades, a title, five
    films and two moving stills over words, four stickers that pop. The third film lies ``moved`` words later."""
    around = Around({"r": transcript}, Rate(), {})
    inside = [word.id for word in transcript.between(AT, AT + CLIP + 16.0)]
    struck = set(sheet.pieces[0].word_cuts[0].words)
    kept = [word for word in inside if word not in struck]

    def lay(content: Content, first: int | None = None, words: int = 1) -> None:
        nonlocal sheet
        over = (kept[first], kept[first + words - 1]) if first is not None else (None, None)
        begins, ends = (WordRef(origin="p1", word=word) if word is not None else None for word in over)
        sheet = apply(sheet, edit_for(Lay(content=content, first=begins, last=ends), sheet, around))

    lay(Look(**LOOKS["Warm evening"].model_dump()))
    lay(Logo(media="s"))
    lay(Title(text="Nobody throws away a clock", template="plate"), 0, 8)
    every = len(kept) // 8
    for n in range(8):
        lay(Punch(), n * every, 6)
        if n < 5:
            lay(Broll(media="b", start=20.0 + 9 * n), n * every + 8 + (moved if n == 2 else 0), 7)
        elif n < 7:
            lay(Broll(media="p", move="comes closer"), n * every + 8, 7)
        if n % 2:
            lay(Sticker(media="s"), n * every + 2, 5)
    after = [n for n, word in enumerate(kept) if word - 1 in struck]
    for n in after[5:20:10]:
        lay(Transition(seconds=0.5), n)
    return sheet


class Bench:
    """One source, its sheet and its exports."""

    def __init__(self, scratch: Path, gop: int) -> None:
        self.scratch = scratch
        self.path = camera(scratch / f"talk-{gop}.mp4", gop)
        self.media = probe(self.path)
        self.transcript = words_of(740)
        self.sheet = forty_cuts(self.transcript)
        self.folders = Folders(ChunkCache(scratch / f"cache-{gop}"), scratch)
        Image.effect_mandelbrot(STILL, (-2.2, -1.2, 1.0, 1.2), 60).convert("RGB").save(scratch / "still.png")
        bring_in_sticker((ROOT / "demo" / "stickers" / "alarm-clock.svg").read_bytes(), scratch / "sticker.png")

    def plan(self, sheet: Sheet | None = None, transcript: Transcript | None = None, where: str = "tall") -> Plan:
        words = transcript or self.transcript
        source = {"r": Source(words, self.media), "b": Source(words, self.media)}
        sizes = {"pictures": {"p": STILL}, "stickers": {"s": STICKER}}
        return compile(sheet or self.sheet, source, Target(outlet(where), BOLD, **sizes))

    def export(self, plan: Plan, folders: Folders | None = None, name: str = "ours.mp4") -> Callable[[], None]:
        originals = {
            "r": Original(self.path, self.media, self.path.name),
            "b": Original(self.path, self.media, f"b-{self.path.name}"),
            "p": Original(self.scratch / "still.png", NO_MEDIA, "p"),
            "s": Original(self.scratch / "sticker.png", NO_MEDIA, "s"),
        }
        return lambda: export(plan, originals, self.scratch / name, folders=folders)

    def bare(self, seconds: float) -> Callable[[], None]:
        command = ["ffmpeg", "-v", "error", "-y", "-ss", str(AT), "-t", f"{seconds:.3f}", "-i", str(self.path)]
        command += ["-vf", "scale=1080:1920,setsar=1", "-c:v", "libx264", "-preset", "veryfast", "-crf", "20"]
        command += ["-pix_fmt", "yuv420p", "-c:a", "aac", "-b:a", "160k", str(self.scratch / "bare.mp4")]
        return lambda: subprocess.run(command, check=True)


def bench_first(bench: Bench, gop: int, times: int) -> None:
    plain = bench.plan()
    wall, cpu = in_turn(bench.export(plain), bench.bare(plain.seconds), times)
    print(
        f"plain clip of {plain.seconds:.1f} s, GOP {gop}: {wall:.2f}x wall, {cpu:.2f}x CPU (goals 1.05, 1.0)",
        flush=True,
    )
    full = bench.plan(rich(bench.sheet, bench.transcript))
    wall, cpu = in_turn(bench.export(full), bench.bare(full.seconds), times)
    print(
        f"rich clip of {full.seconds:.1f} s, GOP {gop}: {wall:.2f}x wall, {cpu:.2f}x CPU (goals 1.45, 1.4)", flush=True
    )


def bench_moved(bench: Bench) -> None:
    """What it costs to export the rich clip again after one of its films was laid a few words later."""
    folders = Folders(ChunkCache(bench.scratch / "rich"), bench.scratch)
    _, whole = measured(bench.export(bench.plan(rich(bench.sheet, bench.transcript)), folders))
    moved = bench.plan(rich(bench.sheet, bench.transcript, moved=3))
    _again(bench, "one film was moved", moved, folders, whole, 18)


def _again(bench: Bench, what: str, edited: Plan, folders: Folders, whole: float, goal: int) -> None:
    _, cpu = measured(bench.export(edited, folders, "kept.mp4"))
    bench.export(edited, name="fresh.mp4")()
    same = (bench.scratch / "kept.mp4").read_bytes() == (bench.scratch / "fresh.mp4").read_bytes()
    print(f"again after {what}: {cpu / whole:.1%} of the CPU (goal {goal} %), same bytes as fresh: {same}", flush=True)


def walking(seconds: float) -> Faces:
    """A face that walks to and fro, and one that sits: as they are found, four looks a second."""
    looks = int(seconds * 4)
    to_and_fro = tuple(0.45 + 0.25 * math.sin(n / 9) for n in range(looks))
    tracks = tuple(
        Track(first=0, x=x, y=(0.4,) * looks, side=(0.12,) * looks, moved=moved)
        for x, moved in ((to_and_fro, (0.3,) * looks), ((0.8,) * looks, (0.0,) * looks))
    )
    return Faces(times=tuple(n / 4 for n in range(looks)), tracks=tracks)


def bench_contents(bench: Bench) -> None:
    """What each thing that lies over the whole clip adds to the CPU of a plain one, in parts of a bare transcode."""
    faces = walking(bench.media.duration)
    table = bench.scratch / "table"
    keep(lut_of(LOOKS["Punchy"]), table)
    contents: dict[str, Content | None] = {
        "plain (fit over blur)": None,
        "fill": Framing(mode="fill"),
        "speaker in view": Framing(mode="speaker"),
        "two, one above the other": Framing(mode="two"),
        "pan": Framing(mode="fill", pan="to the right"),
        "by hand, turned": Framing(mode="by hand", turn=4, scale=1.4),
        "a look": Look(**LOOKS["Punchy"].model_dump() | {"vignette": 0}),
        "a look by a table": Look(table="t"),
        "darker corners": Look(vignette=0.5),
        "sharpened": Look(sharpen=0.6),
        "a slow push": Punch(move="slowly"),
    }
    piece = Piece(id="p1", recording="r", start=AT, end=AT + SHORT)
    _, bare = measured(bench.bare(SHORT))
    first = 0.0
    for name, content in contents.items():
        layers = (Layer(id="l1", content=content),) if content else ()
        sheet = Sheet(pieces=(piece,), layers=layers)
        plan = compile(sheet, {"r": Source(bench.transcript, bench.media, faces=faces)}, Target(outlet("tall"), BOLD))
        originals = {"r": Original(bench.path, bench.media, "r"), "t": Original(table, NO_MEDIA, "t")}
        _, cpu = measured(lambda plan=plan, originals=originals: export(plan, originals, bench.scratch / "one.mp4"))
        first = first or cpu
        print(f"{name}: {cpu / bare:.2f} r1, {(cpu - first) / bare:+.2f} to plain", flush=True)


def bench_backgrounds(bench: Bench) -> None:
    """What a screen taken out adds to the CPU of the same clip as it was filmed, in parts of a bare transcode."""
    bench.path, bench.media = _green(bench.scratch / "green.mp4"), probe(bench.scratch / "green.mp4")
    screen = screen_found(Original(bench.path, bench.media), AT)._asdict()
    piece = Piece(id="p1", recording="r", start=AT, end=AT + SHORT)
    _, bare = measured(bench.bare(SHORT))
    for name, framing in {"fit over blur": (), "fill": (Framing(mode="fill"),)}.items():
        filmed = 0.0
        for behind, own in {
            "as filmed": (),
            "a colour": (Background(**screen),),
            "a picture": (Background(**screen, behind="a picture or film", media="p"),),
            "a film": (Background(**screen, behind="a picture or film", media="b"),),
        }.items():
            layers = tuple(Layer(id=f"l{n}", content=content) for n, content in enumerate((*framing, *own)))
            _, cpu = measured(bench.export(bench.plan(Sheet(pieces=(piece,), layers=layers))))
            filmed = filmed or cpu
            print(f"background, {name}, {behind}: {(cpu - filmed) / bare:+.2f} r1 to as filmed (goal 0.35)", flush=True)


def _green(out: Path) -> Path:
    """Something that moves before a green screen with grain, as long as the clips reach."""
    screen = "color=c=0x3CBE50:s=1920x1080:r=30,noise=alls=4:allf=t"
    command = [
        "ffmpeg",
        "-v",
        "error",
        "-y",
        "-f",
        "lavfi",
        "-i",
        screen,
        "-f",
        "lavfi",
        "-i",
        "testsrc2=s=800x800:r=30",
    ]
    command += ["-stream_loop", "-1", "-i", str(SPEECH), "-filter_complex", "[0][1]overlay=560:280[v]", "-map", "[v]"]
    command += [
        "-map",
        "2:a",
        "-t",
        str(AT + 2 * SHORT),
        "-c:v",
        "libx264",
        "-preset",
        "veryfast",
        "-crf",
        "22",
        "-g",
        "30",
    ]
    subprocess.run([*command, "-pix_fmt", "yuv420p", "-c:a", "aac", "-ar", "48000", str(out)], check=True)
    return out


def bench_again(bench: Bench) -> None:
    """What a small edit costs, in parts of the CPU of the whole; and whether the file is that of a fresh export."""
    plan = bench.plan()
    _, whole = measured(bench.export(plan, bench.folders))
    middle = plan.words[len(plan.words) // 2].id
    words = tuple(w.model_copy(update={"text": "other"}) if w.id == middle else w for w in bench.transcript.words)
    edits = {
        "a caption word": bench.plan(transcript=bench.transcript.model_copy(update={"words": words})),
        "a word cut near the start": bench.plan(apply(bench.sheet, CutWords(piece="p1", words=(plan.words[4].id,)))),
    }
    for name, edited in edits.items():
        _again(bench, name, edited, bench.folders, whole, 10)
    bench_shapes(bench, whole)
    peak = resource.getrusage(resource.RUSAGE_CHILDREN).ru_maxrss / 1024
    print(f"memory of the largest process: {peak:.0f} MB (goal 900)", flush=True)


def bench_large_sheet(times: int) -> None:
    """One edit, its rows and its plan on a clip of 400 pieces and 100 layers."""
    transcript = words_of(1_200)
    media = MediaInfo(duration=transcript.duration, has_picture=True, has_sound=True, width=1920, height=1080)
    sources = {"r": Source(transcript, media)}
    sheet = Sheet(pieces=(Piece(id="q0", recording="r", start=0.0, end=transcript.duration),))
    edits = tuple(SplitPiece(piece=f"q{n}", at=(n + 1) * 1.2 - 0.045, fresh=f"q{n + 1}") for n in range(399))
    sheet = apply(sheet, Batch(edits=edits))
    around = Around({"r": transcript}, Rate(), {})
    for n in range(100):
        content = Marker(note=str(n)) if n % 2 else Framing(mode="fill")
        lay = Lay(
            content=content, first=WordRef(origin="q0", word=n * 11 + 3), last=WordRef(origin="q0", word=n * 11 + 9)
        )
        sheet = apply(sheet, edit_for(lay, sheet, around))
    target = Target(outlet("tall"), BOLD)
    collect_as_the_server_does()
    took = []
    for n in range(times):
        began = time.perf_counter()
        edited = apply(sheet, CutWords(piece=f"q{n}", words=(n * 3 + 2,)))
        scene = staged(edited, sources, target)
        planned(scene, target)
        bars(edited, scene, rows(edited, scene))
        took.append((time.perf_counter() - began) * 1000)
    took.sort()
    print(
        f"edit, plan and rows, {len(sheet.pieces)} pieces, 100 layers, 1,200 words: p50 {took[len(took) // 2]:.0f} ms, "
        f"p95 {took[int(len(took) * 0.95)]:.0f} ms (goal 50 ms)",
        flush=True,
    )


def bench_shapes(bench: Bench, whole: float) -> None:
    """What two more shapes of the same clip cost when all three are exported at once, in parts of the CPU of one."""
    tall, *more = (bench.plan(where=where) for where in ("tall", "square", "portrait"))
    folders = Folders(ChunkCache(bench.scratch / "shapes"), bench.scratch)
    originals = {"r": Original(bench.path, bench.media, bench.path.name)}

    def at_once() -> None:
        beside = [Shape(each, Encoding()) for each in more]
        export(tall, originals, bench.scratch / "tall.mp4", folders=folders, beside=beside)
        for n, each in enumerate(more):
            export(each, originals, bench.scratch / f"more-{n}.mp4", folders=folders)

    _, three = measured(at_once)
    print(f"two more shapes: {(three - whole) / 2 / whole:.2f} of one export each (goal 0.8)", flush=True)


if __name__ == "__main__":
    rounds = int(sys.argv[1]) if len(sys.argv) > 1 else 1
    bench_large_sheet(60)
    with tempfile.TemporaryDirectory() as folder:
        for gop in (250, 30):
            bench = Bench(Path(folder), gop)
            bench_first(bench, gop, rounds)
            if gop == 250:
                bench_again(bench)
                bench_moved(bench)
                bench_contents(bench)
                bench_backgrounds(bench)
        shutil.rmtree(folder, ignore_errors=True)
