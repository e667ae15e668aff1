"""Opening a sheet that names what is no longer known."""

from collections.abc import Mapping

from hovvet.core.captions.style import STYLES
from hovvet.core.plan.outlets import OUTLETS, Outlet
from hovvet.core.sheet.model import FIRST_EDITION, Sheet


def mended(sheet: Sheet, outlets: Mapping[str, Outlet] = OUTLETS) -> tuple[Sheet, str]:
    """The sheet with an unknown outlet or caption style replaced by the usual one, and what to tell the person ("" if
    nothing was replaced)."""
    usual = Sheet()
    told = []
    editions = []
    for edition in sheet.editions:
        if edition.outlet not in outlets:
            told.append(
                "The outlet of an edition was deleted, so that edition is shown for "
                f"{outlets[FIRST_EDITION.outlet].name}. Choose another outlet for it, or remove it."
            )
            edition = edition.model_copy(update={"outlet": FIRST_EDITION.outlet})
        editions.append(edition)
    if told:
        sheet = sheet.model_copy(update={"editions": tuple(editions)})
    if sheet.captions is not None and sheet.style is None and sheet.captions not in STYLES:
        told.append(f"The caption style “{sheet.captions}” is not known here; {usual.captions} is used in its place.")
        sheet = sheet.model_copy(update={"captions": usual.captions})
    return sheet, " ".join(dict.fromkeys(told))
