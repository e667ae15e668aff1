"""What is written large, in the script: titles, and slides."""

from collections.abc import Iterator, Sequence

from hovvet.core.captions.ass import Lettering
from hovvet.core.compile.scene import Box, Laid, Scene
from hovvet.core.compile.titles import band, title_letterings, title_style
from hovvet.core.plan.model import PlanWord
from hovvet.core.plan.outlets import Outlet
from hovvet.core.sheet.contents.lettered import Lettered


def write_lettered(laid: Laid[Lettered], scene: Scene, words: Sequence[PlanWord]) -> None:
    """Write it clear of what is taken; where it stands is its box."""
    taken = [each for begins, ends, each in scene.taken if begins < laid.last and ends > laid.first]
    made = title_letterings(laid.content, laid.first, laid.last, scene.outlet, scene.timeline.rate, taken, words)
    scene.letterings += made
    scene.boxes[laid.layer] = _box(made[-1], scene.outlet)


def letters_of(content: Lettered) -> Iterator[tuple[str, str]]:
    """(text, file of the font) of what is written."""
    file = title_style(content).face.file
    yield from ((text, file) for text in (content.text, content.second))


def _box(lettering: Lettering, outlet: Outlet) -> Box:
    """Where what is written stands."""
    setting = lettering.writer.setting
    lines = setting.lines(lettering.parts[-1][1].lines)
    top, bottom = band(lines, setting.padding)
    left = min(line.left for line in lines) - setting.padding
    right = max(line.right for line in lines) + setting.padding
    wide, high = outlet.width, outlet.height
    return Box(left=left / wide, top=top / high, width=(right - left) / wide, height=(bottom - top) / high)
