"""The tables of docs/formats.md, from the models that read and write these files: ``python tools/make_formats.py`` writes them
anew between their marks; with ``--check`` it says whether they are as they would be written."""

import re
import sys
from collections.abc import Iterator
from pathlib import Path
from typing import Any

from pydantic import BaseModel

from hovvet.core.captions.layout import CaptionLayout
from hovvet.core.captions.style import Box, CaptionStyle, Entrance, Spoken
from hovvet.core.plan.model import (
    Blur,
    Caption,
    Mark,
    Pictured,
    PictureLayer,
    Plain,
    Plan,
    PlanWord,
    Prepared,
    Sharpening,
    SoundLayer,
    Stretch,
    Vignette,
    Window,
)  # fmt: skip
from hovvet.core.sheet.contents import KINDS
from hovvet.core.sheet.house import Card, HouseStyle
from hovvet.core.sheet.model import CaptionBreak, Edition, Layer, PauseCut, Piece, Run, Sheet, Span, WordCut, Worn
from hovvet.core.value import DOCUMENTED

PAGE = Path(__file__).parent.parent / "docs" / "formats.md"
TABLES: dict[str, tuple[type[BaseModel], ...]] = {
    "sheet": (Sheet, Piece, WordCut, PauseCut, Layer, Span, Run, Edition, CaptionBreak, Worn),
    "contents": tuple(KINDS.values()),
    "captions": (CaptionStyle, Box, Spoken, Entrance, CaptionLayout),
    "house": (HouseStyle, Card),
    "plan": (
        Plan, PictureLayer, Blur, Plain, Pictured, Window, Vignette, Sharpening, SoundLayer, Prepared, Stretch, PlanWord, Caption, Mark,
    ),
}  # fmt: skip


def table_of(model: type[BaseModel]) -> Iterator[str]:
    """A model: what it is, and a row for each field."""
    schema = model.model_json_schema()
    kind = model.model_fields["kind"].default if "kind" in model.model_fields else None
    name = f"`{kind}`, {model.title}" if isinstance(kind, str) and hasattr(model, "title") else model.__name__
    yield f"**{name}.** {_one_line(model.__doc__ or '')}"
    yield ""
    yield "| field | value | usual | what it is |"
    yield "|---|---|---|---|"
    required = schema.get("required", ())
    for field, told in schema["properties"].items():
        if field in ("kind", "type"):
            continue
        usual = "" if field in required else f"`{_json(told.get('default'))}`" if _is_short(told.get("default")) else ""
        yield f"| `{field}` | {_values(told)} | {usual} | {_what(field, told)} |"
    yield ""


def _what(field: str, told: dict[str, Any]) -> str:
    """What a field is: its description, or else what its control is called, where that is no mere copy of its name."""
    title = told.get("title", "")
    plain = title.lower().replace(" ", "_") == field
    return _one_line(told.get("description", "")) or ("" if plain else title)


def _one_line(text: str) -> str:
    return re.sub(r"``([^`]+)``", r"`\1`", " ".join(text.split())).replace("|", "\\|")


def _is_short(value: Any) -> bool:
    return not isinstance(value, dict | list) or not value


def _json(value: Any) -> str:
    return (
        "null"
        if value is None
        else str(value).lower()
        if isinstance(value, bool)
        else '""'
        if value == ""
        else str(value)
    )


def _values(told: dict[str, Any]) -> str:
    """Which values a field may have, in few words."""
    if "anyOf" in told:
        return " or ".join(dict.fromkeys(_values(each) for each in told["anyOf"]))
    if "$ref" in told:
        return str(told["$ref"]).rsplit("/", 1)[1]
    if "oneOf" in told:
        return (
            "one of " + ", ".join(each["$ref"].rsplit("/", 1)[1] for each in told["oneOf"])
            if len(told["oneOf"]) < 6
            else "a content"
        )
    if "const" in told:
        return f"`{told['const']}`"
    if "enum" in told:
        return ", ".join(f"“{each}”" if isinstance(each, str) else str(each) for each in told["enum"])
    kind = told.get("type", "")
    if kind == "array":
        if "prefixItems" in told:
            return "a list of " + ", ".join(_values(each) for each in told["prefixItems"])
        return f"a list: {_values(told.get('items', {}))}"
    if kind in ("number", "integer"):
        least, most = (
            told.get(f"{name}imum", told.get(f"exclusive{name.capitalize()}imum")) for name in ("min", "max")
        )
        word = "whole number" if kind == "integer" else "number"
        if least is not None and most is not None:
            return f"{word}, {least:g} to {most:g}" if abs(most) < 1e9 else f"{word} from {least:g}"
        return f"{word} from {least:g}" if least is not None else word
    if kind == "string" and "pattern" in told:
        return "`#RRGGBB`" if "[0-9A-Fa-f]{6}" in told["pattern"] else "a name"
    return {"string": "text", "boolean": "true or false", "null": "null"}.get(kind, kind)


def made(page: str) -> str:
    """The page with its tables as they would be written now."""
    for name, models in TABLES.items():
        tables = "\n".join(line for model in models for line in table_of(model))
        begin, end = f"<!-- made: {name} -->", f"<!-- end: {name} -->"
        page = re.sub(f"{begin}.*?{end}", lambda _: f"{begin}\n\n{tables}\n{end}", page, flags=re.S)  # noqa: B023  # used at once
    return page


if __name__ == "__main__":
    if not DOCUMENTED:
        sys.exit("What is written beneath fields is wanted: run make types")
    page = PAGE.read_text()
    wanted = made(page)
    if "--check" in sys.argv:
        if page != wanted:
            print("docs/formats.md is stale: run make types")
        sys.exit(int(page != wanted))
    PAGE.write_text(wanted)
