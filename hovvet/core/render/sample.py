"""A caption style as a small picture: words set in it, as the export would draw them."""

from collections.abc import Sequence
from pathlib import Path

import cv2
import numpy as np
from numpy.typing import NDArray

from hovvet.core.captions.ass import caption_lettering
from hovvet.core.captions.ass import script as script_of
from hovvet.core.captions.fonts import Font
from hovvet.core.captions.lay_out import lay_out_captions
from hovvet.core.captions.layout import CaptionLayout
from hovvet.core.captions.style import CaptionStyle
from hovvet.core.compile.titles import title_letterings
from hovvet.core.plan.model import PlanWord
from hovvet.core.plan.outlets import Outlet
from hovvet.core.render.compositor import Frame
from hovvet.core.render.text import Text
from hovvet.core.sheet.contents.title import Title
from hovvet.core.time import Rate
from hovvet.core.value import with_changes

_SIZE = Outlet(key="sample", name="Sample", width=480, height=240, longest=60, safe=(16, 12, 16, 12))
_SCALE = 0.85  # of the letters' size in a picture whose shorter side is 1080
_WORD = 0.5  # seconds each word is spoken
_LARGE = Outlet(key="sample", name="Sample", width=1080, height=540, longest=60, safe=(36, 27, 36, 27))
_TITLE = 4.0  # seconds that a title is there
# Luma at the top and at the bottom, chroma: a calm picture, neither dark nor light.
_GROUND = ((96, 60), 122, 134)


def style_sample(style: CaptionStyle, texts: Sequence[str], face: Font | None = None) -> bytes:
    """A PNG of 480 x 240 with the last of these words being spoken; ``face`` is the font where that is a workspace's own."""
    words = [
        PlanWord(id=n + 1, piece="p", text=text, start=n * _WORD, end=(n + 1) * _WORD) for n, text in enumerate(texts)
    ]
    rate = Rate()
    frames = rate.frame(len(words) * _WORD)
    captions = lay_out_captions(words, rate, frames, CaptionLayout(characters=15, lines=2, longest=10))
    grown = 1080 * _SCALE / min(_SIZE.width, _SIZE.height)
    shown = with_changes(style, smallest=10, height=0.5)
    script = script_of(_SIZE, [caption_lettering(captions, words, rate, _SIZE, shown, face, grown)], rate)
    at = captions[-1].last - rate.frame(_WORD / 2) if captions else 0
    return _png(_drawn(script, _SIZE, at, [Path(face.file)] if face and face.asset else []))


def title_sample(title: Title) -> bytes:
    """A PNG of 480 x 240 with a title, when it has come."""
    rate = Rate()
    frames = rate.frame(_TITLE)
    letterings = title_letterings(with_changes(title, height=0.5, size=2.0), 0, frames, _LARGE, rate)
    large = _drawn(script_of(_LARGE, letterings, rate), _LARGE, frames // 2, [])
    small = cv2.resize(large, (_SIZE.width, _SIZE.height), interpolation=cv2.INTER_AREA)
    return _png(small.astype(np.uint8))


def _drawn(script: str, outlet: Outlet, at: int, fonts: Sequence[Path]) -> NDArray[np.uint8]:
    """What a script shows at a frame (of 30 a second) over a calm ground: blue, green, red."""
    frame = Frame(outlet.width, outlet.height)
    luma, *chroma = _GROUND
    frame.planes[0][:] = np.linspace(*luma, outlet.height).astype(np.uint8)[:, None]
    for plane, value in zip(frame.planes[1:], chroma, strict=True):
        plane[:] = value
    text = Text(script, outlet.width, outlet.height, fonts)
    text.draw(frame.planes, at * 1000 // 30)
    text.close()
    y = (frame.planes[0].astype(np.float32) - 16) * 1.1644
    u, v = (cv2.resize(plane, (outlet.width, outlet.height)).astype(np.float32) - 128 for plane in frame.planes[1:])
    picture = np.stack([y + 2.1124 * u, y - 0.2132 * u - 0.5329 * v, y + 1.7927 * v], axis=2)  # BT.709
    drawn: NDArray[np.uint8] = np.clip(picture + 0.5, 0, 255).astype(np.uint8)
    return drawn


def _png(picture: NDArray[np.uint8]) -> bytes:
    done, data = cv2.imencode(".png", picture)
    assert done
    return bytes(data)
