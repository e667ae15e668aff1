"""The base picture of a clip: its recordings as they are framed, joined."""

from collections.abc import Iterator, Sequence
from dataclasses import replace
from itertools import pairwise
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from hovvet.core.colour.grade import Grade
from hovvet.core.compile.angles import MAIN
from hovvet.core.compile.backgrounds import backgrounds, keyed_of
from hovvet.core.compile.blocks import Block, blocks
from hovvet.core.compile.covering import shown
from hovvet.core.compile.framing import Pane, View, closer, covering, followed, framed, panes, panned, rim, whole
from hovvet.core.compile.looks import changes_within, colours_of, latest, looks_of_speakers, sharpening_of, vignette_of
from hovvet.core.compile.scene import Laid, Scene
from hovvet.core.compile.source import Source
from hovvet.core.compile.timeline import Part
from hovvet.core.picture.following import follow
from hovvet.core.picture.strip import Size
from hovvet.core.picture.talking import Watched, nearest
from hovvet.core.plan.model import (
    GROUND,
    Fill,
    Knot,
    Pictured,
    PictureLayer,
    PlaceKnot,
    TimeKnot,
    Video,
    Window,
)
from hovvet.core.sheet.contents.background import Background
from hovvet.core.sheet.contents.broll import Broll
from hovvet.core.sheet.contents.camera import Camera
from hovvet.core.sheet.contents.framing import Framing
from hovvet.core.sheet.contents.punch import Punch

_USUAL = Framing()


class _Framed(NamedTuple):
    """Frames from ``first`` up to ``last`` and how they are framed; the framing lies from ``begin`` up to ``end``."""

    first: int
    last: int
    begin: int
    end: int
    framing: Framing
    punch: Laid[Punch] | None
    look: Grade | None
    camera: Camera | None
    background: Laid[Background] | None


_EDGE = 0.02  # seconds at the end of a film that are not counted on
_EYES = 0.4  # of the picture's height: about where faces are
_APART = 0.46  # of the picture's width: about how far from one another two speakers are
_BELOW = 0.08  # of what is seen: the face stands so much above its middle


def base_picture(scene: Scene) -> Iterator[PictureLayer]:
    """The recordings as they are framed, one over the other where they cross, then what they dip through."""
    own = blocks(scene)
    crosses = [0, *(_half(a, b, scene) for a, b in pairwise(own)), 0]
    for n, block in enumerate(own):
        before, after = crosses[n], crosses[n + 1]
        fades = bool(before and block.join and block.join.picture == "crossfade")
        extended = bool(after and own[n + 1].join and own[n + 1].join.picture == "crossfade")  # type: ignore[union-attr]
        lead, tail = before if fades else 0, after if extended else 0
        opacity = (Knot(at=block.frame - lead, value=0.0), Knot(at=block.frame + lead, value=1.0)) if lead else ()
        if _has_picture(block, scene):
            yield from _shown(block, scene, lead, tail, opacity)
        elif lead:
            yield filled(block.frame - lead, block.frame + lead, GROUND, opacity)
            if block.end + tail > block.frame + lead:
                yield filled(block.frame + lead, block.end + tail, GROUND, ())
    for half, block in zip(crosses[1:], own[1:], strict=False):
        if half and block.join and block.join.picture == "dip":
            at = block.frame
            knots = (Knot(at=at - half, value=0.0), Knot(at=at, value=1.0), Knot(at=at + half, value=0.0))
            yield filled(at - half, at + half, block.join.colour, knots)


def filled(first: int, last: int, colour: str, opacity: tuple[Knot, ...]) -> PictureLayer:
    """A colour over frames from ``first`` up to ``last``."""
    return PictureLayer(first=first, last=last, source=Fill(colour=colour), opacity=opacity)


def _half(before: Block, after: Block, scene: Scene) -> int:
    """Half the frames that a join takes: no more than half of what is on either side of it."""
    if after.join is None or after.join.picture == "cut":
        return 0
    wanted = scene.timeline.rate.frame(after.join.seconds / 2)
    return min(max(wanted, 1), (before.end - before.frame) // 2, (after.end - after.frame) // 2)


def _has_picture(block: Block, scene: Scene) -> bool:
    return block.recording is not None and scene.sources[block.recording].media.has_picture


def _shown(block: Block, scene: Scene, lead: int, tail: int, opacity: tuple[Knot, ...]) -> Iterator[PictureLayer]:
    """A block as layers, one for each way it is framed."""
    assert block.recording is not None
    talk = Video(media=block.recording, knots=time_knots(block.parts, scene.timeline.rate.fps))
    output = scene.outlet.width, scene.outlet.height
    for own in _framings(scene, block.frame, block.end):
        framing, punch, look = own.framing, own.punch, own.look
        begin = own.first - lead if own.first == block.frame else own.first
        end = own.last + tail if own.last == block.end else own.last
        for a, b, source, view in _by_camera(own, talk, begin, end, scene):
            face = _face(source, a, b, scene) if punch and punch.content.follows_faces else None
            seen = closer(view, output, punch.first, punch.last, punch.content, face) if punch else view
            rises = opacity if a < block.frame + lead else ()
            if film := _film(framing, scene):
                yield from _behind(film, own, (a, b), rises, scene)
                seen = replace(seen, backdrop=None)
            if framing.bordered and seen.window and seen.window.radius:
                yield from bordered(seen.window, framing.border, framing.border_colour, (a, b), rises, output)
            media = scene.sources[source.media].media
            yield PictureLayer(
                first=a,
                last=b,
                source=source,
                crop=seen.crop,
                place=seen.place,
                opacity=rises,
                backdrop=seen.backdrop,
                window=seen.window,
                mirrored=seen.mirrored,
                keyed=keyed_of(own.background, source.media, (media.width, media.height), scene),
                look=colours_of(look),
                sharpening=sharpening_of(look, media.height),
                vignette=vignette_of(look),
            )


def _by_camera(
    own: _Framed, talk: Video, first: int, last: int, scene: Scene
) -> Iterator[tuple[int, int, Video, View]]:
    """How frames of a talk are seen, by whichever camera, or by two at once."""
    camera = own.camera
    if camera is None:
        yield from ((a, b, talk, view) for a, b, view in _views(own, talk, first, last, scene))
        return
    numbers = (camera.camera,) if camera.arrange == "alone" else (camera.camera, camera.second)
    running = [_running(number, talk, first, last, scene) for number in numbers]
    changes = {first + int(n) + 1 for runs in running for n in np.flatnonzero(runs[1:] != runs[:-1])}
    for a, b in pairwise(sorted({first, last, *changes})):
        there = [_taken(number, talk, scene) for number, runs in zip(numbers, running, strict=True) if runs[a - first]]
        if len(there) < 2:
            film = there[0] if there else talk
            yield from ((c, d, film, view) for c, d, view in _views(own, film, a, b, scene))
            continue
        two = Framing(mode="two", arrange=camera.arrange, corner=camera.corner, small=camera.small)  # type: ignore[arg-type]
        for pane, film in zip(panes(two, (scene.outlet.width, scene.outlet.height)), there, strict=True):
            faces = scene.sources[film.media].faces
            whom = nearest(faces, (0.5, _EYES)) if faces else ()
            for c, d, view in _watching(pane, whom, (0.5, 0.5), film, a, b, scene):
                yield c, d, film, replace(view, window=pane.window)


def _running(number: int, talk: Video, first: int, last: int, scene: Scene) -> NDArray[np.bool_]:
    """In which frames a camera of a talk was running; in none where there is no such camera."""
    seconds = _seconds(talk, first, last, scene.timeline.rate.fps)
    if number == MAIN:
        return np.ones(len(seconds), bool)
    angle = scene.sources[talk.media].angle(number)
    film = scene.sources.get(angle.media) if angle else None
    if angle is None or film is None or not film.media.has_picture:
        return np.zeros(len(seconds), bool)
    begins, ends = angle.span(film.media.duration)
    return (seconds >= begins) & (seconds <= ends - _EDGE)


def _taken(number: int, talk: Video, scene: Scene) -> Video:
    """A talk as one of its cameras took it."""
    angle = scene.sources[talk.media].angle(number)
    if angle is None:
        return talk
    fps = scene.timeline.rate.fps
    knots = tuple(TimeKnot(frame=each.frame, source=round(angle.at(each.source / fps) * fps, 3)) for each in talk.knots)
    return Video(media=angle.media, knots=knots)


def _views(own: _Framed, video: Video, first: int, last: int, scene: Scene) -> Iterator[tuple[int, int, View]]:
    """How frames of a recording are seen, in order: as one, unless a speaker is followed."""
    framing = own.framing
    source = scene.sources[video.media]
    size, output = (source.media.width, source.media.height), (scene.outlet.width, scene.outlet.height)
    if framing.mode == "two":
        sides = (1.0, 0.0) if framing.swapped else (0.0, 1.0)  # whoever is furthest to the left first
        for pane, side in zip(panes(framing, output), sides, strict=True):
            whom = nearest(source.faces, (side, _EYES)) if source.faces else ()
            apart = 0.5 + (side - 0.5) * _APART
            for a, b, view in _watching(pane, whom, (apart, 0.5), video, first, last, scene):
                yield a, b, replace(view, window=pane.window)
    elif framing.mode == "speaker":
        near = nearest(source.faces, (framing.across, framing.down)) if source.faces else ()
        whom = near if framing.watch == "who is there" else source.talking or ()
        yield from _watching(whole(output), whom, (0.5, 0.5), video, first, last, scene)
    elif framing.pans:
        whole_span = min(own.begin, first), max(own.end, last)
        yield first, last, panned(framed(framing, size, output), framing, size, output, whole_span, (first, last))
    else:
        yield first, last, _backed(framed(framing, size, output), framing, scene)


def _backed(view: View, framing: Framing, scene: Scene) -> View:
    """A view over the picture that its framing has behind it, where that is (still) there."""
    size = scene.pictures.get(framing.picture)
    if view.backdrop is None or size is None or not framing.has_picture:
        return view
    crop = covering(size, (scene.outlet.width, scene.outlet.height), (0.5, 0.5))
    colour = framing.colour or GROUND
    return replace(view, backdrop=Pictured(media=framing.picture, crop=crop, strength=framing.strength, colour=colour))


def bordered(
    window: Window, share: float, colour: str, frames: tuple[int, int], rises: tuple[Knot, ...], output: Size
) -> Iterator[PictureLayer]:
    """The border of a small picture, behind it; nothing where it has none."""
    if share:
        source, around = Fill(colour=colour), rim(window, share, output)
        yield PictureLayer(first=frames[0], last=frames[1], source=source, window=around, opacity=rises)


def _film(framing: Framing, scene: Scene) -> Source | None:
    """The recording that a framing has behind what it shows."""
    source = scene.sources.get(framing.picture) if framing.has_picture else None
    return source if source and source.media.has_picture else None


def _behind(
    film: Source, own: _Framed, frames: tuple[int, int], rises: tuple[Knot, ...], scene: Scene
) -> Iterator[PictureLayer]:
    """A film behind some frames of a framing, over and over from where that begins; it covers all."""
    framing, first, last = own.framing, min(own.begin, frames[0]), max(own.end, frames[1])
    yield filled(*frames, framing.colour or GROUND, rises)
    media, output = film.media, (scene.outlet.width, scene.outlet.height)
    crop = covering((media.width, media.height), output, (0.5, 0.5))
    place = (PlaceKnot(frame=0, x=output[0] / 2, y=output[1] / 2, width=float(output[0])),)
    strength = tuple(Knot(at=each.at, value=each.value * framing.strength) for each in rises)
    if not strength and framing.strength < 1:
        strength = (Knot(at=0, value=framing.strength),)
    again = Broll(short="looped")
    for begin, end, knots in shown(again, media.duration, scene.timeline.rate.fps, first, last):
        a, b = max(begin, frames[0]), min(end, frames[1])
        if a < b:
            source = Video(media=framing.picture, knots=knots)
            yield PictureLayer(first=a, last=b, source=source, crop=crop, place=place, opacity=strength)


def _watching(
    pane: Pane, whom: Sequence[Watched], focus: tuple[float, float], video: Video, first: int, last: int, scene: Scene
) -> Iterator[tuple[int, int, View]]:
    """A pane that keeps faces in view; where none is known it shows what is at the focus."""
    source = scene.sources[video.media]
    size = source.media.width, source.media.height
    sees = pane.sees(size)
    tracks = [each.track for each in whom if each.track]
    if sees and source.faces and tracks:
        path = follow(source.faces, whom, *sees, _seconds(video, first, last, scene.timeline.rate.fps))
        if path.known:
            height = float(np.median(np.concatenate([track.y for track in tracks])))
            yield from followed(path, sees[0], size, pane, first, height + _BELOW * pane.crop(size).height / size[1])
            return
    x, y = pane.window.x + pane.window.width / 2, pane.window.y + pane.window.height / 2
    yield first, last, View(pane.crop(size, focus), (PlaceKnot(frame=0, x=x, y=y, width=float(pane.window.width)),))


def _seconds(video: Video, first: int, last: int, fps: float) -> NDArray[np.float64]:
    """The moments of a recording that frames show."""
    frames, knots = np.arange(first, last), video.knots
    if len(knots) == 1:
        shown = np.maximum(knots[0].source + frames - knots[0].frame, 0)
    else:
        shown = np.interp(frames, [knot.frame for knot in knots], [knot.source for knot in knots])
    seconds: NDArray[np.float64] = shown / fps
    return seconds


def _face(video: Video, first: int, last: int, scene: Scene) -> tuple[float, float] | None:
    """Where the face of whoever talks is in the middle of some frames, in pixels of the recording; None where none is known."""
    source = scene.sources[video.media]
    faces = source.faces
    if faces is None:
        return None
    (at,) = _seconds(video, (first + last) // 2, (first + last) // 2 + 1, scene.timeline.rate.fps)
    track = next((each.track for each in reversed(source.talking) if each.start <= at), None)
    if track is None:
        return None
    looks = faces.times[track.first : track.first + len(track.x)]
    return float(np.interp(at, looks, track.x)) * source.media.width, float(
        np.interp(at, looks, track.y)
    ) * source.media.height


def _framings(scene: Scene, first: int, last: int) -> Iterator[_Framed]:
    """How frames are framed, in order: of several things that lie over them the latest counts."""
    framings, punches, looks = scene.of(Framing), scene.of(Punch), looks_of_speakers(scene)
    cameras, behind = scene.of(Camera), backgrounds(scene, over=False)
    for start, end in pairwise(changes_within((*framings, *punches, *looks, *cameras, *behind), first, last)):
        framing, look, camera = latest(framings, start, end), latest(looks, start, end), latest(cameras, start, end)
        shown = (framing.first, framing.last, framing.content) if framing else (start, end, _USUAL)
        yield _Framed(
            start,
            end,
            *shown,
            latest(punches, start, end),
            look.content.grade if look else None,
            camera.content if camera else None,
            latest(behind, start, end),
        )


def time_knots(parts: Sequence[Part], fps: float) -> tuple[TimeKnot, ...]:
    """Output frames to source frames over parts that go on from one another."""
    first = parts[0]
    origin = int(first.knots[0][1] * fps + 0.5) - first.knots[0][1] * fps  # the frame nearest to the cut
    knots: list[TimeKnot] = []
    for part in parts:
        for at, seconds in part.knots:
            knot = TimeKnot(frame=part.frame + at, source=round(seconds * fps + origin, 3))
            if not knots or knots[-1].frame < knot.frame:
                knots.append(knot)
    straight = [
        knots[n]
        for n in range(len(knots))
        if not 0 < n < len(knots) - 1 or abs(_slope(knots, n) - _slope(knots, n + 1)) > 1e-6
    ]
    return tuple(straight)


def _slope(knots: Sequence[TimeKnot], n: int) -> float:
    a, b = knots[n - 1], knots[n]
    return (b.source - a.source) / (b.frame - a.frame)
