"""Reading sheets and edits as they were written by earlier releases: one function for each version."""

from collections.abc import Sequence
from typing import Any

from hovvet.core.sheet.model import FIRST_EDITION, RATES, VERSION, Sheet
from hovvet.core.text import is_blank
from hovvet.core.value import LATEST

_Stored = dict[str, Any]


def read_sheet(stored: _Stored) -> Sheet:
    """A stored sheet of any version. Raises pydantic's ValidationError for what is none."""
    version = stored.get("version", 1)
    while version in _UPGRADES and version < VERSION:
        stored = _UPGRADES[version](stored)
        version = stored["version"]
    pieces = [_within(piece) for piece in stored.get("pieces", ())]
    layers = [_readable(layer) for layer in stored.get("layers", ())]
    editions = [_known_rate(edition) for edition in stored.get("editions", ())]
    return Sheet.model_validate(
        stored | {"pieces": pieces, "layers": layers} | ({"editions": editions} if editions else {})
    )


def read_edit(stored: _Stored) -> _Stored:
    """A stored edit of any release, as it would be written today."""
    if stored.get("type") == "batch":
        return stored | {"edits": [read_edit(each) for each in stored["edits"]]}
    if stored.get("type") == "set_outlet":
        return {"type": "put_edition", "edition": {"id": FIRST_EDITION.id, "outlet": stored["outlet"]}}
    if stored.get("type") == "put_layer":
        return stored | {"layer": _readable(stored["layer"])}
    if stored.get("type") == "put_edition":
        return stored | {"edition": _known_rate(stored["edition"])}
    if stored.get("type") == "insert_pieces":
        return stored | {"pieces": [_within(piece) for piece in stored["pieces"]]}
    return _within(stored) if stored.get("type") == "trim_piece" else stored


def _within(stored: _Stored) -> _Stored:
    """A piece, or the trim of one, that was kept when there was no latest moment yet."""
    return stored | {edge: min(stored[edge], LATEST) for edge in ("start", "end")}


def _readable(layer: _Stored) -> _Stored:
    """A layer that was kept when its text could have nothing in it to be seen."""
    content = layer["content"]
    if content.get("kind") in ("title", "slide", "aside") and is_blank(content.get("text", "…")):
        return layer | {"content": content | {"text": "…"}}
    return layer


def _known_rate(edition: _Stored) -> _Stored:
    """An edition that was kept when any frame rate was taken: at that of its recording, where it had an odd one."""
    rate = edition.get("rate")
    known = rate is None or rate in [each.model_dump() for each in RATES]
    return edition if known else edition | {"rate": None}


def _from_1(sheet: _Stored) -> _Stored:
    """Version 1 was made for one outlet, and had no layers."""
    outlet = sheet.get("outlet", FIRST_EDITION.outlet)
    kept = {key: value for key, value in sheet.items() if key != "outlet"}
    pieces = _with_origins(sheet.get("pieces", ()))
    return kept | {"version": 2, "pieces": pieces, "editions": [{"id": FIRST_EDITION.id, "outlet": outlet}]}


def _with_origins(pieces: Sequence[_Stored]) -> list[_Stored]:
    """Pieces of one recording that have nothing in common were split from one another; what is there twice is a copy."""
    made: list[_Stored] = []
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


_UPGRADES = {1: _from_1}
