"""Titles in the plan."""

from collections.abc import Iterator, Sequence
from typing import ClassVar

from hovvet.core.compile.contents.base import Placement
from hovvet.core.compile.contents.lettered import face_note, letters_of, write_lettered
from hovvet.core.compile.entrance import enter, entrance_note
from hovvet.core.compile.scene import Laid, Scene
from hovvet.core.plan.model import PlanWord
from hovvet.core.sheet.contents.title import Title


class TitlePlacement(Placement[Title]):
    """Stands over the picture for its words."""

    writes: ClassVar[bool] = True

    def note(self, laid: Laid[Title], scene: Scene) -> str:
        """Whether it lies over a face, or its effect is missing."""
        return face_note(laid, scene) or entrance_note(laid, scene)

    def place(self, laid: Laid[Title], scene: Scene) -> None:
        """What is heard as it comes."""
        enter(laid, scene)

    def write(self, laid: Laid[Title], scene: Scene, words: Sequence[PlanWord]) -> None:
        """Write it into the script."""
        write_lettered(laid, scene, words)

    def letters(self, content: Title) -> Iterator[tuple[str, str]]:
        """What it says."""
        return letters_of(content)
