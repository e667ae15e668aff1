"""Pictures over words in the plan."""

from collections.abc import Iterator
from itertools import pairwise

from hovvet.core.compile.backgrounds import backgrounds, keyed_of
from hovvet.core.compile.contents.base import Placement
from hovvet.core.compile.covering import shown, view_of
from hovvet.core.compile.framing import View
from hovvet.core.compile.looks import changes_within, colours_of, latest, looks_over, sharpening_of, vignette_of
from hovvet.core.compile.picture import bordered
from hovvet.core.compile.scene import Beside, Laid, Scene
from hovvet.core.compile.speech import source_gain
from hovvet.core.picture.strip import Size
from hovvet.core.plan.model import PictureLayer, SoundLayer, Still, Video
from hovvet.core.sheet.contents.base import SILENT
from hovvet.core.sheet.contents.broll import Broll
from hovvet.core.time import to_samples

_FLICKER = 0.6  # seconds: what is seen for less than that between two pictures is a flicker
_NOTHING = "Choose what is to be seen here."
_GONE = "What was shown here was deleted, or is still being prepared. Choose another one, or take this off."
_BLIND = "There is no picture in this recording. Choose another one."


class BrollPlacement(Placement[Broll]):
    """Lies over the base picture."""

    def note(self, laid: Laid[Broll], scene: Scene) -> str:
        """What is missing, and what is done where it is too short."""
        broll = laid.content
        if not broll.media or broll.media in scene.pictures:
            return "" if broll.media else _NOTHING
        source = scene.sources.get(broll.media)
        if source is None:
            return _GONE
        if not source.media.has_picture:
            return _BLIND
        lasts, needed = source.media.duration - broll.start, scene.timeline.rate.seconds(laid.last - laid.first)
        silent = "There is no sound in it to be heard." if _is_heard(broll) and not source.media.has_sound else ""
        if lasts >= needed:
            return silent
        how: str = "seen only as long" if broll.short == "as long as it lasts" else broll.short
        if _is_heard(broll) and broll.short == "slowed down":
            how += ", and its sound is not heard"
        return f"It lasts {max(lasts, 0):.1f} of these {needed:.1f} seconds, so it is {how}. {silent}".rstrip()

    def place(self, laid: Laid[Broll], scene: Scene) -> None:
        """Put its layers over what is there."""
        broll, output = laid.content, (scene.outlet.width, scene.outlet.height)
        size = scene.pictures.get(broll.media)
        last = self._last(laid, scene)
        if size is not None:
            view = view_of(broll, size, output, laid.first, last, is_still=True, safe=scene.outlet.safe)
            scene.picture += _layers(broll, view, Still(media=broll.media), (laid.first, last), size, scene)
            return
        source = scene.sources.get(broll.media)
        if source is None or not source.media.has_picture:
            return
        media = source.media
        view = view_of(
            broll, (media.width, media.height), output, laid.first, last, is_still=False, safe=scene.outlet.safe
        )
        for begin, end, knots in shown(broll, media.duration, scene.timeline.rate.fps, laid.first, last):
            film = Video(media=broll.media, knots=knots)
            scene.picture += _layers(broll, view, film, (begin, end), (media.width, media.height), scene)
            if _is_heard(broll) and media.has_sound and len(knots) == 1:
                scene.sound.append(Beside(self._heard(laid, scene, begin, end, knots[0].source)))

    def _heard(self, laid: Laid[Broll], scene: Scene, first: int, last: int, source: float) -> SoundLayer:
        """Its own sound, from its frame ``source`` on, softly in and out."""
        broll, rate = laid.content, scene.timeline.rate
        sample = rate.sample(first)
        samples = rate.sample(last) - sample
        return SoundLayer(
            bus="effect",
            layer=laid.layer,
            media=broll.media,
            sample=sample,
            samples=samples,
            source_sample=to_samples(source / rate.fps),
            gain=round(source_gain(scene, broll.media) + broll.volume, 2),
            fade_in=min(to_samples(broll.fade_in), samples // 2),
            fade_out=min(to_samples(broll.fade_out), samples // 2),
        )

    def _last(self, laid: Laid[Broll], scene: Scene) -> int:
        """Until which frame it is seen: where another picture soon begins, until that does, or what is behind would flicker
        up in between."""
        soon = laid.last + scene.timeline.rate.frame(_FLICKER)
        return min(
            (each.first for each in scene.laid if each.content.covers and laid.last < each.first <= soon),
            default=laid.last,
        )


def _is_heard(broll: Broll) -> bool:
    """Whether it is to be heard at all."""
    return broll.volume > SILENT


def _layers(
    broll: Broll, view: View, source: Video | Still, frames: tuple[int, int], size: Size, scene: Scene
) -> Iterator[PictureLayer]:
    """A source of ``size`` over frames from one up to another: a layer for each colour and background it is seen with."""
    output = scene.outlet.width, scene.outlet.height
    if broll.fit == "in a corner" and view.window:
        yield from bordered(view.window, broll.border, broll.border_colour, frames, (), output)
    looks, behind = looks_over(scene), backgrounds(scene, over=True)
    for first, last in pairwise(changes_within((*looks, *behind), *frames)):
        laid = latest(looks, first, last)
        look = laid.content.grade if laid else None
        keyed = keyed_of(latest(behind, first, last), broll.media, size, scene)
        yield PictureLayer(
            first=first,
            last=last,
            source=source,
            crop=view.crop,
            place=view.place,
            # What is below is seen through it: nothing of its own is between.
            backdrop=None if keyed and keyed.ground is None else view.backdrop,
            window=view.window,
            keyed=keyed,
            look=colours_of(look),
            sharpening=sharpening_of(look, size[1]),
            vignette=vignette_of(look),
        )
