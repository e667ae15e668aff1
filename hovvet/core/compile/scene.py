"""What is at hand while the layers of a sheet are placed, and what they place."""

from collections.abc import Mapping
from dataclasses import dataclass, field
from functools import cached_property
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from hovvet.core.colour.grade import Grade
from hovvet.core.compile.source import Source
from hovvet.core.compile.timeline import Part, Timeline
from hovvet.core.picture.strip import Strip
from hovvet.core.plan.model import Mark, PictureLayer, SoundLayer
from hovvet.core.plan.outlets import Outlet
from hovvet.core.sheet.contents.ends import Ends
from hovvet.core.sheet.contents.framing import Framing
from hovvet.core.sheet.contents.join import Join
from hovvet.core.sheet.contents.lettered import Lettered
from hovvet.core.sheet.contents.progress import Progress
from hovvet.core.sheet.contents.punch import Punch
from hovvet.core.sheet.contents.waveform import Waveform
from hovvet.core.sheet.contents.wording import Wording
from hovvet.core.sheet.model import Span
from hovvet.core.sheet.places import Places
from hovvet.core.value import Value


@dataclass(frozen=True)
class Reach:
    """What a span covers that is kept: the first and last place on the sheet, and frames ``first`` up to ``last``."""

    begin: int
    end: int
    first: int
    last: int


class AsideAt(NamedTuple):
    """A caption of its own: the layer it is from, the place of the sheet after which it comes, and seconds of the output."""

    layer: str
    place: int
    text: str
    start: float
    end: float


class TitleAt(NamedTuple):
    """A title or slide from frame ``first`` up to ``last``, and the layer it is from."""

    first: int
    last: int
    title: Lettered
    layer: str


class Box(Value):
    """Where something stands on screen once it has come, in shares of the output."""

    left: float
    top: float
    width: float
    height: float


@dataclass
class Scene:
    """``framings``, ``punches`` and ``looks`` hold for frames, ``joins`` for the parts that begin with them; of several the latest counts."""

    outlet: Outlet
    sources: Mapping[str, Source]
    places: Places
    timeline: Timeline
    framings: list[tuple[int, int, Framing]] = field(default_factory=list)
    punches: list[tuple[int, int, Punch]] = field(default_factory=list)
    looks: list[tuple[int, int, Grade]] = field(default_factory=list)  # of who speaks
    looks_over: list[tuple[int, int, Grade]] = field(default_factory=list)  # of pictures over words
    joins: dict[int, Join] = field(default_factory=dict)  # by the frame at which the part after the join begins
    ends: Ends | None = None
    wordings: list[tuple[int, int, Wording]] = field(default_factory=list)  # by the first and last place they hold for
    pictures_begin: list[int] = field(default_factory=list)  # frames at which pictures over words begin
    titles: list[TitleAt] = field(default_factory=list)
    boxes: dict[str, Box] = field(default_factory=dict)  # of what stands on screen, by layer
    progress: list[tuple[int, int, Progress]] = field(default_factory=list)
    bars_cut: set[int] = field(default_factory=set)  # frames at which waveforms begin that are not seen to their end
    waveforms: list[tuple[int, Waveform, NDArray[np.float64]]] = field(default_factory=list)  # how loud each frame is
    asides: list[AsideAt] = field(default_factory=list)
    picture: list[PictureLayer] = field(default_factory=list)
    over: list[PictureLayer] = field(default_factory=list)  # on screen, over all that is in the picture
    sound: list[SoundLayer] = field(default_factory=list)
    markers: list[Mark] = field(default_factory=list)
    pictures: Mapping[str, tuple[int, int]] = field(default_factory=dict)  # of the workspace, their width and height
    stickers: Mapping[str, Strip] = field(default_factory=dict)
    _reaches: dict[Span, Reach | None] = field(default_factory=dict)

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
        stand = self.places.stands[place]
        part = self.parts[place]
        if part is None:
            return int(self.timeline.frame_at(stand.piece.id, stand.start) + 0.5)
        if (self._bounds[part.frame][0] if first else self._bounds[part.frame][1]) == place:
            return part.frame if first else part.end
        return int(part.output(stand.start if first else stand.end) + 0.5)

    def begins(self, place: int) -> float:
        """Seconds of the output at which a word or gap is first heard."""
        stand, part = self.places.stands[place], self.parts[place]
        within = part is not None and part.knots and part.knots[0][1] <= stand.start
        at = part.output(stand.start) if part and within else self.timeline.frame_at(stand.piece.id, stand.start)
        return at / self.timeline.rate.fps

    @cached_property
    def parts(self) -> list[Part | None]:
        """In which part each word or gap of the sheet is heard; None for what is cut."""
        at = self.timeline.part_at
        return [
            at(stand.piece.id, (stand.start + stand.end) / 2) if stand.kept else None for stand in self.places.stands
        ]

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
