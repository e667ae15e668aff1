"""Requests at the edges of what the API's schema lets through, and beyond them: made from the schema itself.

In each value one place is at an extreme and all others are as usual, so that what is wrong with an answer is wrong with
that place.
"""

import json
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from pathlib import Path
from typing import Any

SCHEMA = Path(__file__).parent.parent / "docs" / "openapi.json"
NASTY = "a\0b\x1b\u202ec\ud800\td"  # what does something unseen, between what is seen
MOST_ITEMS = 3_000  # of a list that may be longer
_LONGEST = 30_000  # characters of a text that may be longer
_TEXTS = (
    NASTY,
    "",
    " ",
    "\u2028",
    "\u200b",
    "a\0b",
    "a\u202eb",
    "\ud800",
    "<svg onload=x>",
    "{\\pos(1,1)}",
    "../../x",
    "👩‍🔧" * 9,
    "%s%n{0}",
)
_NUMBERS = (0, -1, 1, 0.5, 1e15, -1e15, 1e308, 5e-324, 10**400, float("nan"), float("inf"))
_OTHER_KINDS = (None, [], {}, "x", True)


@dataclass(frozen=True)
class Asked:
    """One request: ``about`` tells what is extreme in it."""

    method: str
    path: str
    about: str
    query: Mapping[str, Any]
    body: Any = None


class Extremes:
    """``known`` are values of things that are there, by the name of the field or parameter that names them."""

    def __init__(self, known: Mapping[str, Sequence[Any]], document: Mapping[str, Any] | None = None) -> None:
        self._api = document or json.loads(SCHEMA.read_text())
        self._known = known

    def requests(self, leave_out: Sequence[str] = ()) -> Iterator[Asked]:
        """Requests for all operations that take something, one extreme each."""
        for path, operations in self._api["paths"].items():
            if any(path.startswith(each) for each in leave_out):
                continue
            for method, told in operations.items():
                if method != "delete":
                    yield from self._of(method.upper(), path, told)

    def _of(self, method: str, path: str, told: Mapping[str, Any]) -> Iterator[Asked]:
        parameters = told.get("parameters", [])
        names = {each["name"]: self.usual(each["schema"], each["name"]) for each in parameters if each["in"] == "path"}
        there = path.format(**names)
        query = {
            each["name"]: self.usual(each["schema"], each["name"])
            for each in parameters
            if each["in"] == "query" and each.get("required")
        }
        content = told.get("requestBody", {}).get("content", {})
        schema = content.get("application/json", {}).get("schema")
        if "multipart/form-data" in content:
            return
        body = self.usual(schema) if schema else None
        for each in parameters:
            if each["in"] == "query":
                for where, value in self.extremes(each["schema"], each["name"]):
                    yield Asked(method, there, f"{method} {path} ?{where}", query | {each["name"]: value}, body)
        for where, value in self.extremes(schema, "") if schema else ():
            yield Asked(method, there, f"{method} {path} {where}", query, value)

    def _resolved(self, schema: Mapping[str, Any]) -> Mapping[str, Any]:
        while "$ref" in schema or len(schema.get("allOf", ())) == 1:
            if "$ref" in schema:
                schema = self._api["components"]["schemas"][schema["$ref"].rsplit("/", 1)[1]]
            else:
                schema = {**schema["allOf"][0], **{key: value for key, value in schema.items() if key != "allOf"}}
        return schema

    def _ways(self, schema: Mapping[str, Any]) -> Sequence[Mapping[str, Any]]:
        return schema.get("oneOf") or schema.get("anyOf") or ()

    def usual(self, schema: Mapping[str, Any], name: str = "") -> Any:
        """A value that the schema lets through, as plain as can be."""
        schema = self._resolved(schema)
        if known := self._known.get(name):
            return known[0]
        if "const" in schema or "enum" in schema:
            return schema.get("const", next(iter(schema.get("enum", ())), None))
        if schema.get("default") is not None:
            return schema["default"]
        if ways := self._ways(schema):
            return self.usual(ways[0], name)
        match schema.get("type"):
            case "object":
                needed = schema.get("required", ())
                return {
                    key: self.usual(each, key) for key, each in schema.get("properties", {}).items() if key in needed
                }
            case "array":
                if "prefixItems" in schema:
                    return [self.usual(each, name) for each in schema["prefixItems"]]
                return [self.usual(schema["items"], name)] * schema.get("minItems", 0)
            case "integer" | "number":
                return max(
                    schema.get("minimum", 1),
                    schema.get("exclusiveMinimum", 0) + 1 if "exclusiveMinimum" in schema else 0,
                )
            case "string":
                return "x" * max(schema.get("minLength", 1), 1)
            case "boolean":
                return False
        return None

    def extremes(self, schema: Mapping[str, Any], name: str, within: tuple[int, ...] = ()) -> Iterator[tuple[str, Any]]:
        """(where, value): values with one place at an extreme. ``within`` are the schemas around this one: what is in itself
        is gone into once."""
        schema = self._resolved(schema)
        if id(schema.get("properties")) in within:
            return
        for known in self._known.get(name, ())[1:]:
            yield name, known
        if ways := self._ways(schema):
            for way in ways:
                yield from self.extremes(way, name, within)
            return
        if "const" in schema:
            yield name, self.usual(schema, name)
            return
        if "enum" in schema:
            yield from ((name, each) for each in (*schema["enum"], "?"))
            return
        match schema.get("type"):
            case "object":
                yield from self._objects(schema, name, (*within, id(schema.get("properties"))))
            case "array":
                yield from self._lists(schema, name, within)
            case "integer" | "number":
                edges: list[float] = [
                    schema[key]
                    for key in ("minimum", "maximum", "exclusiveMinimum", "exclusiveMaximum")
                    if key in schema
                ]
                yield from (
                    (name, each)
                    for each in (*edges, *(edge + step for edge in edges for step in (-1, 1)), *_NUMBERS, "1")
                )
            case "string":
                longest = min(schema.get("maxLength", _LONGEST), _LONGEST)
                lengths = ["x" * longest, "W " * (longest // 2), "x" * (longest + 1), "é" * longest]
                yield from ((name, each) for each in (*_TEXTS, *lengths, 0))
            case "boolean":
                yield from ((name, each) for each in (True, False, "no"))

    def _objects(self, schema: Mapping[str, Any], name: str, within: tuple[int, ...]) -> Iterator[tuple[str, Any]]:
        usual = self.usual({key: value for key, value in schema.items() if key != "default"})
        yield f"{name}.", usual
        yield f"{name}.+", usual | {"not_known": 1}
        for other in _OTHER_KINDS:
            yield f"{name}=", other
        for key, each in schema.get("properties", {}).items():
            if key in schema.get("required", ()):
                yield f"{name}.-{key}", {other: value for other, value in usual.items() if other != key}
            for where, value in self.extremes(each, key, within):
                yield f"{name}.{where}", usual | {key: value}

    def _lists(self, schema: Mapping[str, Any], name: str, within: tuple[int, ...]) -> Iterator[tuple[str, Any]]:
        if "prefixItems" in schema:
            usual = [self.usual(each, name) for each in schema["prefixItems"]]
            for n, each in enumerate(schema["prefixItems"]):
                for where, value in self.extremes(each, name, within):
                    yield where, [*usual[:n], value, *usual[n + 1 :]]
            return
        one = self.usual(schema["items"], name)
        most = min(schema.get("maxItems", MOST_ITEMS), MOST_ITEMS)
        yield from ((f"{name}[{count}]", [one] * count) for count in (0, 1, most, most + 1))
        if isinstance(one, (int, str)) and not isinstance(one, bool):
            yield f"{name}[different]", [one + n if isinstance(one, int) else f"{one}{n}" for n in range(most)]
        for where, value in self.extremes(schema["items"], name, within):
            yield f"[{where}]", [value]
