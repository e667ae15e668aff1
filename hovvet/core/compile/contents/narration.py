"""Narration in the plan."""

from collections.abc import Iterator, Sequence
from typing import ClassVar

from hovvet.core.compile.contents.base import Placement
from hovvet.core.compile.contents.lettered import letters_of, write_lettered
from hovvet.core.compile.saying import room_note, say
from hovvet.core.compile.scene import Laid, Reach, Scene
from hovvet.core.plan.model import PlanWord, Spoken
from hovvet.core.sheet.contents.narration import Narration
from hovvet.core.sheet.contents.title import Title
from hovvet.core.words.spoken_text import is_foreign

_NOTHING = "Type what is to be said."
_FOREIGN = "These voices read English. What is written in other letters they leave out, or spell."
_WAITS = "Not all of it has been spoken yet. What has is heard."
_TITLE = 160  # letters that a title has room for


class NarrationPlacement(Placement[Narration]):
    """Is read over the clip from its first word on."""

    writes: ClassVar[bool] = True

    def note(self, laid: Laid[Narration], scene: Scene) -> str:
        """What is missing, and whether there is room for it."""
        narration = laid.content
        if not narration.spoken:
            return _NOTHING
        if any(each.media not in scene.sources for each in narration.spoken):
            return _WAITS
        return room_note(laid, scene) or (_FOREIGN if is_foreign(narration.text) else "")

    def place(self, laid: Laid[Narration], scene: Scene) -> None:
        """Let its sentences be heard, one after the other, those that are spoken already."""
        at = scene.timeline.rate.seconds(laid.first)
        for each in _there(laid, scene):
            at = say(scene, laid.layer, laid.content, each.media, at) + laid.content.pause
            scene.spoken.append(each)
        if laid.content.spoken and all(each.media in scene.sources for each in laid.content.spoken):
            scene.lasts[laid.layer] = at - laid.content.pause - scene.timeline.rate.seconds(laid.first)

    def write(self, laid: Laid[Narration], scene: Scene, words: Sequence[PlanWord]) -> None:
        """Its sentences as titles, where they are to stand."""
        narration, rate = laid.content, scene.timeline.rate
        if not narration.template:
            return
        at = rate.seconds(laid.first)
        for each in _there(laid, scene):
            over = at + scene.sources[each.media].media.duration
            first, last = rate.frame_from(at), min(rate.frame(over), scene.timeline.frames)
            title = Title(text=each.text[:_TITLE], template=narration.template)
            if last > first:
                reach = Reach(laid.reach.begin, laid.reach.end, first, last)
                write_lettered(Laid(laid.layer, title, reach), scene, words)
            at = over + narration.pause

    def letters(self, content: Narration) -> Iterator[tuple[str, str]]:
        """What its titles say."""
        if content.template:
            for each in content.spoken:
                yield from letters_of(Title(text=each.text[:_TITLE], template=content.template))


def _there(laid: Laid[Narration], scene: Scene) -> Iterator[Spoken]:
    """Its sentences, of those that are spoken already."""
    return (each for each in laid.content.spoken if each.media in scene.sources)
