"""What of a look a layer of the plan carries, and for which of its frames."""

from collections.abc import Iterable, Sequence

from hovvet.core.colour.grade import SHARPENING_MOST, SHARPENING_REACH, VIGNETTE_FROM, VIGNETTE_MOST, Grade
from hovvet.core.compile.scene import C, Laid, Scene
from hovvet.core.plan.model import Sharpening, Vignette
from hovvet.core.sheet.contents.base import Content
from hovvet.core.sheet.contents.look import Look


def looks_of_speakers(scene: Scene) -> Sequence[Laid[Look]]:
    """The looks of who speaks."""
    return [each for each in scene.of(Look) if each.content.of == "who speaks"]


def looks_over(scene: Scene) -> Sequence[Laid[Look]]:
    """The looks of pictures over words."""
    return [each for each in scene.of(Look) if each.content.of == "pictures over words"]


def latest(laid: Sequence[Laid[C]], start: int, end: int) -> Laid[C] | None:
    """Of what lies over all frames from ``start`` up to ``end`` the latest; None where nothing does."""
    return next((each for each in reversed(laid) if each.first <= start and end <= each.last), None)


def changes_within(laid: Iterable[Laid[Content]], first: int, last: int) -> list[int]:
    """The frames from ``first`` to ``last`` at which something that is laid begins or ends, both included."""
    return sorted({first, last, *(at for each in laid for at in (each.first, each.last) if first < at < last)})


def colours_of(look: Grade | None) -> Grade | None:
    """What of a look is done to each pixel by itself."""
    return look.colours if look and look.changes_colours else None


def vignette_of(look: Grade | None) -> Vignette | None:
    """The vignette of a look."""
    return (
        Vignette(begin=VIGNETTE_FROM, dark=round(look.vignette * VIGNETTE_MOST, 4)) if look and look.vignette else None
    )


def sharpening_of(look: Grade | None, height: int) -> Sharpening | None:
    """How a look sharpens a source so many pixels high."""
    if look is None or not look.sharpen:
        return None
    return Sharpening(amount=round(look.sharpen * SHARPENING_MOST, 4), sigma=round(height * SHARPENING_REACH, 4))
