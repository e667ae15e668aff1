"""Opening a sheet that names what is no longer known."""

from hovvet.core.captions.fonts import CAPTION_FONTS
from hovvet.core.captions.style import STYLES, CaptionStyle
from hovvet.core.compile.kit import EVERYBODYS, Kit
from hovvet.core.sheet.contents.look import Look
from hovvet.core.sheet.house import HouseStyle
from hovvet.core.sheet.limits import LONGEST_GAP, shortened
from hovvet.core.sheet.model import FIRST_EDITION, Layer, Sheet
from hovvet.core.value import with_changes


def repaired(sheet: Sheet, kit: Kit = EVERYBODYS) -> tuple[Sheet, str]:
    """The sheet with an unknown outlet, caption style, font or table replaced by the usual one or left out, gaps as long as
    they may be, and
    what to tell the person ("" if nothing was replaced)."""
    usual = Sheet()
    told = []
    editions = []
    for edition in sheet.editions:
        if edition.outlet not in kit.outlets:
            told.append(
                "The outlet of an edition was deleted, so that edition is shown for "
                f"{kit.outlets[FIRST_EDITION.outlet].name}. Choose another outlet for it, or remove it."
            )
            edition = with_changes(edition, outlet=FIRST_EDITION.outlet)
        editions.append(edition)
    if told:
        sheet = with_changes(sheet, editions=tuple(editions))
    if sheet.captions is not None and sheet.style is None and sheet.captions not in STYLES:
        told.append(f"The caption style “{sheet.captions}” is not known here; {usual.captions} is used in its place.")
        sheet = with_changes(sheet, captions=usual.captions)
    if sheet.style is not None and sheet.style.font not in kit.fonts:
        usual_font = CaptionStyle.model_fields["font"].default
        told.append(
            f"The font of its captions was deleted, so {CAPTION_FONTS[usual_font].name} is used in its place. Choose "
            "another one for them."
        )
        sheet = with_changes(sheet, style=with_changes(sheet.style, font=usual_font))
    pieces = tuple(shortened(piece) for piece in sheet.pieces)
    if any(made is not piece for made, piece in zip(pieces, sheet.pieces, strict=True)):
        told.append(f"A gap of more than {LONGEST_GAP:g} seconds is shown as one of {LONGEST_GAP:g}.")
        sheet = with_changes(sheet, pieces=pieces)
    layers = [_layer(layer, kit, told) for layer in sheet.layers]
    if any(made is not layer for made, layer in zip(layers, sheet.layers, strict=True)):
        sheet = with_changes(sheet, layers=tuple(layers))
    return sheet, " ".join(dict.fromkeys(told))


def _layer(layer: Layer, kit: Kit, told: list[str]) -> Layer:
    """A layer without what is no longer in the kit; what was left out is told."""
    content = layer.content
    if isinstance(content, Look) and content.table and content.table not in kit.tables:
        told.append("A table of colours that it uses was deleted, so its colours are without that.")
        return with_changes(layer, content=with_changes(content, table=""))
    return layer


def repaired_house(house: HouseStyle, kit: Kit) -> tuple[HouseStyle, str]:
    """The style without what is no longer on the kit, and what to tell of that ("" for nothing)."""
    layers = tuple(Layer(id=f"l{n}", content=content) for n, content in enumerate(house.laid))
    own, editions = house.captioning, house.editions or Sheet().editions
    shown = Sheet(layers=layers, editions=editions, captions=own.captions, style=own.style, layout=own.layout)
    made, told = repaired(shown, kit)
    parts = {"captioning": made.captioning, "laid": tuple(layer.content for layer in made.layers)}
    return with_changes(house, **(parts | {"editions": made.editions if house.editions else ()})), told
