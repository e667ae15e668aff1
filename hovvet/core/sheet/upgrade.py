"""Reading sheets and edits as they were written by earlier releases: one function for each version."""

from collections.abc import Sequence
from math import log10

from hovvet.core.sheet.contents.base import SILENT
from hovvet.core.sheet.model import FIRST_EDITION, RATES, VERSION, Sheet
from hovvet.core.text import is_blank
from hovvet.core.value import LATEST
from hovvet.core.versions import Stored, Upgrades

_upgraded = Upgrades(VERSION)


def read_sheet(stored: Stored) -> Sheet:
    """A stored sheet of any version. Raises pydantic's ValidationError for what is none."""
    stored = _upgraded(stored)
    pieces = [_within(piece) for piece in stored.get("pieces", ())]
    layers = [_readable(layer) for layer in stored.get("layers", ())]
    editions = [_known_rate(edition) for edition in stored.get("editions", ())]
    return Sheet.model_validate(
        stored | {"pieces": pieces, "layers": layers} | ({"editions": editions} if editions else {})
    )


def read_house(stored: Stored) -> Stored:
    """What is kept of a house style of any release, as it would be written today."""
    told = read_captions(stored)
    if "laid" in told:
        told = told | {"laid": [named_content(content) for content in told["laid"]]}
    return told | {"captioning": read_captions(told["captioning"])} if "captioning" in told else told


def read_edit(stored: Stored) -> Stored:
    """A stored edit of any release, as it would be written today."""
    if stored.get("type") == "batch":
        return stored | {"edits": [read_edit(each) for each in stored["edits"]]}
    if stored.get("type") == "set_outlet":
        return {"type": "put_edition", "edition": {"id": FIRST_EDITION.id, "outlet": stored["outlet"]}}
    if stored.get("type") == "put_layer":
        return stored | {"layer": _readable(_named_layer(stored["layer"]))}
    if stored.get("type") == "set_captions":
        return read_captions(stored)
    if stored.get("type") == "wear_house" and stored.get("worn"):
        return stored | {"worn": _named_worn(stored["worn"])}
    if stored.get("type") == "put_edition":
        return stored | {"edition": _known_rate(stored["edition"])}
    if stored.get("type") == "insert_pieces":
        return stored | {"pieces": [_within(piece) for piece in stored["pieces"]]}
    return _within(stored) if stored.get("type") == "trim_piece" else stored


def _within(stored: Stored) -> Stored:
    """A piece, or the trim of one, that was kept when there was no latest moment yet."""
    return stored | {edge: min(stored[edge], LATEST) for edge in ("start", "end")}


def _readable(layer: Stored) -> Stored:
    """A layer that was kept when its text could have nothing in it to be seen."""
    content = layer["content"]
    if content.get("kind") in ("title", "slide", "extra_caption") and is_blank(content.get("text", "…")):
        return layer | {"content": content | {"text": "…"}}
    return layer


def _known_rate(edition: Stored) -> Stored:
    """An edition that was kept when any frame rate was taken: at that of its recording, where it had an odd one."""
    rate = edition.get("rate")
    known = rate is None or rate in [each.model_dump() for each in RATES]
    return edition if known else edition | {"rate": None}


@_upgraded.step(1)
def _with_editions(sheet: Stored) -> Stored:
    """Version 1 was made for one outlet, and had no layers."""
    outlet = sheet.get("outlet", FIRST_EDITION.outlet)
    kept = {key: value for key, value in sheet.items() if key != "outlet"}
    pieces = _with_origins(sheet.get("pieces", ()))
    return kept | {"pieces": pieces, "editions": [{"id": FIRST_EDITION.id, "outlet": outlet}]}


def _with_origins(pieces: Sequence[Stored]) -> list[Stored]:
    """Pieces of one recording that have nothing in common were split from one another; what is there twice is a copy."""
    made: list[Stored] = []
    for piece in pieces:
        taken = {
            each["origin"]
            for each in made
            if each["recording"] != piece["recording"]
            or max(each["start"], piece["start"]) < min(each["end"], piece["end"])
        }
        origin = next((each["origin"] for each in made if each["origin"] not in taken), piece["id"])
        made.append(piece | {"origin": origin})
    return made


@_upgraded.step(2)
def _named_as_the_trade_does(sheet: Stored) -> Stored:
    """Version 2 had names of its own for freeze frames, transitions, fades and letter spacing, and no dB."""
    worn = sheet.get("house")
    layers = [_named_layer(layer) for layer in sheet.get("layers", ())]
    return read_captions(sheet) | {"layers": layers, "house": _named_worn(worn) if worn else None}


def _named_worn(worn: Stored) -> Stored:
    laid = [_named_layer(layer) for layer in worn.get("laid", ())]
    return worn | {"laid": laid, "captioning": read_captions(worn["captioning"])}


def _named_layer(layer: Stored) -> Stored:
    return layer | {"content": named_content(layer["content"])}


def read_captions(holder: Stored) -> Stored:
    """What is kept of how captions look, of any release, as it would be written today."""
    return holder | {"style": named_style(holder["style"])} if holder.get("style") else holder


_KINDS = {"hold": "freeze", "join": "transition", "ends": "fades", "aside": "extra_caption"}


def named_content(content: Stored) -> Stored:
    """Content as it is written today; it may be that already."""
    named = content | {"kind": _KINDS.get(content["kind"], content["kind"])}
    if "loud" in named:  # times as loud as the speech
        loud = named.pop("loud")
        named["volume"] = max(round(20 * log10(loud), 2), SILENT) if loud else SILENT
    if "again" in named:
        named["loop"] = named.pop("again")
    return named | {"short": "looped"} if named.get("short") == "begun again" else named


def named_style(style: Stored) -> Stored:
    """A style of captions as it is written today; it may be that already."""
    return {"letter_spacing" if key == "spacing" else key: value for key, value in style.items()}
