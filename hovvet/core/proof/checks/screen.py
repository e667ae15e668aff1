"""Whether what stands on screen can be seen, and lets be seen what is behind it."""

from collections.abc import Iterator
from itertools import combinations

from hovvet.core.compile.contents import placement_of
from hovvet.core.compile.scene import Laid
from hovvet.core.errors import CoreError
from hovvet.core.proof.fault import Fix
from hovvet.core.proof.looked import Looked
from hovvet.core.proof.registry import Found, check
from hovvet.core.proof.standing import elsewhere, put
from hovvet.core.sheet.contents.base import Content
from hovvet.core.sheet.contents.lettered import Lettered
from hovvet.core.sheet.edits import RemoveLayer
from hovvet.core.value import with_changes

_SIZES = (1.0, 0.8, 0.6)  # times its size, tried until a title is clear
_TRIED = 4  # titles for which a place is looked for: each try compiles the clip


@check("title_over_face", "Titles over a face", "screen")
def title_over_face(looked: Looked) -> Iterator[Found]:
    """With the place where it could stand instead."""
    tried = 0
    for laid in looked.scene.of(Lettered):
        if laid.layer not in looked.scene.on_face:
            continue
        tried += 1
        fixes = tuple(_clear(looked, laid)) if tried <= _TRIED else ()
        yield Found(laid.layer, f"“{laid.content.label()}” lies over a face.", looked.at(laid), fixes)


def _clear(looked: Looked, laid: Laid[Lettered]) -> Iterator[Fix]:
    """The first of a few ways in which it is clear: elsewhere, or smaller."""
    for times in _SIZES:
        content = with_changes(laid.content, height=None, size=max(laid.content.size * times, 0.4))
        if content == laid.content:
            continue
        edit = put(looked, laid.layer, content)
        try:
            after = looked.with_edits(edit)
        except CoreError:
            continue
        if laid.layer not in after.scene.on_face and laid.layer in after.scene.boxes:
            box = after.scene.boxes[laid.layer]
            where = (
                "at the top"
                if box.top < 1 / 3
                else "at the bottom"
                if box.top + box.height > 2 / 3
                else "in the middle"
            )
            smaller = f", {1 - times:.0%} smaller" if times < 1 else ""
            yield Fix(label=f"Put it {where}{smaller}", edits=(edit,))
            return


@check("screen_off_safe", "Off the safe area", "screen")
def screen_off_safe(looked: Looked) -> Iterator[Found]:
    """What an outlet covers with its own controls nobody sees."""
    for laid in looked.scene.laid:
        box = looked.scene.boxes.get(laid.layer)
        if box is None or not looked.is_off_safe(box):
            continue
        edit = elsewhere(looked, laid)
        fixes = (Fix(label="Move it in", edits=(edit,)),) if edit else ()
        says = f"“{laid.content.label()}” is over the edge of what {looked.target.outlet.name} leaves free."
        yield Found(laid.layer, says, looked.at(laid), fixes)


@check("overlap", "One over the other on screen", "screen")
def overlaps(looked: Looked) -> Iterator[Found]:
    """Of what stands on screen at once."""
    placed = [each for each in looked.scene.laid if each.layer in looked.scene.boxes]
    for one, two in combinations(placed, 2):
        together = one.first < two.last and two.first < one.last
        if not together or not looked.scene.boxes[one.layer].meets(looked.scene.boxes[two.layer]):
            continue
        fixes = tuple(_apart(looked, one, two))
        first, last = max(one.first, two.first), min(one.last, two.last)
        says = f"“{one.content.label()}” and “{two.content.label()}” are over one another."
        yield Found(f"{one.layer}:{two.layer}", says, looked.frames(first, last, two.layer), fixes)


def _apart(looked: Looked, one: Laid[Content], two: Laid[Content]) -> Iterator[Fix]:
    """The one that was laid later elsewhere, else the other one."""
    for laid in (two, one):
        if edit := elsewhere(looked, laid):
            boxes = looked.with_edits(edit).scene.boxes
            if not boxes[one.layer].meets(boxes[two.layer]):
                yield Fix(label=f"Put “{laid.content.label()}” elsewhere", edits=(edit,))
                return


@check("noted", "Something of it is missing", "screen")
def noted(looked: Looked) -> Iterator[Found]:
    """What a kind of content has to say of one of its own where it lies."""
    for laid in looked.scene.laid:
        if laid.layer in looked.scene.on_face:
            continue  # a check of its own
        if says := placement_of(laid.content).note(laid, looked.scene):
            fix = Fix(label="Take it off", edits=(RemoveLayer(layer=laid.layer),))
            yield Found(laid.layer, f"{laid.content.label()}: {says}", looked.at(laid), (fix,))
