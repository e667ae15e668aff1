"""Plan to file: chunks drawn by worker processes, those known already taken from the cache, joined with one sound."""

import errno
import json
import os
import selectors
import sys
import tempfile
from collections.abc import Iterator, Mapping, Sequence
from contextlib import ExitStack, contextmanager
from dataclasses import dataclass
from hashlib import sha256
from pathlib import Path

import numpy as np
from PIL import Image

from hovvet.core.errors import CoreError
from hovvet.core.media.checked import check_media, published
from hovvet.core.media.ffmpeg import Progress, no_progress
from hovvet.core.media.process import DISK_FULL, Limits, MediaError, Program, limits, run, running, twice
from hovvet.core.media.sealed import intact, sealed
from hovvet.core.plan.model import Fill, Plan
from hovvet.core.render.cache import ChunkCache
from hovvet.core.render.chunks import Chunk, chunks
from hovvet.core.render.encoding import Encoding, joined
from hovvet.core.render.limiter import limit
from hovvet.core.render.mix import mix
from hovvet.core.render.output import Output
from hovvet.core.render.prepared import prepare
from hovvet.core.render.sounds import SoundReader
from hovvet.core.render.sources import Original
from hovvet.core.render.speaking import sound_file, speak
from hovvet.core.render.work import Stretches, order

PROCESSES = 2
_BYTES_PER_SECOND = 4_000_000  # a clip never comes near this
_PACE = 60  # seconds that a second of a clip may take on a busy machine
LOOP_FPS, LOOP_WIDTH = 12, 480
_SOUND_PART = 0.08  # of the progress goes to the sound


@dataclass(frozen=True)
class Shape:
    """A plan and how its pictures are encoded."""

    plan: Plan
    encoding: Encoding


@dataclass(frozen=True)
class Folders:
    """Where an export finds what was made before, and leaves it for the next: chunks of pictures, prepared sounds."""

    cache: ChunkCache
    prepared: Path


def export(
    plan: Plan,
    originals: Mapping[str, Original],
    out: Path,
    progress: Progress = no_progress,
    output: Output = Output(),  # noqa: B008  # a value
    encoding: Encoding | None = None,
    folders: Folders | None = None,
    beside: Sequence[Shape] = (),
    limit: Limits | None = None,
) -> None:
    """Write the plan as a file of the kind that ``output`` says: MP4 (H.264 High 4:2:0 in BT.709, AAC at 48 kHz, ready to
    stream), WebM (VP9, Opus), sound alone, a still, or a short loop.

    Chunks that the cache has are not drawn again; the file is the same byte for byte. Those of other plans, where they
    have its rate, are drawn ``beside`` it, into the cache, each frame of a recording decoded once for all: export them
    next. ``out`` appears only when it is complete. Raises CoreError for an empty plan, MediaError when a recording cannot
    be read or the file not written, and whatever ``progress`` raises. ``limit`` is what drawing a still or a loop may take
    (None: by its length).
    """
    if plan.frames == 0:
        raise CoreError("Nothing is left to export: every word of this clip is cut. Bring some back first.")
    check_sources(plan, originals)
    encoding = encoding or Encoding(output.quality, codec="vp9" if output.kind == "webm" else "h264")
    with (
        published(out, lambda made: _check(made, plan, output)) as part,
        tempfile.TemporaryDirectory(dir=out.parent, prefix=".export-") as held,
    ):
        scratch = Path(held)
        folders = folders or Folders(ChunkCache(scratch / "chunks"), scratch)
        if output.has_picture and not output.is_film:
            _write_loop(plan, originals, output, scratch, part, progress, limit)
        elif not output.has_picture:
            write_sound(plan, originals, part, folders.prepared, output.kind, scratch)
        else:
            sound = _sound(plan, originals, folders, output.kind, scratch)
            progress(_SOUND_PART)
            digests = {media: each.digest or media for media, each in originals.items()}
            drawn = [Shape(plan, encoding), *(each for each in beside if each.plan.rate == plan.rate)]
            cuts = [chunks(each.plan, digests.__getitem__, each.encoding.told) for each in drawn]
            _draw_missing(drawn, cuts, originals, folders.cache, scratch, progress)
            files = [(folders.cache.path(chunk.key), chunk.first) for chunk in cuts[0]]
            joined(files, sound, part, plan.rate, output.kind == "mp4")
            folders.cache.trim(keep={sound, *(path for path, _ in files)})
    progress(1.0)


def _write_loop(
    plan: Plan, originals: Mapping[str, Original], output: Output, scratch: Path, out: Path, progress: Progress,
    limit: Limits | None,
) -> None:  # fmt: skip
    """A still or a short loop: drawn without loss first, then written as it is wanted."""
    first = min(plan.rate.frame_at(output.start), plan.frames - 1)  # a still is of what the stage shows
    frames = 1 if output.kind == "png" else max(plan.rate.frame(output.seconds), 1)
    last = min(first + frames, plan.frames)
    drawn = scratch / "drawn.mkv"
    lossless = Shape(plan, Encoding(codec="ffv1"))
    twice(lambda: _draw([lossless], [[(0, (first, last, drawn))]], originals, scratch, progress, limit))
    # As video has it, BT.709 and limited, to the R'G'B' of pictures.
    colour = "scale=in_color_matrix=bt709:in_range=tv:out_range=pc"
    small = f"fps={LOOP_FPS},{colour}:w='min({LOOP_WIDTH},iw)':h=-2:flags=lanczos"
    ways = {
        "png": ["-vf", f"{colour},format=rgb24", "-frames:v", "1", "-c:v", "png", "-f", "image2", "-update", "1"],
        "gif": ["-vf", f"{small},split[a][b];[a]palettegen[p];[b][p]paletteuse", "-loop", "0", "-f", "gif"],
        "webp": ["-vf", small, "-c:v", "libwebp", "-quality", "80", "-loop", "0", "-f", "webp"],
    }
    command = ["ffmpeg", "-v", "error", "-nostdin", "-y", "-i", str(drawn), *ways[output.kind], str(out)]
    run(command, limits(frames / plan.rate.fps, 20, _BYTES_PER_SECOND))


def _check(made: Path, plan: Plan, output: Output) -> None:
    """Raises MediaError unless a file is a whole export of the plan."""
    if output.has_picture and not output.is_film:
        try:
            with Image.open(made) as picture:
                picture.load()
        except OSError as error:
            raise MediaError("What was made came out broken, so it was thrown away. Retry.", str(error)) from None
    else:
        check_media(made, plan.seconds, has_picture=output.has_picture, has_sound=True)


def check_sources(plan: Plan, originals: Mapping[str, Original]) -> None:
    """Raises CoreError when a recording that a plan shows is not there."""
    for asset in plan.assets:
        if asset not in originals or not originals[asset].path.exists():
            what = (
                "The font of these captions" if asset in plan.fonts else "A picture or a table of colours of this clip"
            )
            raise CoreError(f"{what} was deleted. Choose another one, then export again.", asset)
    for media in plan.recordings:
        if media not in originals or not originals[media].path.exists():
            raise CoreError(
                "A recording that this clip shows is gone, so the clip cannot be made from it. Bring it in again, "
                "or take its words out.",
                media,
            )


def _sound(plan: Plan, originals: Mapping[str, Original], folders: Folders, kind: str, scratch: Path) -> Path:
    """The sound of a film: the same after captions or pictures have changed, and in other shapes, so it is kept too."""
    heard = plan.model_dump(
        mode="json", include={"sound", "prepared", "spoken", "samples", "sample_rate", "master", "peak_db"}
    )
    digests = {media: originals[media].digest or media for media in plan.recordings}
    told = json.dumps([_SOUND_CODE, kind, heard, digests], sort_keys=True)
    key = sha256(told.encode()).hexdigest()
    known = folders.cache.find(key)
    if known is not None:
        return known
    path = folders.cache.path(key)
    path.parent.mkdir(parents=True, exist_ok=True)
    with sealed(path) as part:
        write_sound(plan, originals, part, folders.prepared, kind, scratch)
    return path


_SOUND_CODE = 4  # grows whenever the same sound would be made otherwise
_SOUNDS = {
    "mp4": ["-c:a", "aac", "-aac_coder", "fast", "-b:a", "160k", "-f", "mp4"],
    "m4a": ["-c:a", "aac", "-b:a", "160k", "-movflags", "+faststart", "-f", "mp4"],
    "webm": ["-c:a", "libopus", "-b:a", "128k", "-f", "webm"],
    "mp3": ["-c:a", "libmp3lame", "-b:a", "192k", "-f", "mp3"],
    "wav": ["-c:a", "pcm_s16le", "-f", "wav"],
}


def write_sound(
    plan: Plan, originals: Mapping[str, Original], out: Path, prepared: Path, kind: str, scratch: Path
) -> None:
    """The whole sound of a plan, its peaks limited, as the sound of a kind of file. What has to be prepared is made in
    ``prepared``."""
    files = {key: each.path if each.media.has_sound else None for key, each in originals.items()}
    for each in plan.prepared:
        made = prepared / f"{each.media}.wav"
        if not intact(made):
            prepare(each, originals[each.recording].path, made)
        files[each.media] = made
    speak(plan.spoken, prepared)
    files |= {each.media: sound_file(prepared, each.media) for each in plan.spoken}
    mixed = scratch / "mixed.f32"
    _reserve(mixed, max(plan.samples, 1) * 2 * 4)
    sound = np.memmap(mixed, np.float32, "r+", shape=(max(plan.samples, 1), 2))  # of three hours it is 4 GB
    mix(plan, SoundReader(plan, files), sound)
    limit(sound, plan.peak_db)
    sound.flush()
    command = [
        "ffmpeg", "-v", "error", "-nostdin", "-y", "-f", "f32le", "-ar", str(plan.sample_rate), "-ac", "2",
        "-i", str(mixed), "-ar", str(plan.sample_rate), "-bitexact", *_SOUNDS[kind], str(out),
    ]  # fmt: skip
    run(command, limits(plan.seconds, 2, _BYTES_PER_SECOND))
    mixed.unlink()


def _reserve(path: Path, size: int) -> None:
    """A file of so many bytes that are there for sure: writing into one that has none yet would end this process where the
    disk is full. Raises MediaError."""
    with path.open("wb") as file:
        try:
            os.posix_fallocate(file.fileno(), 0, size)
        except OSError as error:
            if error.errno == errno.ENOSPC:
                raise MediaError(DISK_FULL, str(error)) from None
            raise


_Wanted = tuple[
    int, tuple[int, int, Path]
]  # which of the plans, and of that: first frame, one past last, file to write


def _draw_missing(
    drawn: Sequence[Shape], cuts: Sequence[Sequence[Chunk]], originals: Mapping[str, Original], cache: ChunkCache,
    scratch: Path, progress: Progress,
) -> None:  # fmt: skip
    """Draw the chunks of plans that the cache lacks, each once; those that a process left which was killed from outside
    are drawn once more."""
    twice(lambda: _draw_once(drawn, cuts, originals, cache, scratch, progress))


def _draw_once(
    drawn: Sequence[Shape], cuts: Sequence[Sequence[Chunk]], originals: Mapping[str, Original], cache: ChunkCache,
    scratch: Path, progress: Progress,
) -> None:  # fmt: skip
    missing = {
        chunk.key: (n, (chunk.first, chunk.last, cache.path(chunk.key)))
        for n, own in enumerate(cuts)
        for chunk in own
        if cache.find(chunk.key) is None
    }
    for _, (_, _, path) in missing.values():
        path.parent.mkdir(parents=True, exist_ok=True)
    _draw(drawn, _halves([each.plan for each in drawn], list(missing.values())), originals, scratch, progress)


def _draw(
    drawn: Sequence[Shape], orders: Sequence[Sequence[_Wanted]], originals: Mapping[str, Original], scratch: Path,
    progress: Progress, given: Limits | None = None,
) -> None:  # fmt: skip
    """Draw stretches of plans, each list of them in a process of its own."""
    stored = [scratch / f"plan{n}.json" for n in range(len(drawn))]
    for file, each in zip(stored, drawn, strict=True):
        file.write_text(each.plan.model_dump_json())
    files = []
    for k, wanted in enumerate(orders):
        own = [
            Stretches(stored[n], each.encoding, [stretch for m, stretch in wanted if m == n])
            for n, each in enumerate(drawn)
        ]
        files.append(scratch / f"order{k}.json")
        files[-1].write_text(order(originals, [each for each in own if each.wanted]))
    frames = sum(last - first for wanted in orders for _, (first, last, _) in wanted)
    rate = drawn[0].plan.rate
    most = max(each.encoding.largest(each.plan.width, each.plan.height, rate) for each in drawn)
    with ExitStack() as stack:
        limit = given or limits(frames / rate.fps, _PACE, most)
        at_work = [stack.enter_context(_worker(file, limit)) for file in files]
        for done in _frames_done(at_work):
            progress(min(_SOUND_PART + (1 - _SOUND_PART) * done / frames, 0.999))
        for program in at_work:
            program.finish()


@contextmanager
def _worker(file: Path, limit: Limits) -> Iterator[Program]:
    """A process that draws; what it says on failing is what a person is told."""
    command = [sys.executable, "-m", "hovvet.core.render.work", str(file)]
    with running(command, limit) as program:
        try:
            yield program
        except MediaError as error:
            last = error.detail.strip().rsplit("\n", 1)[-1]
            if last.startswith('{"told"'):
                said = json.loads(last)
                raise MediaError(said["told"], said["detail"]) from None
            raise


def _halves(plans: Sequence[Plan], wanted: Sequence[_Wanted]) -> list[list[_Wanted]]:
    """What to draw in parts of the clip that cost about the same, one for each process; little is left to one."""
    ordered = sorted(wanted, key=lambda each: each[1][0])  # plans stay together, to be drawn side by side
    costs = [_cost(plans[n], first, last) for n, (first, last, _) in ordered]
    processes = PROCESSES if sum(last - first for _, (first, last, _) in ordered) > _LITTLE else 1
    parts: list[list[_Wanted]] = [[] for _ in range(min(processes, len(ordered)))]
    so_far = 0.0
    for each, cost in zip(ordered, costs, strict=True):
        parts[min(int((so_far + cost / 2) / sum(costs) * len(parts)), len(parts) - 1)].append(each)
        so_far += cost
    return [part for part in parts if part]


_LITTLE = 200  # frames for which a second process and its way to the place would cost more than they bring
_ENCODE, _LAYER = 1.0, 0.35  # what a frame costs: to encode it, and to draw each layer of it


def _cost(plan: Plan, first: int, last: int) -> float:
    cost = _ENCODE * (last - first)
    for layer in plan.picture:
        if not isinstance(layer.source, Fill):
            cost += _LAYER * max(0, min(layer.last, last) - max(layer.first, first))
    return cost


def _frames_done(programs: Sequence[Program]) -> Iterator[int]:
    """How many frames all processes have drawn, now and again, until they have ended."""
    done = dict.fromkeys(range(len(programs)), 0)
    with selectors.DefaultSelector() as selector:
        for n, program in enumerate(programs):
            assert program.process.stdout
            selector.register(program.process.stdout, selectors.EVENT_READ, n)
        while selector.get_map():
            for key, _ in selector.select(timeout=0.5):
                line = key.fileobj.readline()  # type: ignore[union-attr]
                if line:
                    done[key.data] = int(line)
                else:
                    selector.unregister(key.fileobj)
            yield sum(done.values())


def file_digest(path: Path) -> str:
    """The bytes of a file, told apart from others: its SHA-256."""
    made = sha256()
    with path.open("rb") as file:
        while block := file.read(1 << 20):
            made.update(block)
    return made.hexdigest()
