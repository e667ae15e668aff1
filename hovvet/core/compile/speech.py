"""The speech of a clip: the sound of its recordings, joined."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from hovvet.core.compile.blocks import blocks
from hovvet.core.compile.scene import Scene
from hovvet.core.compile.timeline import Part
from hovvet.core.plan.model import JOIN_SAMPLES, Prepared, SoundLayer, stretched
from hovvet.core.sheet.contents.clearer import Clearer
from hovvet.core.sheet.contents.fades import Fades
from hovvet.core.sheet.contents.microphone import Microphone
from hovvet.core.sound.clearer import clearer_media
from hovvet.core.time import SAMPLE_RATE, Samples, to_samples
from hovvet.core.value import with_changes

QUIETEST_GAIN, LOUDEST_GAIN = -24.0, 32.0  # dB
HANDLE = JOIN_SAMPLES // 2
_LEAD = 2_400  # samples made before and after a stretched sound, for its joins
_ROOM, _ROOM_FADE = 19_200, 4_800  # samples of the room that are heard again and again, and how they cross
_ROOM_WITHIN = 20.0  # seconds around a freeze frame within which the room is listened to


@dataclass(frozen=True)
class _Heard:
    """A part of the sound: from sample ``first`` up to ``last``, with handles before and after in which it fades."""

    parts: tuple[Part, ...]
    first: int
    last: int
    before: int
    after: int


def speech(scene: Scene) -> tuple[list[SoundLayer], list[Prepared]]:
    """The sound of the recordings, and what has to be prepared for it."""
    layers: list[SoundLayer] = []
    prepared: list[Prepared] = []
    heard = list(_heard(scene))
    for each in heard:
        part = each.parts[0]
        if part.piece.recording is None or not scene.sources[part.piece.recording].media.has_sound:
            continue
        if (elsewhere := _by_microphone(scene, each)) and part.even:
            media, second = elsewhere
            layers.append(_layer(each, media, to_samples(second), source_gain(scene, media)))
            continue
        media = heard_as(scene, part.piece.recording)
        gain = source_gain(scene, media)
        if part.stop:
            layers += _room(each, scene, media, gain)
        elif part.pace is None:
            layers.append(_layer(each, media, to_samples(part.knots[0][1]), gain))
        elif not part.pace.muted:
            made, lead = _stretched(each, media)
            prepared.append(made)
            layers.append(_layer(each, made.media, lead, gain))
    return _with_end_fades(layers, scene), list({each.media: each for each in prepared}.values())


def _by_microphone(scene: Scene, heard: _Heard) -> tuple[str, float] | None:
    """The microphone that is wanted for the clip, and the second of it with which a part begins; None where the recording's own is
    heard. A drift of clocks is taken up anew in each part: within one it comes to less than can be heard."""
    wishes = scene.of(Microphone)
    recording = heard.parts[0].piece.recording
    angle = scene.sources[recording].angle(wishes[-1].content.camera) if wishes and recording else None
    source = scene.sources.get(angle.media) if angle else None
    if angle is None or source is None or not source.media.has_sound:
        return None
    start, end = heard.parts[0].knots[0][1], heard.parts[-1].knots[-1][1]
    return (angle.media, angle.at(start)) if angle.covers(start, end, source.media.duration) else None


def heard_as(scene: Scene, recording: str) -> str:
    """What is heard of a recording: the sound that was made clearer from it, where that is wanted and there."""
    wishes = scene.of(Clearer)
    strength = wishes[-1].content.strength if wishes else scene.sources[recording].clearer
    media = clearer_media(recording, strength)
    return media if strength != "off" and media in scene.sources else recording


def source_gain(scene: Scene, recording: str) -> float:
    """dB that bring a recording to the outlet's loudness; 0 where it has not been measured."""
    lufs = scene.sources[recording].media.lufs
    if lufs is None:
        return 0.0
    return round(min(max(scene.outlet.lufs - lufs, QUIETEST_GAIN), LOUDEST_GAIN), 2)


def _heard(scene: Scene) -> Iterator[_Heard]:
    """The sound in parts: what is between cuts, and there the stretches at one speed."""
    rate = scene.timeline.rate
    runs: list[tuple[tuple[Part, ...], int]] = []  # parts, half of how long the sound crosses at its beginning
    own = blocks(scene)
    for n, block in enumerate(own):
        cross = HANDLE
        if n and block.join and block.join.sound:
            longest = min(block.end - block.frame, own[n - 1].end - own[n - 1].frame) / 2
            cross = max(min(to_samples(block.join.sound / 2), int(rate.sample(int(longest)))), HANDLE)
        for run in _even_runs(block.parts):
            runs.append((run, cross))
            cross = HANDLE
    for n, (parts, before) in enumerate(runs):
        after = runs[n + 1][1] if n + 1 < len(runs) else 0
        yield _Heard(parts, rate.sample(parts[0].frame), rate.sample(parts[-1].end), before if n else 0, after)


def _even_runs(parts: Sequence[Part]) -> Iterator[tuple[Part, ...]]:
    """Parts at their own speed together, each other one apart."""
    run: list[Part] = []
    for part in parts:
        if part.even:
            run.append(part)
            continue
        if run:
            yield tuple(run)
        yield (part,)
        run = []
    if run:
        yield tuple(run)


def _layer(heard: _Heard, media: str, source: int, gain: float) -> SoundLayer:
    """A layer with its handles; where its source begins later than its handle would, with less of that."""
    lead = min(heard.before, source)
    samples = heard.last - heard.first + lead + heard.after
    return SoundLayer(
        media=media,
        sample=heard.first - lead,
        samples=samples,
        source_sample=source - lead,
        gain=gain,
        fade_in=min(lead + heard.before if heard.before else HANDLE, samples // 2),
        fade_out=min(2 * heard.after if heard.after else HANDLE, samples // 2),
    )


def _room(heard: _Heard, scene: Scene, media: str, gain: float) -> Iterator[SoundLayer]:
    """The quietest moments near a freeze frame, one after the other."""
    part = heard.parts[0]
    assert part.stop and part.piece.recording is not None
    levels = scene.sources[part.piece.recording].levels
    begins = levels.room(part.stop.at, _ROOM / SAMPLE_RATE, _ROOM_WITHIN) if levels and part.stop.room else None
    if begins is None:
        return
    source = to_samples(begins)
    at, end, fade = heard.first - heard.before, heard.last + heard.after, 2 * heard.before or HANDLE
    while at < end:
        samples = min(_ROOM, end - at)
        is_last = at + samples >= end
        out = (2 * heard.after or HANDLE) if is_last else _ROOM_FADE
        yield SoundLayer(
            media=media,
            sample=at,
            samples=samples,
            source_sample=source,
            gain=gain,
            fade_in=min(fade, samples // 2),
            fade_out=min(out, samples // 2),
        )
        if is_last:
            return
        at, fade = at + samples - _ROOM_FADE, _ROOM_FADE


def _stretched(heard: _Heard, recording: str) -> tuple[Prepared, Samples]:
    """What has to be made of a part at another speed, and where in that it begins."""
    part = heard.parts[0]
    assert part.pace
    edge = 1.0 if part.pace.ramp > 0 else part.pace.rate
    start, end = to_samples(part.knots[0][1]), to_samples(part.knots[-1][1])
    lead = min(_LEAD, int(start / edge))
    length = heard.last - heard.first
    inside = [(lead + round(length * at / part.frames), to_samples(seconds)) for at, seconds in part.knots[1:-1]]
    knots = (
        (0, start - int(lead * edge)),
        (lead, start),
        *inside,
        (lead + length, end),
        (lead + length + _LEAD, end + int(_LEAD * edge)),
    )
    kept = tuple(knot for n, knot in enumerate(knots) if n == 0 or knot[0] > knots[n - 1][0])
    return stretched(recording, kept), Samples(lead)


def _with_end_fades(layers: list[SoundLayer], scene: Scene) -> list[SoundLayer]:
    ends = scene.of(Fades)
    if not ends or not layers:
        return layers
    rise, fall = to_samples(ends[-1].content.fade_in), to_samples(ends[-1].content.fade_out)
    end = scene.timeline.rate.sample(scene.timeline.frames)
    if rise and layers[0].sample == 0:
        layers[0] = with_changes(layers[0], fade_in=min(rise, layers[0].samples // 2))
    if fall and layers[-1].sample + layers[-1].samples == end:
        layers[-1] = with_changes(layers[-1], fade_out=min(fall, layers[-1].samples // 2))
    return layers
