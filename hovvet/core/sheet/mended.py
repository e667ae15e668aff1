"""Opening a sheet that names what is no longer known."""

from collections.abc import Container, Mapping

from hovvet.core.captions.fonts import CAPTION_FONTS
from hovvet.core.captions.style import STYLES, CaptionStyle
from hovvet.core.plan.outlets import OUTLETS, Outlet
from hovvet.core.sheet.model import FIRST_EDITION, Sheet


def mended(
    sheet: Sheet, outlets: Mapping[str, Outlet] = OUTLETS, fonts: Container[str] = frozenset(CAPTION_FONTS)
) -> tuple[Sheet, str]:
    """The sheet with an unknown outlet, caption style or font replaced by the usual one, and what to tell the person ("" if
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
    if sheet.style is not None and sheet.style.font not in fonts:
        usual_font = CaptionStyle.model_fields["font"].default
        told.append(
            f"The font of its captions was deleted, so {CAPTION_FONTS[usual_font].name} is used in its place. Choose "
            "another one for them."
        )
        sheet = sheet.model_copy(update={"style": sheet.style.model_copy(update={"font": usual_font})})
    return sheet, " ".join(dict.fromkeys(told))
