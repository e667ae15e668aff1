"""Sheet to plan: the one place where it is decided what is seen and heard when.

A line of steps: what changes time -> the timeline of what is kept, in whole frames -> the layers, placed by their kinds
-> the base picture and the speech -> the words and their captions -> the plan.
"""

from collections.abc import Iterator, Mapping, Sequence

from hovvet.core.captions.ass import caption_lettering, script
from hovvet.core.captions.fonts import FALLBACK
from hovvet.core.captions.lay_out import lay_out_captions
from hovvet.core.captions.metrics import unwritten
from hovvet.core.compile.contents import placement_of
from hovvet.core.compile.faces_seen import FacesSeen
from hovvet.core.compile.mixing.beats_heard import beats_heard
from hovvet.core.compile.mixing.mix import mixed
from hovvet.core.compile.off_faces import off_faces
from hovvet.core.compile.picture import base_picture
from hovvet.core.compile.scene import Scene
from hovvet.core.compile.source import Source
from hovvet.core.compile.speech import speech
from hovvet.core.compile.target import Target
from hovvet.core.compile.timeline import Timeline, lay_out
from hovvet.core.compile.titles import band, box_of
from hovvet.core.compile.words import heard
from hovvet.core.errors import CoreError
from hovvet.core.plan.model import Caption, Plan, PlanWord, Stretch
from hovvet.core.sheet.model import Sheet
from hovvet.core.sheet.places import Places
from hovvet.core.time import Rate
from hovvet.core.value import with_changes


def compile(sheet: Sheet, sources: Mapping[str, Source], target: Target) -> Plan:
    """Compile a sheet for one target.

    ``sources`` maps recording ids to their transcript and media; what is of a recording that it lacks is left out.
    """
    return planned(staged(sheet, sources, target), target)


def planned(scene: Scene, target: Target) -> Plan:
    """The plan of a scene: its base, its words and captions, and all that was placed on it."""
    timeline, outlet = scene.timeline, target.outlet
    sound, prepared = speech(scene)
    prepared = list({each.media: each for each in (*prepared, *scene.prepared)}.values())
    words = heard(scene, target.keywords) if target.texts else ()
    breaks = {n: target.breaks[ref] for n, word in enumerate(words) if (ref := (word.origin, word.id)) in target.breaks}
    captions = lay_out_captions(words, timeline.rate, timeline.frames, target.layout, breaks) if target.texts else ()
    style, face = target.captions, target.face
    base = tuple(base_picture(scene))
    scene.faces = FacesSeen(base, scene).between
    captions, text = _written(captions, words, scene, target)
    mix = mixed(scene, sound, prepared, words, mastered=target.texts)
    scene.level = mix.curve
    scene.beats = beats_heard(mix.layers, prepared, scene.sources)
    return Plan(
        rate=timeline.rate,
        width=outlet.width,
        height=outlet.height,
        frames=timeline.frames,
        samples=timeline.rate.sample(timeline.frames),
        master=mix.master,
        peak_db=outlet.peak,
        loudness=mix.loudness,
        picture=(*base, *scene.picture, *scene.over, *scene.last),
        sound=mix.layers,
        prepared=tuple(prepared),
        spoken=tuple(dict.fromkeys(scene.spoken)),
        stretches=tuple(_stretches(timeline)),
        words=words,
        captions=captions,
        markers=tuple(scene.markers),
        script=text,
        fonts=(face.asset,) if style and face and face.asset else (),
    )


def _written(
    captions: Sequence[Caption], words: Sequence[PlanWord], scene: Scene, target: Target
) -> tuple[tuple[Caption, ...], str | None]:
    """The captions as they came out, and the script of them and of all that is written or drawn over them; None where there
    is nothing."""
    style, rate, outlet = target.captions, scene.timeline.rate, target.outlet
    own = caption_lettering(captions, words, rate, outlet, style, target.face) if style else None
    if style and own:
        setting = own.writer.setting
        lines = [setting.lines(said.lines) for _, said in own.parts]
        bands = [band(each, setting.padding) for each in lines]
        scene.caption_boxes = [box_of(each, setting.padding, outlet) for each in lines]
        scene.taken += ((each.first, each.last, taken) for each, taken in zip(captions, bands, strict=True))
        captions, scene.clear_height = off_faces(captions, bands, style.height, scene)
    for laid in scene.laid:
        if placement_of(laid.content).writes:
            placement_of(laid.content).write(laid, scene, words)
    letterings = [*([own] if own else ()), *scene.letterings]
    text = script(outlet, letterings, rate, scene.shapes) if letterings or scene.shapes else None
    return tuple(captions), text


def unwritten_in(plan: Plan, scene: Scene, target: Target) -> str:
    """The letters of a plan's captions and titles that no font has: they would be left out of the picture."""
    missing = []
    style = target.captions
    if style is not None:
        file = (target.face or style.face).file
        missing.append(unwritten((style.written(word.written) for word in plan.words), file, FALLBACK.file))
    for laid in scene.laid:
        for text, file in placement_of(laid.content).letters(laid.content):
            missing.append(unwritten((text,), file, FALLBACK.file))
    return "".join(dict.fromkeys("".join(missing)))


def staged(sheet: Sheet, sources: Mapping[str, Source], target: Target) -> Scene:
    """The timeline of a sheet, and all its layers placed on it. What lies over the whole clip comes first. Raises
    CoreError where it would last longer than the target lets it."""
    places = Places(sheet, {key: source.transcript for key, source in sources.items()})
    shown = [layer for layer in sheet.layers if layer.id not in target.hidden]
    layers = sorted(shown, key=lambda layer: not layer.span.is_whole)
    timings = [
        timing for layer in layers for timing in placement_of(layer.content).timing(layer.content, layer.span, places)
    ]
    rate = target.rate or usual_rate(sheet, sources)
    timeline = lay_out(sheet, sources, rate, timings)
    if target.longest is not None and timeline.frames > rate.frame(target.longest):
        raise CoreError(
            f"With its freeze frames and slow stretches the clip would last longer than {target.longest / 60:.0f} minutes. "
            "Take some off, or make a second clip."
        )
    scene = Scene(target.outlet, sources, places, timeline, pictures=target.pictures, stickers=target.stickers)
    scene.lay(layer for layer in layers if target.titles or layer.content.lane != "screen")
    for laid in scene.laid:
        placement_of(laid.content).place(laid, scene)
    return scene


def usual_rate(sheet: Sheet, sources: Mapping[str, Source]) -> Rate:
    """The frame rate of the recording that most is shown of; 30 where there is no picture."""
    shown: dict[str, float] = {}
    for piece in sheet.pieces:
        key = piece.recording
        if key is not None and key in sources and sources[key].media.has_picture:
            shown[key] = shown.get(key, 0.0) + piece.end - piece.start
    return sources[max(shown, key=lambda key: shown[key])].media.rate if shown else Rate()


def _stretches(timeline: Timeline) -> Iterator[Stretch]:
    """What of the recordings is where, in as few stretches as tell it."""
    last: Stretch | None = None
    for part in timeline.parts:
        start, end = (part.knots[0][1], part.knots[-1][1]) if part.knots else (0.0, part.piece.end)
        goes_on = last and last.piece == part.piece.id and part.follows and part.even and last.even
        if last and goes_on:
            last = with_changes(last, frames=last.frames + part.frames, end=end)
            continue
        if last:
            yield last
        last = Stretch(
            piece=part.piece.id,
            recording=part.piece.recording,
            frame=part.frame,
            frames=part.frames,
            start=start,
            end=end,
            even=part.even,
        )
    if last:
        yield last
