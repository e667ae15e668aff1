"""Whether a clip is heard as it should be."""

from collections.abc import Iterator, Sequence
from itertools import groupby

import numpy as np

from hovvet.core.compile.mixing.predicted import Predicted
from hovvet.core.plan.model import SoundLayer
from hovvet.core.proof.fault import Fix
from hovvet.core.proof.looked import Looked
from hovvet.core.proof.registry import Found, check
from hovvet.core.proof.thresholds import LONGEST_SILENCE, LOUDER, LOUDNESS_OFF, MUSIC_UNDER, PEAK_OFF, SILENT
from hovvet.core.sheet.contents.sound import Sound
from hovvet.core.sheet.contents.transition import Transition
from hovvet.core.sheet.contents.volume import Volume
from hovvet.core.sheet.edits import PutLayer
from hovvet.core.sheet.model import Layer, WordRef
from hovvet.core.sheet.moving import fresh_names
from hovvet.core.sound.energy import STEP
from hovvet.core.time import SAMPLE_RATE
from hovvet.core.value import with_changes

_CROSS = 0.1  # seconds over which a join crosses that clicks
_ALONG = 0.4  # of how far off a stretch is, that what is beside it is at least, to be set along
_HALF = 0.5  # dB: to what volumes are rounded


@check("loudness", "Not as loud as the outlet wants", "sound")
def loudness(looked: Looked) -> Iterator[Found]:
    """As measured of the file; else as it is going to be."""
    wanted = looked.target.outlet.lufs
    lufs = looked.file.lufs if looked.file else looked.plan.loudness
    if lufs is not None and abs(lufs - wanted) > LOUDNESS_OFF:
        way = "louder" if lufs > wanted else "softer"
        why = " Peaks keep it from being louder: make what is loudest softer." if lufs < wanted else ""
        yield Found(
            "", f"{lufs:.1f} LUFS is {abs(lufs - wanted):.1f} LU {way} than {looked.target.outlet.name} wants.{why}"
        )


@check("peak", "True peaks too high", "sound", of_file=True)
def peak(looked: Looked) -> Iterator[Found]:
    """Measured of the file."""
    assert looked.file is not None
    high, limit = looked.file.peak, looked.target.outlet.peak
    if high is not None and high > limit + PEAK_OFF:
        yield Found("", f"Its true peak is {high:.1f} dBTP, over the {limit:.1f} dBTP of {looked.target.outlet.name}.")


@check("quiet", "Speech too quiet to be understood", "sound")
def too_quiet(looked: Looked) -> Iterator[Found]:
    """Against the loudness of the outlet."""
    yield from _stretches(looked, louder=True)


@check("loud", "Much louder than the rest", "sound")
def too_loud(looked: Looked) -> Iterator[Found]:
    """Against the loudness of the outlet."""
    yield from _stretches(looked, louder=False)


def _stretches(looked: Looked, louder: bool) -> Iterator[Found]:
    level = looked.scene.level
    if level is None:
        return
    wanted = looked.target.outlet.lufs
    for start, end in level.quiet if louder else level.loud:
        first, last = int(start / level.step), max(int(end / level.step), int(start / level.step) + 1)
        by = float(np.mean(level.lufs[first:last])) - wanted
        # What is beside it is as far off, half at least: it is set along.
        while first > 0 and (level.lufs[first - 1] - wanted) / by > _ALONG:
            first -= 1
        while last < len(level.lufs) and (level.lufs[last] - wanted) / by > _ALONG:
            last += 1
        begins, ends = first * level.step, last * level.step
        heard = looked.spoken(begins, ends)
        where = (
            looked.over(heard[0], heard[-1])
            if heard
            else looked.frames(round(begins * looked.fps), round(ends * looked.fps))
        )
        fixes = (_set_by(looked, where.words, -(by + LOUDER) if louder else -by),) if where.words else ()
        about = f"{heard[0].spot.piece.origin}:{heard[0].word.id}" if heard else f"{start:.1f}"
        said = f": “{' '.join(each.word.text for each in heard[:6])}…”" if heard else ""
        yield Found(
            about, f"About {abs(by):.0f} LU {'softer' if louder else 'louder'} than it should be{said}.", where, fixes
        )


def _set_by(looked: Looked, words: tuple[WordRef, WordRef], by: float) -> Fix:
    volume = float(np.clip(round(by / _HALF) * _HALF, -24, 12))
    name = next(iter(fresh_names(looked.sheet, "l")))
    content = Volume(of="all" if volume < 0 else "speech", volume=volume)
    layer = Layer(id=name, span=looked.scene.places.over(*words), content=content)
    return Fix(label=f"{volume:+g} dB here", edits=(PutLayer(layer=layer),))


@check("silence", "Silence", "sound", "look")
def silence(looked: Looked) -> Iterator[Found]:
    """Nothing at all is heard: neither speech nor music."""
    level = looked.scene.level
    if level is None:
        return
    at = 0
    for quiet, steps in groupby(level.lufs, key=lambda each: each < SILENT):
        count = len(list(steps))
        start, end = at * level.step, min((at + count) * level.step, looked.plan.seconds)
        at += count
        if quiet and end - start > LONGEST_SILENCE:
            where = looked.frames(round(start * looked.fps), round(end * looked.fps))
            yield Found(f"{start:.1f}", f"Nothing is heard for {end - start:.1f} s.", where)


@check("music", "Music too loud under speech", "sound")
def music_over_speech(looked: Looked) -> Iterator[Found]:
    """By the powers of both while somebody speaks."""
    plan = looked.plan
    speech = _power(looked, [each for each in plan.sound if each.bus in ("speech", "voice")])
    if speech is None:
        return
    spans = [(each.start, each.end) for each in looked.heard] + looked.voices
    for laid in looked.scene.of(Sound):
        own = [each for each in plan.sound if each.layer == laid.layer and each.bus == "music"]
        power = _power(looked, own) if own else None
        if power is None:
            continue
        steps = np.zeros(len(power), bool)
        for start, end in spans:
            steps[int(start * SAMPLE_RATE / STEP) : int(end * SAMPLE_RATE / STEP)] = True
        steps &= power > 0
        if not steps.any() or not power[steps].mean() or not speech[steps].mean():
            continue
        under = 10 * np.log10(speech[steps].mean() / power[steps].mean())
        if under >= MUSIC_UNDER - 0.05:
            continue
        volume = laid.content.volume - np.ceil((MUSIC_UNDER - under) / _HALF) * _HALF
        span = next(each.span for each in looked.sheet.layers if each.id == laid.layer)
        content = with_changes(laid.content, volume=max(float(volume), -60.0))
        fix = Fix(
            label=f"{volume - laid.content.volume:g} dB",
            edits=(PutLayer(layer=Layer(id=laid.layer, span=span, content=content)),),
        )
        name = looked.kit.names.get(laid.content.media) or laid.content.label()
        says = f"“{name}” is {under:.0f} dB under the speech; {MUSIC_UNDER:.0f} dB let it be understood."
        yield Found(laid.layer, says, looked.at(laid), (fix,))


def _power(looked: Looked, layers: Sequence[SoundLayer]) -> "np.ndarray[tuple[int], np.dtype[np.float64]] | None":
    """Of each 10 ms; None where it is not known of all of them."""
    sum_ = Predicted(layers, looked.plan.prepared, looked.sources, looked.plan.samples)
    return sum_.power if sum_.complete else None


@check("click", "Clicks at a join", "sound", of_file=True)
def clicks(looked: Looked) -> Iterator[Found]:
    """Heard in the file where two stretches meet."""
    assert looked.file is not None
    for at in looked.file.clicks:
        after = next((each for each in looked.heard if each.start >= at - 0.05), None)
        fixes: tuple[Fix, ...] = ()
        if after is not None:
            name = next(iter(fresh_names(looked.sheet, "l")))
            span = looked.scene.places.over(after.spot.ref, after.spot.ref)
            content = Transition(picture="cut", sound=_CROSS)
            fixes = (
                Fix(label="Cross the sound there", edits=(PutLayer(layer=Layer(id=name, span=span, content=content)),)),
            )
        about = f"{after.spot.piece.origin}:{after.word.id}" if after else f"{at:.2f}"
        where = looked.over(after) if after else looked.frames(round(at * looked.fps), round(at * looked.fps) + 1)
        yield Found(about, "It clicks where two stretches meet.", where, fixes)
