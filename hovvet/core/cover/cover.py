"""The cover of a clip: one of its frames, or a title over one."""

from typing import Annotated

from pydantic import Field

from hovvet.core.compile.scene import Scene
from hovvet.core.plan.model import PlanWord
from hovvet.core.sheet.contents.title import Title
from hovvet.core.sheet.edits import EditError
from hovvet.core.sheet.model import Edition, Layer, Sheet, WordRef
from hovvet.core.sheet.moving import fresh_names
from hovvet.core.value import Value, with_changes


class Cover(Value):
    """Where its frame is hangs on the words: it stays the same when what is before it is cut or moved."""

    word: WordRef | None = None
    """The last word that begins before the frame; None for the beginning of the clip."""
    after: Annotated[float, Field(ge=0, le=14_400)] = 0.0
    """Seconds of the output since that word began."""
    title: Title | None = None
    """What is written over it."""


def at_moment(seconds: float, words: tuple[PlanWord, ...], title: Title | None) -> Cover:
    """A cover of the frame at some seconds of the output."""
    before = next((w for w in reversed(words) if w.layer is None and w.origin and w.start <= seconds), None)
    if before is None:
        return Cover(after=max(seconds, 0.0), title=title)
    return Cover(
        word=WordRef(origin=before.origin, word=before.id), after=round(seconds - before.start, 3), title=title
    )


def moment(cover: Cover, scene: Scene) -> float:
    """The seconds of the output of its frame; those of the beginning where its word is gone or cut."""
    last = scene.timeline.rate.seconds(max(scene.timeline.frames - 1, 0))
    if cover.word is None:
        return min(cover.after, last)
    try:
        place = scene.places.find(cover.word)
    except EditError:
        return 0.0
    return min(scene.begins(place) + cover.after, last) if scene.places.spots[place].kept else 0.0


def covered(sheet: Sheet, edition: Edition, cover: Cover) -> tuple[Sheet, Edition]:
    """The sheet and edition of which the cover is a frame: without captions and what comes and goes on screen, with its own
    title throughout."""
    off = [each.id for each in sheet.layers if each.content.lane == "screen" and not each.content.on_cover]
    layers = sheet.layers
    if cover.title is not None:
        name = next(iter(fresh_names(sheet, "l")))
        layers = (*layers, Layer(id=name, content=with_changes(cover.title, builds=False, counts=False)))
    hidden = tuple(dict.fromkeys((*edition.hidden, *off)))
    shown = with_changes(edition, hidden=hidden, dressing="dressed")
    return with_changes(sheet, layers=layers, captions=None, style=None), shown


def usual_title(sheet: Sheet, text: str) -> Title:
    """A title as the clip has its own: in their template and colours, else as titles are at first."""
    own = next((each.content for each in sheet.layers if isinstance(each.content, Title)), None)
    if own is None:
        return Title(text=text[:160])
    return with_changes(own, text=text[:160], second="", height=None, builds=False, counts=False)
