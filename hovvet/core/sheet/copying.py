"""The dressing of a clip: what is set for all of it, and laying that onto another one."""

from collections.abc import Collection

from hovvet.core.sheet.edits import Batch, Edit, PutEdition, PutLayer, RemoveEdition, SetCaptions, SetLayout
from hovvet.core.sheet.model import Layer, Sheet
from hovvet.core.sheet.moving import fresh_names
from hovvet.core.value import with_changes

CAPTIONS, EDITIONS = "captions", "editions"


def parts_of(sheet: Sheet) -> dict[str, str]:
    """What of a sheet can be laid onto another one: its key, and what it is called."""
    parts = {CAPTIONS: "Captions", EDITIONS: "Editions"}
    for layer in sheet.layers:
        if layer.span.is_whole:
            parts[layer.content.kind] = layer.content.title
    return parts


def dressing_edit(onto: Sheet, of: Sheet, parts: Collection[str]) -> Edit:
    """The edit that gives ``onto`` these parts of the dressing of another sheet; what it had of them goes."""
    edits: list[Edit] = []
    if CAPTIONS in parts:
        edits += [SetCaptions(captions=of.captions, style=of.style), SetLayout(layout=of.layout)]
    if EDITIONS in parts:
        edits += [PutEdition(edition=each) for each in of.editions]
        kept = {each.id for each in of.editions}
        edits += [RemoveEdition(edition=each.id) for each in onto.editions if each.id not in kept]
    names = fresh_names(onto, "l")
    for layer in of.layers:
        if layer.span.is_whole and layer.content.kind in parts:
            own = next((each for each in onto.layers if _alike(each, layer)), None)
            edits.append(PutLayer(layer=with_changes(layer, id=own.id if own else next(names))))
    return Batch(edits=tuple(edits))


def _alike(one: Layer, two: Layer) -> bool:
    return one.span.is_whole and one.content.kind == two.content.kind
