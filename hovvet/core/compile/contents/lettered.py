"""What is written large, in the script: titles, and slides."""

from collections.abc import Iterator, Sequence

from hovvet.core.compile.scene import Laid, Scene
from hovvet.core.compile.titles import box_of, title_letterings, title_style
from hovvet.core.plan.model import PlanWord
from hovvet.core.sheet.contents.lettered import Lettered


def write_lettered(laid: Laid[Lettered], scene: Scene, words: Sequence[PlanWord]) -> None:
    """Write it clear of what is taken, and of faces where there is room for that; where it stands is its box."""
    taken = [each for begins, ends, each in scene.taken if begins < laid.last and ends > laid.first]
    faces = scene.faces(laid.first, laid.last)
    made = title_letterings(laid.content, laid.first, laid.last, scene.outlet, scene.timeline.rate, taken, words, faces)
    scene.letterings += made
    setting = made[-1].writer.setting
    scene.boxes[laid.layer] = box = box_of(setting.lines(made[-1].parts[-1][1].lines), setting.padding, scene.outlet)
    high = scene.outlet.height
    if any(top < (box.top + box.height) * high and bottom > box.top * high for top, bottom in faces):
        scene.on_face.add(laid.layer)


def face_note(laid: Laid[Lettered], scene: Scene) -> str:
    """Whether it lies over a face."""
    return (
        "It lies over a face: there is no room for it elsewhere. Drag it on the stage, or make it shorter."
        if laid.layer in scene.on_face
        else ""
    )


def letters_of(content: Lettered) -> Iterator[tuple[str, str]]:
    """(text, file of the font) of what is written."""
    file = title_style(content).face.file
    yield from ((text, file) for text in (content.text, content.second))
