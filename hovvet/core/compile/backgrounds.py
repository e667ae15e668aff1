"""What of a background of one's own a layer of the plan carries."""

from collections.abc import Iterator, Sequence

from hovvet.core.colour.screen import Screen
from hovvet.core.compile.covering import shown
from hovvet.core.compile.framing import covering
from hovvet.core.compile.scene import Laid, Scene
from hovvet.core.picture.strip import Size
from hovvet.core.plan.model import GROUND, Fill, Ground, Keyed, Still, TimeKnot, Video
from hovvet.core.sheet.contents.background import Background
from hovvet.core.sheet.contents.broll import Broll

_BLUR_MOST = 0.04  # of the picture's height: the sigma of the strongest blur
_AGAIN = Broll(short="looped")


def backgrounds(scene: Scene, over: bool) -> Sequence[Laid[Background]]:
    """The backgrounds of who speaks; or, ``over``, of pictures over words."""
    wanted = "pictures over words" if over else "who speaks"
    return [each for each in scene.of(Background) if each.content.of == wanted]


def keyed_of(laid: Laid[Background] | None, media: str, size: Size, scene: Scene) -> Keyed | None:
    """What is taken out of a medium of ``size``, and seen in its place: as what is ``laid`` has it, else as it is kept with the
    recording; None for nothing."""
    source = scene.sources.get(media)
    background = laid.content if laid else source.background if source else None
    if background is None or background.behind == "as it was filmed" or not background.is_picked:
        return None
    frames = (laid.first, laid.last) if laid else (0, scene.timeline.frames)
    screen = Screen(**{name: getattr(background, name) for name in Screen.model_fields})
    return Keyed(screen=screen, ground=_ground(background, size, frames, scene))


def _ground(background: Background, size: Size, frames: tuple[int, int], scene: Scene) -> Ground | None:
    if background.behind == "what is below":
        return None if background.of == "pictures over words" else Ground(source=Fill(colour=GROUND))
    if background.behind == "a colour":
        return Ground(source=Fill(colour=background.colour))
    sigma = round(background.blur * _BLUR_MOST * size[1], 3)
    if picture := scene.pictures.get(background.media):
        return Ground(source=Still(media=background.media), crop=covering(picture, size, (0.5, 0.5)), sigma=sigma)
    film = scene.sources.get(background.media)
    if not background.has_picture or film is None or not film.media.has_picture:
        return Ground(source=Fill(colour=background.colour))
    crop = covering((film.media.width, film.media.height), size, (0.5, 0.5))
    knots = tuple(_over_and_over(film.media.duration, scene.timeline.rate.fps, *frames))
    return Ground(source=Video(media=background.media, knots=knots), crop=crop, sigma=sigma)


def _over_and_over(seconds: float, fps: float, first: int, last: int) -> Iterator[TimeKnot]:
    """A film from its beginning to its end, as often as frames need it."""
    for begin, end, knots in shown(_AGAIN, seconds, fps, first, last):
        yield knots[0]
        if end - begin > 1:
            yield TimeKnot(frame=end - 1, source=knots[0].source + end - 1 - begin)
