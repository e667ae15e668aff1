"""A clip in shapes that it is not made in yet: looked at first, then kept as editions, in one change."""

import tempfile
from collections.abc import Sequence
from dataclasses import replace
from pathlib import Path

from hovvet.core.compile.steps import planned, staged
from hovvet.core.compile.target import target_of
from hovvet.core.media.process import Limits
from hovvet.core.render.export import export
from hovvet.core.render.output import Output, sized
from hovvet.core.sheet.applying import apply
from hovvet.core.sheet.edits import Batch, Edit
from hovvet.core.sheet.model import Edition, Sheet
from hovvet.core.sheet.shapes import Shape, shapes_edit
from hovvet.server.delivery.exporting import originals_of
from hovvet.server.documents.changing import apply_made
from hovvet.server.documents.kit import kit_of
from hovvet.server.documents.models import Document
from hovvet.server.documents.opening import Opened, sheet_of
from hovvet.server.documents.sources import sources_of
from hovvet.server.styles.house import edit_that_dresses
from hovvet.server.styles.models import NamedSettings

_LIMITS = Limits(
    seconds=40, cpu=15, output=256 * 1024**2, memory=2 * 1024**3
)  # somebody waits for it, in a thread of the server
_LINES = 360  # of the shorter side of a picture that shows a shape


def picture_in(clip: Document, house: NamedSettings | None, shape: Shape, part: float) -> bytes:
    """A PNG of what a clip shows in a shape, dressed in a house style (None: as it is), after ``part`` of its length (0 to
    1), drawn as an export draws it. Raises CoreError."""
    sheet = sheet_of(clip)
    if house is not None:
        sheet = apply(sheet, edit_that_dresses(clip, sheet, house))
    target = target_of(sheet, Edition(id="e1", outlet=shape.outlet, dressing=shape.dressing), kit_of(clip.workspace))
    target = replace(target, outlet=sized(target.outlet, _LINES))
    plan = planned(staged(sheet, sources_of(clip, sheet).sources, target), target)
    with tempfile.TemporaryDirectory(prefix="hovvet-shape-") as scratch:
        out = Path(scratch) / "shape.png"
        output = Output(kind="png", start=min(part, 1.0) * plan.seconds)
        export(plan, originals_of(clip.workspace, plan), out, output=output, limit=_LIMITS)
        return out.read_bytes()


def keep_shapes(
    clip: Document,
    version: int,
    house: NamedSettings | None,
    shapes: Sequence[Shape],
    author_id: int | None,
    edition: str | None,
) -> Opened:
    """Add editions in these shapes, and dress the clip in a house style, as one change. Raises Stale, Problem, CoreError."""

    def make(sheet: Sheet) -> Edit:
        dressed = edit_that_dresses(clip, sheet, house) if house else Batch(edits=())
        return Batch(edits=(dressed, shapes_edit(apply(sheet, dressed), shapes)))

    return apply_made(clip, version, make, author_id, edition)
