"""Opening a sheet that names what is no longer known."""

from hovvet.core.captions.style import STYLES
from hovvet.core.plan.outlets import OUTLETS
from hovvet.core.sheet.model import Sheet


def mended(sheet: Sheet) -> tuple[Sheet, str]:
    """The sheet with an unknown outlet or caption style replaced by the usual one, and what to tell the person ("" if
    nothing was replaced)."""
    usual = Sheet()
    told = []
    if sheet.outlet not in OUTLETS:
        told.append(
            f"The outlet “{sheet.outlet}” is not known here, so this is shown for {OUTLETS[usual.outlet].name}."
        )
        sheet = sheet.model_copy(update={"outlet": usual.outlet})
    if sheet.captions is not None and sheet.captions not in STYLES:
        told.append(f"The caption style “{sheet.captions}” is not known here; {usual.captions} is used in its place.")
        sheet = sheet.model_copy(update={"captions": usual.captions})
    return sheet, " ".join(told)
