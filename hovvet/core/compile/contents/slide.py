"""Text slides in the plan."""

from hovvet.core.compile.contents.base import Placement
from hovvet.core.compile.covering import shown, view_of
from hovvet.core.compile.scene import Reach, Scene, TitleAt
from hovvet.core.plan.model import Fill, Knot, PictureLayer, Still, Video
from hovvet.core.sheet.contents.broll import Broll
from hovvet.core.sheet.contents.slide import Slide
from hovvet.core.sheet.model import Layer

_GONE = "What it stands on was deleted, or is still being prepared: it is on its colour alone. Choose another one."


class SlidePlacement(Placement):
    """Covers the base picture; its words are in the script, as those of titles are."""

    def foresee(self, layer: Layer, reach: Reach, scene: Scene) -> None:
        """Note where it begins."""
        scene.pictures_begin.append(reach.first)

    def note(self, layer: Layer, reach: Reach, scene: Scene) -> str:
        """Whether what it stands on is gone."""
        assert isinstance(layer.content, Slide)
        media = layer.content.media
        source = scene.sources.get(media)
        there = not media or media in scene.pictures or (source is not None and source.media.has_picture)
        return "" if there else _GONE

    def place(self, layer: Layer, reach: Reach, scene: Scene) -> None:
        """Its colour, what it stands on, its words."""
        slide = layer.content
        assert isinstance(slide, Slide)
        scene.picture.append(PictureLayer(first=reach.first, last=reach.last, source=Fill(colour=slide.ground)))
        self._ground(slide, reach, scene)
        scene.titles.append(TitleAt(reach.first, reach.last, slide, layer.id))

    def _ground(self, slide: Slide, reach: Reach, scene: Scene) -> None:
        covering = Broll(media=slide.media, move="comes closer", short="begun again")
        output, strength = (scene.outlet.width, scene.outlet.height), (Knot(at=reach.first, value=slide.strength),)
        size, source = scene.pictures.get(slide.media), scene.sources.get(slide.media)
        if size is not None:
            view = view_of(covering, size, output, reach.first, reach.last, is_still=True)
            parts: list[tuple[int, int, Still | Video]] = [(reach.first, reach.last, Still(media=slide.media))]
        elif source is not None and source.media.has_picture:
            media = source.media
            view = view_of(covering, (media.width, media.height), output, reach.first, reach.last, is_still=False)
            runs = shown(covering, media.duration, scene.timeline.rate.fps, reach.first, reach.last)
            parts = [(begin, end, Video(media=slide.media, knots=knots)) for begin, end, knots in runs]
        else:
            return
        scene.picture += [
            PictureLayer(first=begin, last=end, source=what, crop=view.crop, place=view.place, opacity=strength)
            for begin, end, what in parts
        ]
