"""One clip in several shapes: the editions that are wanted of it, those it lacks added."""

from collections.abc import Iterable

from hovvet.core.sheet.edits import Batch, Edit, PutEdition
from hovvet.core.sheet.model import Dressing, Edition, Sheet
from hovvet.core.sheet.moving import fresh_names
from hovvet.core.value import Name, Value


class Shape(Value):
    """An outlet, and how a clip is dressed for it."""

    outlet: Name
    dressing: Dressing = "dressed"


def shapes_edit(sheet: Sheet, wanted: Iterable[Shape]) -> Edit:
    """The edit that adds an edition for each shape that a clip is not made in yet."""
    there = {Shape(outlet=each.outlet, dressing=each.dressing) for each in sheet.editions}
    names = fresh_names(sheet, "e")
    missing = [shape for shape in dict.fromkeys(wanted) if shape not in there]
    return Batch(
        edits=tuple(
            PutEdition(edition=Edition(id=next(names), outlet=shape.outlet, dressing=shape.dressing))
            for shape in missing
        )
    )
