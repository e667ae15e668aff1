"""A process that draws some chunks of a plan: ``python -m hovvet.core.render.work ORDER``.

The order is a JSON file; every few frames it prints how many are done.
"""

import json
import os
import sys
from collections.abc import Mapping, Sequence
from dataclasses import asdict
from pathlib import Path
from typing import Any

import cv2
import numpy as np

from hovvet.core.errors import CoreError
from hovvet.core.media.checked import published
from hovvet.core.media.info import MediaInfo
from hovvet.core.plan.model import Plan
from hovvet.core.render.chunks import Script, text_time
from hovvet.core.render.compositor import Compositor, Frame, Original
from hovvet.core.render.encoding import Encoder, Encoding
from hovvet.core.render.text import Text

_TOLD_EVERY = 10  # frames
_BUFFERS = 3  # the encoder may still read the two before


def order(
    plan: Path, originals: Mapping[str, Original], wanted: Sequence[tuple[int, int, Path]], encoding: Encoding
) -> str:
    """The JSON of an order: chunks as (first frame, one past last, file to write)."""
    files = {
        key: {"path": str(each.path), "media": each.media.model_dump(mode="json"), "digest": each.digest}
        for key, each in originals.items()
    }
    chunks = [[first, last, str(out)] for first, last, out in wanted]
    return json.dumps({"plan": str(plan), "originals": files, "chunks": chunks, "encoding": asdict(encoding)})


def draw(plan: Plan, compositor: Compositor, first: int, last: int, out: Path, encoding: Encoding, done: Any) -> None:
    """Draw one chunk to a file, which appears when it is whole."""
    script = Script(plan).of(first, last)
    text = Text(script, plan.width, plan.height) if script is not None else None
    frames = [Frame(plan.width, plan.height) for _ in range(_BUFFERS)]
    with published(out) as part:
        encoder = Encoder(part, plan.width, plan.height, plan.rate, encoding)
        for n in range(first, last):
            frame = frames[n % _BUFFERS]
            for plane, drawn in zip(frame.planes, compositor.frame(n), strict=True):
                np.copyto(plane, drawn)
            if text is not None:
                text.draw(frame.planes, text_time(n - first, plan.rate))
            encoder.write(frame)
            done()
        encoder.close()
    if text is not None:
        text.close()


def main(path: str) -> int:
    """Work off an order; 1 with a message on standard error when that failed."""
    given = json.loads(Path(path).read_text())
    plan = Plan.model_validate_json(Path(given["plan"]).read_bytes())
    originals = {
        key: Original(Path(each["path"]), MediaInfo.model_validate(each["media"]), each["digest"])
        for key, each in given["originals"].items()
    }
    cv2.setNumThreads(1)
    count = 0

    def done() -> None:
        nonlocal count
        count += 1
        if count % _TOLD_EVERY == 0:
            print(count, flush=True)

    compositor = Compositor(plan, originals)
    try:
        for first, last, out in given["chunks"]:
            draw(plan, compositor, first, last, Path(out), Encoding(**given["encoding"]), done)
    except CoreError as error:
        print(json.dumps({"told": str(error), "detail": error.detail}), file=sys.stderr)
        return 1
    finally:
        compositor.close()
    return 0


if __name__ == "__main__":
    os.nice(5)
    sys.exit(main(sys.argv[1]))
