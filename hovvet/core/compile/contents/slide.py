"""Text slides in the plan."""

from collections.abc import Iterator, Sequence
from typing import ClassVar

from hovvet.core.compile.contents.base import Placement
from hovvet.core.compile.contents.lettered import letters_of, write_lettered
from hovvet.core.compile.covering import shown, view_of
from hovvet.core.compile.entrance import enter, entrance_note
from hovvet.core.compile.scene import Laid, Scene
from hovvet.core.plan.model import Fill, Knot, PictureLayer, PlanWord, Still, Video
from hovvet.core.sheet.contents.broll import Broll
from hovvet.core.sheet.contents.slide import Slide

_GONE = "What it stands on was deleted, or is still being prepared: it is on its colour alone. Choose another one."


class SlidePlacement(Placement[Slide]):
    """Covers the base picture; its words are in the script, as those of titles are."""

    writes: ClassVar[bool] = True

    def note(self, laid: Laid[Slide], scene: Scene) -> str:
        """Whether what it stands on is gone."""
        media = laid.content.media
        source = scene.sources.get(media)
        there = not media or media in scene.pictures or (source is not None and source.media.has_picture)
        return entrance_note(laid, scene) if there else _GONE

    def place(self, laid: Laid[Slide], scene: Scene) -> None:
        """Its colour, what it stands on, and what is heard as it comes."""
        enter(laid, scene)
        slide = laid.content
        scene.picture.append(PictureLayer(first=laid.first, last=laid.last, source=Fill(colour=slide.ground)))
        self._ground(laid, scene)

    def write(self, laid: Laid[Slide], scene: Scene, words: Sequence[PlanWord]) -> None:
        """Write its words into the script."""
        write_lettered(laid, scene, words)

    def letters(self, content: Slide) -> Iterator[tuple[str, str]]:
        """What it says."""
        return letters_of(content)

    def _ground(self, laid: Laid[Slide], scene: Scene) -> None:
        slide = laid.content
        covering = Broll(media=slide.media, move="comes closer", short="looped")
        output, strength = (scene.outlet.width, scene.outlet.height), (Knot(at=laid.first, value=slide.strength),)
        size, source = scene.pictures.get(slide.media), scene.sources.get(slide.media)
        if size is not None:
            view = view_of(covering, size, output, laid.first, laid.last, is_still=True)
            parts: list[tuple[int, int, Still | Video]] = [(laid.first, laid.last, Still(media=slide.media))]
        elif source is not None and source.media.has_picture:
            media = source.media
            view = view_of(covering, (media.width, media.height), output, laid.first, laid.last, is_still=False)
            runs = shown(covering, media.duration, scene.timeline.rate.fps, laid.first, laid.last)
            parts = [(begin, end, Video(media=slide.media, knots=knots)) for begin, end, knots in runs]
        else:
            return
        scene.picture += [
            PictureLayer(first=begin, last=end, source=what, crop=view.crop, place=view.place, opacity=strength)
            for begin, end, what in parts
        ]
