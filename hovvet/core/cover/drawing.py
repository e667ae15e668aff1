"""Drawing the cover of a clip, as an export draws its frames."""

import io
import tempfile
from collections.abc import Mapping
from dataclasses import replace
from pathlib import Path
from typing import Literal

from PIL import Image

from hovvet.core.compile.kit import Kit
from hovvet.core.compile.source import Source
from hovvet.core.compile.steps import planned, staged
from hovvet.core.compile.target import target_of
from hovvet.core.cover.cover import Cover, covered, moment
from hovvet.core.media.process import Limits
from hovvet.core.plan.model import Plan
from hovvet.core.render.export import export
from hovvet.core.render.output import Output, sized
from hovvet.core.render.sources import Original
from hovvet.core.sheet.model import Edition, Sheet

Kind = Literal["png", "jpg"]
_QUALITY = 92  # of JPEG


def plan_of(
    sheet: Sheet, edition: Edition, cover: Cover, kit: Kit, sources: Mapping[str, Source], lines: int | None = None
) -> tuple[Plan, float]:
    """The plan that the cover is a frame of, and the seconds of that; ``lines`` of its shorter side, None for the outlet's
    size. Raises CoreError."""
    shown, dressed = covered(sheet, edition, cover)
    target = target_of(shown, dressed, kit)
    target = replace(target, outlet=sized(target.outlet, lines))
    scene = staged(shown, sources, target)
    return planned(scene, target), moment(cover, scene)


def drawn(plan: Plan, seconds: float, originals: Mapping[str, Original], kind: Kind, limit: Limits) -> bytes:
    """A picture of a plan at some seconds, as PNG or JPEG. Raises CoreError."""
    with tempfile.TemporaryDirectory(prefix="hovvet-cover-") as scratch:
        out = Path(scratch) / "cover.png"
        export(plan, originals, out, output=Output(kind="png", start=seconds), limit=limit)
        if kind == "png":
            return out.read_bytes()
        made = io.BytesIO()
        with Image.open(out) as picture:
            picture.convert("RGB").save(made, "JPEG", quality=_QUALITY, optimize=True)
        return made.getvalue()
