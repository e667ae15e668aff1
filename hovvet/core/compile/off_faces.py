"""Captions that lie over a face, and where none would."""

from collections.abc import Sequence

from hovvet.core.compile.scene import Band, Scene
from hovvet.core.plan.model import Caption
from hovvet.core.value import with_changes

_HEIGHTS = 20  # places of captions in the safe area that are tried


def off_faces(
    captions: Sequence[Caption], bands: Sequence[Band], height: float, scene: Scene
) -> tuple[tuple[Caption, ...], float | None]:
    """The captions, those that lie over a face marked, and the height nearest to theirs (0 to 1 in the safe area) at which
    none would; None where all are clear already, or cannot be. ``bands`` are what each takes up, in pixels."""
    faces = [scene.faces(each.first, each.last) for each in captions]
    met = [_meets(*each) for each in zip(bands, faces, strict=True)]
    if not any(met):
        return tuple(captions), None
    marked = tuple(with_changes(each, over_face=over) for each, over in zip(captions, met, strict=True))
    _, top, _, bottom = scene.outlet.safe
    room = scene.outlet.height - top - bottom

    def clear(at: float) -> bool:
        """Whether all captions are, at a height."""
        shifts = ((at - height) * max(room - (ends - begins), 0) for begins, ends in bands)
        moved = ((begins + by, ends + by) for (begins, ends), by in zip(bands, shifts, strict=True))
        return not any(_meets(*each) for each in zip(moved, faces, strict=True))

    heights = sorted((n / _HEIGHTS for n in range(_HEIGHTS + 1)), key=lambda at: abs(at - height))
    return marked, next((at for at in heights if clear(at)), None)


def _meets(band: Band, faces: Sequence[Band]) -> bool:
    return any(top < band[1] and bottom > band[0] for top, bottom in faces)
