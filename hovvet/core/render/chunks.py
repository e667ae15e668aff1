"""Cutting a plan into chunks that are drawn apart, each known by all that is seen in it.

A chunk begins where what is shown tells it to (a cut, a caption, or a place of the recording), not at a place of the
output. So after an edit the chunks that show the same are found again, wherever they have moved. Best it begins where no
caption is crossed: then a word that is corrected is seen in one chunk.
"""

import json
from bisect import bisect_left, bisect_right
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from functools import cache
from hashlib import sha256
from itertools import groupby, pairwise
from zlib import crc32

import pysubs2
from pydantic import BaseModel

from hovvet.core.captions.fonts import FONTS
from hovvet.core.colour.grade import Grade
from hovvet.core.plan.knots import place_at, source_frame, value_at
from hovvet.core.plan.model import PictureLayer, Plan, Video
from hovvet.core.time import Rate
from hovvet.core.value import with_changes

CODE = 5  # grows whenever the same chunk would be drawn otherwise
SHORTEST, LONGEST = 45, 150  # frames of a chunk: nothing shorter is sought, nothing longer is left
_EVERY = 60  # source frames between places where a chunk may begin without a cut
_BETWEEN, _CUT = 1 << 33, 1 << 32  # between captions is a better place than within one, a cut than none
MEDIA_FIELDS = ("media", "table")  # of what a layer is made of: they name a file
TEXT_FROM = 10_000  # milliseconds: where a chunk's own script begins, so that what began earlier keeps its start


@dataclass(frozen=True)
class Chunk:
    """Frames ``first`` up to ``last`` of the output, and the hash of all that is seen in them."""

    first: int
    last: int
    key: str


def chunks(plan: Plan, digests: Callable[[str], str], encoding: str) -> list[Chunk]:
    """The chunks of a plan in order. ``digests`` tells the bytes of a medium, ``encoding`` how they are written."""
    edges = [0, *boundaries(plan), plan.frames]
    script = Script(plan)
    return [
        Chunk(first, last, _key(plan, first, last, script, digests, encoding))
        for first, last in pairwise(edges)
        if last > first
    ]


def boundaries(plan: Plan) -> list[int]:
    """Output frames at which a chunk begins, but for the first."""
    found = sorted(_candidates(plan).items())
    frames = [frame for frame, _ in found]
    made = [0]
    for n, (frame, weight) in enumerate(found):
        a, b = bisect_left(frames, frame - SHORTEST), bisect_right(frames, frame + SHORTEST)
        beaten = any(found[m][1] > weight or (found[m][1] == weight and m < n) for m in range(a, b) if m != n)
        if not beaten and frame >= SHORTEST // 2 and frame <= plan.frames - SHORTEST // 2:
            made.append(frame)
    made.append(plan.frames)
    return [at for a, b in pairwise(made) for at in _split(a, b)][1:]


def _split(first: int, last: int) -> Iterator[int]:
    """The beginning of a chunk and, where it is too long, those of its parts."""
    parts = max(-(-(last - first) // LONGEST), 1)
    for n in range(parts):
        yield first + n * (last - first) // parts


def _candidates(plan: Plan) -> dict[int, int]:
    """Where a chunk could begin, and how good a place that is: told by what is shown there alone."""
    found: dict[int, int] = {}
    begins = {caption.first for caption in plan.captions} if plan.script is not None else set()
    for layer in plan.picture:
        if not isinstance(layer.source, Video) or layer.opacity:
            continue
        source = layer.source
        first = source_frame(source.knots, layer.first)
        found[layer.first] = _CUT + crc32(f"{source.media}:{first}".encode())
        regular = range(layer.first - first % _EVERY + _EVERY, layer.last, _EVERY)
        for frame in (*regular, *(at for at in begins if layer.first < at < layer.last)):
            at = source_frame(source.knots, frame)
            if (at % _EVERY == 0 or frame in begins) and frame not in found:
                found[frame] = crc32(f"{source.media}:{at}".encode())
    for layer in plan.picture:  # while two pictures cross they stay together
        if layer.opacity:
            for frame in range(layer.first + 1, layer.opacity[-1].at):
                found.pop(frame, None)
    found.pop(0, None)
    if plan.script is not None:
        crossed = [range(caption.first + 1, caption.last) for caption in plan.captions]
        for frame in found:
            n = bisect_right(crossed, frame, key=lambda each: each.start) - 1
            found[frame] += _BETWEEN * (n < 0 or frame not in crossed[n])
    return found


def _key(plan: Plan, first: int, last: int, script: "Script", digests: Callable[[str], str], encoding: str) -> str:
    layers = [layer for layer in plan.picture if layer.first < last and layer.last > first]
    told: dict[str, object] = {
        "code": [CODE, _fonts()],
        "encoding": encoding,
        "shape": [plan.width, plan.height, plan.rate.num, plan.rate.den, last - first, plan.ground],
        "layers": [_told(layer, first, last, digests) for layer in layers],
        "text": script.of(first, last),
    }
    if plan.fonts:
        told["fonts"] = [digests(font) for font in plan.fonts]
    return sha256(json.dumps(told, sort_keys=True).encode()).hexdigest()


def _told(layer: PictureLayer, first: int, last: int, digests: Callable[[str], str]) -> object:
    """All of a layer that is seen in a chunk, counted from the chunk's own beginning: every field that it has. What is told
    by knots is told frame by frame, and what names a medium by the bytes of that."""
    shown = range(max(layer.first, first), min(layer.last, last))
    told: dict[str, object] = {"first": shown.start - first, "last": shown.stop - first}
    for name in PictureLayer.model_fields.keys() - {"first", "last"}:
        told[name] = _seen(name, getattr(layer, name), shown, digests)
    return told


def _seen(name: str, value: object, shown: range, digests: Callable[[str], str]) -> object:
    """What a field comes to in the frames that are ``shown``."""
    if name == "place":
        places = value if isinstance(value, tuple) else ()
        # What stands still is drawn otherwise than what moves: between pixels.
        told = [place_at(places, frame) for frame in (shown if len(places) > 1 else shown[:1]) if places]
        return [len(places) > 1, [place.model_dump(exclude={"frame"}) for place in told]]
    if name == "opacity":
        return [value_at(value, frame) for frame in shown] if isinstance(value, tuple) and value else None
    if name == "knots" and isinstance(value, tuple):
        return _runs([source_frame(value, frame) for frame in shown])
    if name in MEDIA_FIELDS and isinstance(value, str):
        return digests(value) if value else ""
    if isinstance(value, Grade) and not value.has_table:
        value = with_changes(value, table="")
    if isinstance(value, BaseModel):
        return {part: _seen(part, getattr(value, part), shown, digests) for part in type(value).model_fields}
    return value


def _runs(frames: Sequence[int]) -> list[tuple[int, int]]:
    """(first, how many) of frames that follow one another."""
    runs = []
    for _, group in groupby(range(len(frames)), key=lambda n: frames[n] - n):
        members = list(group)
        runs.append((frames[members[0]], len(members)))
    return runs


@cache
def _fonts() -> str:
    """What the letters look like."""
    made = sha256()
    for path in sorted(FONTS.glob("*.ttf")):
        made.update(path.read_bytes())
    return made.hexdigest()


class Script:
    """The script of a plan, in parts."""

    def __init__(self, plan: Plan) -> None:
        self._rate = plan.rate
        self._file = pysubs2.SSAFile.from_string(plan.script) if plan.script is not None else None

    def of(self, first: int, last: int) -> str | None:
        """The script of a chunk, on its own clock: the chunk begins at ``TEXT_FROM``. None where nothing is written."""
        if self._file is None:
            return None
        own = pysubs2.SSAFile()
        own.info, own.styles = self._file.info, self._file.styles
        for event in self._file.events:
            begins, ends = _frame_from(event.start, self._rate), _frame_from(event.end, self._rate)
            if begins < last and ends > first:
                moved = event.copy()
                moved.start, moved.end = (text_time(at - first, self._rate) // 10 * 10 for at in (begins, ends))
                own.events.append(moved)
        return str(own.to_string("ass")) if own.events else None


def text_time(frame: int, rate: Rate) -> int:
    """When a frame of a chunk is in its script: whole milliseconds, never after the frame itself. An event that begins
    with it begins on the hundredth of a second before that, for ASS knows no finer times."""
    return TEXT_FROM + frame * 1000 * rate.den // rate.num


def _frame_from(milliseconds: int, rate: Rate) -> int:
    """The first frame that begins at or after a time of the script, which was rounded down to hundredths."""
    return -(-milliseconds * rate.num // (1000 * rate.den))
