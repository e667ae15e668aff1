"""Whether a clip is seen as it should be."""

from collections.abc import Iterator, Sequence
from itertools import groupby
from typing import NamedTuple

from hovvet.core.compile.faces_seen import FaceSeen, faces_in
from hovvet.core.plan.knots import place_at, source_frame
from hovvet.core.plan.model import PictureLayer, Video
from hovvet.core.proof.fault import Fix, Where
from hovvet.core.proof.looked import Looked
from hovvet.core.proof.registry import Found, check
from hovvet.core.proof.thresholds import (
    BLACK_SECONDS,
    ENLARGED,
    FROZEN_SECONDS,
    JUMP_SHIFT,
    JUMP_ZOOM,
    OPENING,
    UNSEEN,
)
from hovvet.core.sheet.contents.base import Content, Showing
from hovvet.core.sheet.contents.framing import Framing
from hovvet.core.sheet.contents.lettered import Lettered
from hovvet.core.sheet.contents.punch import Punch
from hovvet.core.sheet.contents.title import Title
from hovvet.core.sheet.contents.transition import Transition
from hovvet.core.sheet.edits import Edit, PutLayer, RemoveLayer
from hovvet.core.sheet.model import Layer, Span, WordRef
from hovvet.core.sheet.moving import fresh_names
from hovvet.core.view.cuts import cuts_to_cover, jumps

_EVERY = 0.5  # seconds between two looks
_CLOSER, _SURELY = 1.2, 0.03  # times: the closer view that hides a jump; by how much it is closer than it has to be
_CROSS = 0.3  # seconds of a crossfade over one
_HOOK = 8  # words over which a title stands at the beginning
_SHARE = 0.6  # of a face that is in the frame, for it to be in view


def _lay(looked: Looked, content: Content, words: tuple[WordRef, WordRef] | None) -> Edit:
    """Something over words, or (None) over the whole clip; what of its kind lies over the very same is replaced."""
    span = looked.scene.places.over(*words) if words else Span()
    same = (each.id for each in looked.sheet.layers if each.span == span and content.replaces(each.content))
    name = next(same, None) or next(iter(fresh_names(looked.sheet, "l")))
    return PutLayer(layer=Layer(id=name, span=span, content=content))


@check("enlarged", "Picture much enlarged", "picture", "look")
def enlarged(looked: Looked) -> Iterator[Found]:
    """A few pixels over the whole frame are a blur."""
    worst: dict[str, tuple[float, PictureLayer]] = {}
    for layer in looked.plan.picture:
        if layer.crop is None or not layer.place or not hasattr(layer.source, "media"):
            continue
        times = max(knot.width for knot in layer.place) / layer.crop.width
        if times > ENLARGED and times > worst.get(layer.source.media, (0.0, layer))[0]:
            worst[layer.source.media] = times, layer
    for media, (times, layer) in worst.items():
        where = looked.frames(layer.first, layer.last)
        names = looked.kit.names
        says = (
            f"{names.get(media) or 'The picture'} is shown {times:.1f} times as large as it was filmed, and looks soft."
        )
        yield Found(media, says, where, tuple(_smaller(looked, layer, times)))


def _smaller(looked: Looked, layer: PictureLayer, times: float) -> Iterator[Fix]:
    """Less of a closer view where there is one; else the whole picture."""
    closer = [each for each in looked.scene.of(Punch) if each.first < layer.last and each.last > layer.first]
    if closer:
        yield Fix(label="Take the zoom off", edits=tuple(RemoveLayer(layer=each.layer) for each in closer))
    own = [
        each for each in looked.heard if each.start * looked.fps < layer.last and each.end * looked.fps > layer.first
    ]
    over = any(layer is each for each in looked.scene.picture)
    if own and not over and not closer:
        words = own[0].spot.ref, own[-1].spot.ref
        yield Fix(label="Show all of the picture", edits=(_lay(looked, Framing(mode="fit"), words),))


@check("jump", "Jump cuts not covered", "picture", "look")
def jump_cuts(looked: Looked) -> Iterator[Found]:
    """Cuts at which somebody jumps: not where something is over them, or the view changes."""
    seen = [at for at in jumps(looked.scene) if not _covered(looked, round(at * looked.fps))]
    for cut in cuts_to_cover(looked.plan.words, seen) if seen else ():
        first, last = looked.plan.words[cut.shot.first], looked.plan.words[cut.shot.last]
        words = WordRef(origin=first.origin, word=first.id), WordRef(origin=last.origin, word=last.id)
        fix = _hidden_jump(looked, round(cut.at * looked.fps), words)
        where = Where(start=cut.at, end=last.end, words=words)
        says = f"The picture jumps before “{first.text}”."
        yield Found(f"{first.origin}:{first.id}", says, where, (fix,))


def _hidden_jump(looked: Looked, frame: int, words: tuple[WordRef, WordRef]) -> Fix:
    """A closer view after it, where the picture has the pixels for that; else it crosses into what follows."""
    layer = looked.film(frame)
    assert layer is not None and layer.crop
    closer = min(_CLOSER, ENLARGED * layer.crop.width / place_at(layer.place, frame).width)
    if closer >= JUMP_ZOOM + _SURELY:
        punch = Punch(amount=round(closer - 0.005, 2), toward="the face")
        return Fix(label="Zoom in from there", edits=(_lay(looked, punch, words),))
    crossing = Transition(picture="crossfade", seconds=_CROSS)
    return Fix(label="Crossfade there", edits=(_lay(looked, crossing, (words[0], words[0])),))


def _covered(looked: Looked, frame: int) -> bool:
    before, after = looked.film(frame - 1), looked.film(frame)
    if before is None or after is None:
        return True
    if before is after or (before.source == after.source and before.crop == after.crop and before.place == after.place):
        return any(before is each for each in looked.scene.picture)
    one, two = _view(looked, before, frame - 1), _view(looked, after, frame)
    larger = max(one[2], two[2]) / min(one[2], two[2])
    shifted = max(abs(one[0] - two[0]), abs(one[1] - two[1])) / min(one[2], two[2])
    same = (
        isinstance(before.source, Video)
        and isinstance(after.source, Video)
        and before.source.media == after.source.media
    )
    return not same or larger >= JUMP_ZOOM or shifted >= JUMP_SHIFT


def _view(looked: Looked, layer: PictureLayer, frame: int) -> tuple[float, float, float]:
    """The middle and the width of what of its source is seen, in pixels of that."""
    assert layer.crop and layer.place
    place, crop, plan = place_at(layer.place, frame), layer.crop, looked.plan
    back = crop.width / place.width
    across = crop.x + crop.width / 2 + (plan.width / 2 - place.x) * back
    down = crop.y + crop.height / 2 + (plan.height / 2 - place.y) * back
    return across, down, plan.width * back


@check("unseen", "Speaker out of view", "picture")
def out_of_view(looked: Looked) -> Iterator[Found]:
    """Somebody is in the picture of the recording, and nobody in the frame."""
    step = max(round(_EVERY * looked.fps), 1)
    looks = [(frame, _nobody(looked, frame)) for frame in range(0, looked.last_frame, step)]
    for out, run in groupby(looks, key=lambda each: each[1]):
        frames = [frame for frame, _ in run]
        if not out or (len(frames)) * step / looked.fps < UNSEEN:
            continue
        where = looked.frames(frames[0], min(frames[-1] + step, looked.last_frame))
        heard = looked.spoken(where.start, where.end)
        if not heard:
            continue
        words = heard[0].spot.ref, heard[-1].spot.ref
        fix = Fix(label="Follow the speaker", edits=(_lay(looked, Framing(mode="speaker"), words),))
        says = f"Who speaks is out of the frame for {where.end - where.start:.1f} s."
        about = f"{heard[0].spot.piece.origin}:{heard[0].word.id}"
        yield Found(about, says, looked.over(heard[0], heard[-1]), (fix,))


def _nobody(looked: Looked, frame: int) -> bool:
    layer = looked.film(frame)
    if layer is None:
        return False
    faces = list(faces_in(layer, looked.scene, frame))
    return bool(faces) and not any(_in_frame(each, looked) for each in faces)


def _in_frame(face: FaceSeen, looked: Looked) -> bool:
    outlet, margin = looked.target.outlet, face.size * (_SHARE - 0.5)
    return margin <= face.across <= outlet.width - margin and margin <= face.down <= outlet.height - margin


class _Part(NamedTuple):
    """What of a medium something shows: from when to when, in seconds of it."""

    layer: str
    first: int
    last: int
    start: float
    end: float


@check("twice", "The same picture twice", "picture", "look")
def seen_twice(looked: Looked) -> Iterator[Found]:
    """Pictures over words that were there before."""
    seen: dict[str, list[_Part]] = {}
    for laid in sorted(looked.scene.of(Showing), key=lambda each: each.first):
        if not laid.content.covers or not laid.content.media:
            continue
        part = _part(looked, laid.layer, laid.content, laid.first, laid.last)
        before = seen.setdefault(laid.content.media, [])
        if again := next((each for each in before if part.start < each.end and each.start < part.end), None):
            name = looked.kit.names.get(laid.content.media) or laid.content.label()
            at = again.first / looked.fps
            says = f"“{name}” was seen before, at {int(at // 60)}:{at % 60:04.1f}."
            fix = Fix(label="Take it off", edits=(RemoveLayer(layer=laid.layer),))
            yield Found(laid.layer, says, looked.at(laid), (fix,))
        before.append(part)


def _part(looked: Looked, layer: str, content: Showing, first: int, last: int) -> _Part:
    for each in looked.scene.picture:
        if isinstance(each.source, Video) and each.source.media == content.media and first <= each.first < last:
            start, end = source_frame(each.source.knots, each.first), source_frame(each.source.knots, each.last)
            return _Part(layer, first, last, start / looked.fps, max(end, start + 1) / looked.fps)
    return _Part(layer, first, last, 0.0, 1.0)


@check("black", "Black picture", "picture", of_file=True)
def black(looked: Looked) -> Iterator[Found]:
    """Seen in the file."""
    assert looked.file is not None
    for start, end in looked.file.black:
        if end - start > BLACK_SECONDS:
            yield Found(f"{start:.1f}", f"Black for {end - start:.1f} s.", *_there(looked, start, end))


@check("still", "Frozen picture", "picture", "look", of_file=True)
def frozen(looked: Looked) -> Iterator[Found]:
    """Seen in the file where the plan has a film that goes on."""
    assert looked.file is not None
    for start, end in looked.file.still:
        frames = range(round(start * looked.fps), round(end * looked.fps), max(round(_EVERY * looked.fps), 1))
        if end - start > FROZEN_SECONDS and all(_moves(looked.film(frame), frame) for frame in frames):
            yield Found(
                f"{start:.1f}", f"The picture stands still for {end - start:.1f} s.", *_there(looked, start, end)
            )


def _moves(layer: PictureLayer | None, frame: int) -> bool:
    if layer is None or not isinstance(layer.source, Video):
        return False
    return source_frame(layer.source.knots, frame + 5) > source_frame(layer.source.knots, frame)


@check("flashes", "Flashes", "picture", of_file=True)
def flashes(looked: Looked) -> Iterator[Found]:
    """More than three flashes in a second can bring on seizures (WCAG 2.2, 2.3.1)."""
    assert looked.file is not None
    for spans, what in ((looked.file.flashes, ""), (looked.file.red_flashes, " in red")):
        for start, end in spans:
            says = f"It flashes{what} more than three times in a second: that can bring on seizures."
            yield Found(f"{what.strip()}{start:.1f}", says, *_there(looked, start, end))


def _there(looked: Looked, start: float, end: float) -> tuple[Where, tuple[Fix, ...]]:
    """Where seconds are, and how to take off what is laid there over the picture."""
    first, last = round(start * looked.fps), round(end * looked.fps)
    laid = next(
        (each for each in looked.scene.of(Showing) if each.content.covers and each.first < last and each.last > first),
        None,
    )
    if laid is None:
        return looked.frames(first, last), ()
    return looked.frames(first, last, laid.layer), (Fix(label="Take it off", edits=(RemoveLayer(layer=laid.layer),)),)


@check("opening", "A first frame that says nothing", "picture", "look")
def opening(looked: Looked) -> Iterator[Found]:
    """Nothing to read and nobody to see: it is what many see as a still."""
    soon = OPENING * looked.fps
    read = any(each.first <= soon for each in looked.plan.captions) and looked.target.captions is not None
    if read or any(each.first <= soon for each in looked.scene.of(Lettered)) or _faces(looked, 0):
        return
    fixes: Sequence[Fix] = ()
    if looked.heard and looked.target.titles:
        words = looked.heard[:_HOOK]
        text = " ".join(each.word.text for each in words)[:160]
        content = Title(text=text)
        fixes = (Fix(label="A title with the first words", edits=(_opening(looked, content, words[-1].spot.ref),)),)
    yield Found("", "It begins with nothing to read and nobody to see.", looked.frames(0, 1), tuple(fixes))


def _opening(looked: Looked, content: Content, last: WordRef) -> Edit:
    """Over the first words, from the first frame on."""
    first = looked.heard[0]
    span = looked.scene.places.over(first.spot.ref, last)
    nudge = max(-round(first.start * looked.fps) - 1, -250)
    name = next(iter(fresh_names(looked.sheet, "l")))
    return PutLayer(layer=Layer(id=name, span=Span(runs=span.runs, nudge_in=nudge), content=content))


def _faces(looked: Looked, frame: int) -> bool:
    layer = looked.film(frame)
    return layer is not None and any(_in_frame(each, looked) for each in faces_in(layer, looked.scene, frame))
