"""What is at hand while the layers of a sheet are placed, and what they place."""

from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from functools import cached_property
from typing import Generic, NamedTuple, TypeVar, cast

from hovvet.core.captions.ass import Lettering, Shape
from hovvet.core.compile.mixing.told import LevelCurve
from hovvet.core.compile.source import Source
from hovvet.core.compile.timeline import Part, Timeline
from hovvet.core.picture.strip import Strip
from hovvet.core.plan.model import Mark, PictureLayer, PlanWord, Prepared, SoundLayer, Spoken
from hovvet.core.plan.outlets import Outlet
from hovvet.core.sheet.contents.base import Content
from hovvet.core.sheet.model import Layer, Span
from hovvet.core.sheet.places import Places
from hovvet.core.value import Value

C = TypeVar("C", bound=Content)
C_co = TypeVar("C_co", bound=Content, covariant=True)
Band = tuple[float, float]  # from top to bottom of the output, in pixels


@dataclass(frozen=True)
class Reach:
    """What a span covers that is kept: the first and last place on the sheet, and frames ``first`` up to ``last``."""

    begin: int
    end: int
    first: int
    last: int


@dataclass(frozen=True)
class Laid(Generic[C_co]):
    """Something that lies over what is kept: the layer it is from, what it is, and where."""

    layer: str
    content: C_co
    reach: Reach

    @property
    def first(self) -> int:
        """Its first frame."""
        return self.reach.first

    @property
    def last(self) -> int:
        """One past its last frame."""
        return self.reach.last


class Box(Value):
    """Where something stands on screen once it has come, in shares of the output."""

    left: float
    top: float
    width: float
    height: float

    def meets(self, other: "Box") -> bool:
        """Whether it is over another one, in part at least."""
        beside = other.left < self.left + self.width and self.left < other.left + other.width
        return beside and other.top < self.top + self.height and self.top < other.top + other.height


class Beside(NamedTuple):
    """A sound beside the speech, ``under`` dB lower wherever somebody speaks."""

    layer: SoundLayer
    under: float = 0.0


class Said(NamedTuple):
    """A voice over the clip: when it is heard (seconds of the output), for which the speech is ``under`` dB lower; its sound,
    and its words if they are to be written."""

    span: tuple[float, float]
    under: float
    sound: SoundLayer | None
    words: tuple[PlanWord, ...]


def _nobody(_first: int, _last: int) -> Sequence[Band]:
    return ()


@dataclass
class Scene:
    """What is ``laid`` is known before anything is placed; of several things that cannot both count, the latest does. Each
    kind puts what it comes to into the general lists, in which nothing is told apart by kind."""

    outlet: Outlet
    sources: Mapping[str, Source]
    places: Places
    timeline: Timeline
    pictures: Mapping[str, tuple[int, int]] = field(default_factory=dict)  # of the workspace, their width and height
    stickers: Mapping[str, Strip] = field(default_factory=dict)
    laid: Sequence[Laid[Content]] = ()
    picture: list[PictureLayer] = field(default_factory=list)
    over: list[PictureLayer] = field(default_factory=list)  # on screen, over all that is in the picture
    last: list[PictureLayer] = field(default_factory=list)  # over all else
    sound: list[Beside] = field(default_factory=list)
    prepared: list[Prepared] = field(default_factory=list)  # sounds beside the speech that have to be made
    said: list[Said] = field(default_factory=list)  # voices over the clip
    lasts: dict[str, float] = field(default_factory=dict)  # seconds for which they take, by layer
    spoken: list[Spoken] = field(default_factory=list)  # what of them is read
    shapes: list[Shape] = field(default_factory=list)  # drawn by the script
    letterings: list[Lettering] = field(default_factory=list)  # written by the script, over its captions
    taken: list[tuple[int, int, Band]] = field(default_factory=list)  # frames, and where nothing else is to be written
    faces: Callable[[int, int], Sequence[Band]] = _nobody  # those in the picture between two frames, once it is known
    boxes: dict[str, Box] = field(default_factory=dict)  # of what stands on screen, by layer
    caption_boxes: Sequence[Box] = ()  # of the captions of the plan, one each
    on_face: set[str] = field(default_factory=set)  # layers that could be written nowhere but over a face
    clear_height: float | None = None  # of captions, where some lie over a face and need not
    level: LevelCurve | None = None  # how loud it is over time, once it is mixed
    beats: tuple[float, ...] = ()  # of its music, in seconds of the output, once it is mixed
    markers: list[Mark] = field(default_factory=list)
    _reaches: dict[Span, Reach | None] = field(default_factory=dict)
    _of: dict[type[Content], Sequence[Laid[Content]]] = field(default_factory=dict)

    def lay(self, layers: Iterable[Layer]) -> None:
        """Lay layers over what is kept; those that sleep are left out."""
        placed = ((layer, self.reach(layer.span)) for layer in layers)
        self.laid = [Laid(layer.id, layer.content, reach) for layer, reach in placed if reach is not None]
        self._of.clear()

    def of(self, kind: type[C]) -> Sequence[Laid[C]]:
        """What is laid of a kind of content, or of kinds that have this in common, in the order in which it counts."""
        if kind not in self._of:
            self._of[kind] = [each for each in self.laid if isinstance(each.content, kind)]
        return cast(Sequence[Laid[C]], self._of[kind])

    def reach(self, span: Span) -> Reach | None:
        """Where a span is in the clip; None while it sleeps."""
        if span not in self._reaches:
            self._reaches[span] = self._reach(span)
        return self._reaches[span]

    def _reach(self, span: Span) -> Reach | None:
        kept = self.places.kept(span)
        if not self.timeline.frames:
            return None
        if span.is_whole:  # also where nothing is said
            return Reach(*(kept or (0, -1)), 0, self.timeline.frames)
        if kept is None:
            return None
        first = self._edge(kept[0], first=True) + span.nudge_in
        last = self._edge(kept[1], first=False) + span.nudge_out
        first = min(max(first, 0), self.timeline.frames - 1)
        return Reach(*kept, first, min(max(last, first + 1), self.timeline.frames))

    def _edge(self, place: int, first: bool) -> int:
        """The frame at which a word begins or ends; where its part does, if it is the first or last one in it."""
        spot = self.places.spots[place]
        part = self.parts[place]
        if part is None:
            return int(self.timeline.frame_at(spot.piece.id, spot.start) + 0.5)
        if (self._bounds[part.frame][0] if first else self._bounds[part.frame][1]) == place:
            return part.frame if first else part.end
        return int(part.output(spot.start if first else spot.end) + 0.5)

    def begins(self, place: int) -> float:
        """Seconds of the output at which a word or gap is first heard."""
        spot, part = self.places.spots[place], self.parts[place]
        within = part is not None and part.knots and part.knots[0][1] <= spot.start
        at = part.output(spot.start) if part and within else self.timeline.frame_at(spot.piece.id, spot.start)
        return at / self.timeline.rate.fps

    @cached_property
    def parts(self) -> list[Part | None]:
        """In which part each word or gap of the sheet is heard; None for what is cut."""
        at = self.timeline.part_at
        return [at(spot.piece.id, (spot.start + spot.end) / 2) if spot.kept else None for spot in self.places.spots]

    @cached_property
    def _bounds(self) -> dict[int, tuple[int, int]]:
        """The first and last word that is heard in each part, by the frame at which that begins."""
        bounds: dict[int, tuple[int, int]] = {}
        for place, part in enumerate(self.parts):
            if part is not None:
                bounds[part.frame] = (bounds.get(part.frame, (place, place))[0], place)
        return bounds

    def opening(self, part: Part) -> int | None:
        """The place of the first word heard in a part."""
        found = self._bounds.get(part.frame)
        return found[0] if found else None
