"""An edition of a clip as it is looked at: compiled, with all that has to be known to judge it."""

from collections import defaultdict
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, field, replace
from functools import cached_property
from typing import NamedTuple

from hovvet.core.compile.kit import Kit
from hovvet.core.compile.scene import Box, Laid, Scene
from hovvet.core.compile.source import Source
from hovvet.core.compile.steps import planned, staged
from hovvet.core.compile.target import Target, target_of
from hovvet.core.plan.model import PictureLayer, Plan
from hovvet.core.proof.fault import Where
from hovvet.core.proof.measured import Measured
from hovvet.core.render.visible import film_of
from hovvet.core.sheet.applying import apply
from hovvet.core.sheet.contents.base import Content
from hovvet.core.sheet.edits import Batch, Edit
from hovvet.core.sheet.model import Edition, Piece, Sheet, WordRef
from hovvet.core.sheet.places import Spot
from hovvet.core.shelf.used import OnShelf
from hovvet.core.sweep.settings import SweepSettings
from hovvet.core.words.glossary import Term
from hovvet.core.words.transcript import Transcript, Word

_STRETCH = 256  # frames: by these layers are found
_OFF = 1.0  # pixels by which something may be over the edge of the safe area


class Heard(NamedTuple):
    """A word of the sheet that is heard: its place there, and when, in seconds of the output."""

    place: int
    spot: Spot
    word: Word
    start: float
    end: float


@dataclass(frozen=True)
class Looked:
    """``terms`` and ``sweeps`` are those of the recordings, by id; ``shelf`` what of the workspace is used; ``post`` the text
    that goes with the clip; ``file`` what was measured of the finished file
    (None: it is not made yet, or of an earlier state)."""

    sheet: Sheet
    edition: Edition
    kit: Kit
    sources: Mapping[str, Source]
    target: Target
    scene: Scene
    plan: Plan
    terms: Mapping[str, Sequence[Term]] = field(default_factory=dict)
    sweeps: Mapping[str, SweepSettings] = field(default_factory=dict)
    shelf: Sequence[OnShelf] = ()
    post: str = ""
    file: Measured | None = None

    @cached_property
    def heard(self) -> list[Heard]:
        """The words of the sheet that are heard, in order."""
        return list(self._heard())

    def _heard(self) -> Iterator[Heard]:
        for word in self.plan.words:
            if word.layer is None and word.origin:
                place = self.scene.places.find(WordRef(origin=word.origin, word=word.id))
                spot = self.scene.places.spots[place]
                if spot.word is not None:
                    yield Heard(place, spot, spot.word, word.start, word.end)

    @cached_property
    def voices(self) -> list[tuple[float, float]]:
        """When voices over the clip are heard, in seconds of the output."""
        return sorted(each.span for each in self.scene.said)

    @cached_property
    def fps(self) -> float:
        """Frames a second."""
        return self.plan.rate.fps

    @property
    def last_frame(self) -> int:
        """One past its last."""
        return self.plan.frames

    def transcript(self, piece: Piece) -> Transcript | None:
        """What is said in the recording of a piece; None for a gap, and where that is gone."""
        source = self.sources.get(piece.recording) if piece.recording else None
        return source.transcript if source else None

    def over(self, first: Heard, last: Heard | None = None) -> Where:
        """Where words are."""
        last = last or first
        return Where(start=first.start, end=last.end, words=(first.spot.ref, last.spot.ref))

    def frames(self, first: int, last: int, layer: str | None = None) -> Where:
        """Where frames are, and what lies over them."""
        return Where(start=first / self.fps, end=last / self.fps, layer=layer)

    def at(self, laid: Laid[Content]) -> Where:
        """Where something lies."""
        return self.frames(laid.first, laid.last, laid.layer)

    def spoken(self, first: float, last: float) -> list[Heard]:
        """The words that are heard from one second of the output to another, at least in part."""
        return [each for each in self.heard if each.end > first and each.start < last]

    def film(self, frame: int) -> PictureLayer | None:
        """The film that is seen at a frame (``render.visible.film_of``); looked up where layers are many."""
        return film_of(self.plan, frame, self._layers[frame // _STRETCH])

    @cached_property
    def _layers(self) -> defaultdict[int, list[PictureLayer]]:
        """The layers of the picture by the stretches of frames in which they are."""
        found: defaultdict[int, list[PictureLayer]] = defaultdict(list)
        for layer in self.plan.picture:
            for n in range(layer.first // _STRETCH, max(layer.last - 1, layer.first) // _STRETCH + 1):
                found[n].append(layer)
        return found

    def is_off_safe(self, box: Box) -> bool:
        """Whether something on screen is outside of what its outlet leaves free."""
        outlet = self.target.outlet
        left, top, right, bottom = outlet.safe
        wide, high = outlet.width, outlet.height
        return (
            box.left * wide < left - _OFF
            or box.top * high < top - _OFF
            or (box.left + box.width) * wide > wide - right + _OFF
            or (box.top + box.height) * high > high - bottom + _OFF
        )

    def with_edits(self, *edits: Edit) -> "Looked":
        """The same with the sheet edited; what was measured of a file no longer holds. Raises CoreError."""
        sheet = apply(self.sheet, Batch(edits=edits))
        edition = sheet.edition(self.edition.id)
        return looked_at(sheet, edition, self.kit, self.sources, replace(self, file=None))


def looked_at(
    sheet: Sheet, edition: Edition, kit: Kit, sources: Mapping[str, Source], like: "Looked | None" = None
) -> Looked:
    """An edition of a sheet, compiled; what else is known is as it was with ``like``. Raises CoreError."""
    target = target_of(sheet, edition, kit)
    scene = staged(sheet, sources, target)
    plan = planned(scene, target)
    if like is None:
        return Looked(sheet, edition, kit, sources, target, scene, plan)
    return replace(like, sheet=sheet, edition=edition, kit=kit, sources=sources, target=target, scene=scene, plan=plan)
