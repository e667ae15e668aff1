"""A process that draws chunks of plans: ``python -m hovvet.core.render.work ORDER``.

The order is a JSON file; every few frames it prints how many are done.
"""

import json
import os
import sys
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import asdict, dataclass
from heapq import heapify, heappop, heapreplace
from pathlib import Path

import cv2
import numpy as np

from hovvet.core.errors import CoreError
from hovvet.core.media.info import MediaInfo
from hovvet.core.media.sealed import sealed
from hovvet.core.plan.model import Plan
from hovvet.core.render.chunks import Script, text_time
from hovvet.core.render.compositor import Compositor, Frame
from hovvet.core.render.encoding import Encoder, Encoding
from hovvet.core.render.sources import Original, Sources
from hovvet.core.render.text import Text

_TOLD_EVERY = 10  # frames
_BUFFERS = 3  # the encoder may still read the two before


@dataclass(frozen=True)
class Stretches:
    """What of a plan to draw: ``wanted`` are (first frame, one past last, file to write), in order."""

    plan: Path
    encoding: Encoding
    wanted: Sequence[tuple[int, int, Path]]


def order(originals: Mapping[str, Original], drawn: Sequence[Stretches]) -> str:
    """The JSON of an order: stretches of plans of one rate, drawn side by side."""
    files = {
        key: {"path": str(each.path), "media": each.media.model_dump(mode="json"), "digest": each.digest}
        for key, each in originals.items()
    }
    plans = [
        {
            "plan": str(each.plan),
            "encoding": asdict(each.encoding),
            "chunks": [[first, last, str(out)] for first, last, out in each.wanted],
        }
        for each in drawn
    ]
    return json.dumps({"originals": files, "plans": plans})


def draw(
    plan: Plan,
    compositor: Compositor,
    wanted: Sequence[tuple[int, int, Path]],
    encoding: Encoding,
    fonts: Sequence[Path] = (),
) -> Iterator[int]:
    """Draw stretches of a plan to their files, each of which appears when it is whole; yields each frame before it is
    drawn. ``fonts`` are those of the plan."""
    script = Script(plan)
    frames = [Frame(plan.width, plan.height) for _ in range(_BUFFERS)]
    for first, last, out in wanted:
        lines = script.of(first, last)
        text = Text(lines, plan.width, plan.height, fonts) if lines is not None else None
        with sealed(out) as part:
            encoder = Encoder(part, plan.width, plan.height, plan.rate, encoding)
            for n in range(first, last):
                yield n
                frame = frames[n % _BUFFERS]
                for plane, drawn in zip(frame.planes, compositor.frame(n), strict=True):
                    np.copyto(plane, drawn)
                if text is not None:
                    text.draw(frame.planes, text_time(n - first, plan.rate))
                encoder.write(frame)
            encoder.close()
        if text is not None:
            text.close()


def side_by_side(drawings: Sequence[Iterator[int]]) -> Iterator[None]:
    """Go on with whichever drawing is at the earliest frame, so that all come to a frame together; yields after each."""
    waiting = [(at, n, each) for n, each in enumerate(drawings) if (at := next(each, None)) is not None]
    heapify(waiting)
    while waiting:
        _, n, drawing = waiting[0]
        at = next(drawing, None)
        yield
        if at is None:
            heappop(waiting)
        else:
            heapreplace(waiting, (at, n, drawing))


def main(path: str) -> int:
    """Work off an order; 1 with a message on standard error when that failed."""
    given = json.loads(Path(path).read_text())
    originals = {
        key: Original(Path(each["path"]), MediaInfo.model_validate(each["media"]), each["digest"])
        for key, each in given["originals"].items()
    }
    cv2.setNumThreads(1)
    plans = [Plan.model_validate_json(Path(each["plan"]).read_bytes()) for each in given["plans"]]
    sources = Sources(plans[0].rate, originals)
    drawings = [
        draw(
            plan,
            Compositor(plan, originals, sources),
            [(first, last, Path(out)) for first, last, out in each["chunks"]],
            Encoding(**each["encoding"]),
            [originals[font].path for font in plan.fonts],
        )
        for plan, each in zip(plans, given["plans"], strict=True)
    ]
    try:
        for count, _ in enumerate(side_by_side(drawings), 1):
            if count % _TOLD_EVERY == 0:
                print(count, flush=True)
    except CoreError as error:
        print(json.dumps({"told": str(error), "detail": error.detail}), file=sys.stderr)
        return 1
    finally:
        sources.close()
    return 0


if __name__ == "__main__":
    os.nice(5)
    sys.exit(main(sys.argv[1]))
