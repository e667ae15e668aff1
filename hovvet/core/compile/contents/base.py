"""How content gets into the plan."""

from collections.abc import Iterable, Iterator, Sequence
from typing import Any, ClassVar, Generic, get_args, get_origin

from hovvet.core.compile.scene import C, Laid, Scene
from hovvet.core.compile.timing import Timing
from hovvet.core.plan.model import PlanWord
from hovvet.core.sheet.contents.base import Content
from hovvet.core.sheet.model import Span
from hovvet.core.sheet.places import Places

PLACEMENTS: dict[type[Content], "Placement[Any]"] = {}  # by what they place; one is registered by being defined


class Placement(Generic[C]):
    """One for each kind of content, ``Placement[Title]`` for titles. What a kind has no use for it leaves as it is here."""

    writes: ClassVar[bool] = False
    """Whether it writes or not: where nothing does, it is not looked up where captions stand."""

    def __init_subclass__(cls) -> None:
        """Register it for the kind that it is of."""
        base = next(base for base in cls.__orig_bases__ if get_origin(base) is Placement)  # type: ignore[attr-defined]
        (kind,) = get_args(base)
        PLACEMENTS[kind] = cls()

    def timing(self, content: C, span: Span, places: Places) -> Iterator[Timing]:
        """What it does to the passing of time, before anything is placed."""
        return iter(())

    def note(self, laid: Laid[C], scene: Scene) -> str:
        """What a person has to know of it where it lies, in a sentence or two; "" for nothing."""
        return ""

    def place(self, laid: Laid[C], scene: Scene) -> None:
        """Put it into the scene."""

    def write(self, laid: Laid[C], scene: Scene, words: Sequence[PlanWord]) -> None:
        """Put what it writes into the scene, once all else is placed and the ``words`` of the clip are known."""

    def letters(self, content: C) -> Iterable[tuple[str, str]]:
        """(text, file of the font) of what it writes."""
        return ()


def placement_of(content: Content) -> Placement[Any]:
    """The placement of a content's kind."""
    return PLACEMENTS[type(content)]
