"""What all parts of a sheet are made of: small values that never change."""

import os
from typing import Annotated, Literal, TypeVar

from pydantic import BaseModel, ConfigDict, Field, FiniteFloat
from pydantic.config import JsonDict

# Whether schemas have what is written beneath fields: where documents are made of them. Reading that takes a fifth of the time in
# which a process starts.
DOCUMENTED = os.environ.get("HOVVET_DOCUMENTED") == "1"

M = TypeVar("M", bound=BaseModel)
Name = Annotated[str, Field(min_length=1, max_length=64, pattern=r"^[\w.-]+$")]
Naming = Annotated[str, Field(max_length=200)]  # a pattern for the names of files
Colour = Annotated[str, Field(pattern=r"^#[0-9A-Fa-f]{6}$")]

LATEST = 200_000.0  # seconds: no moment of a recording is later
_LARGEST = 2**53 - 1  # the largest whole number that every reader of JSON keeps exactly
Moment = Annotated[FiniteFloat, Field(ge=0, le=LATEST)]  # of a recording, in seconds
WordId = Annotated[int, Field(ge=0, le=_LARGEST)]

BreakHow = Literal["caption", "join", "line"]  # what begins with a word of captions, or (join) does not

SLIDES: JsonDict = {"slider": True}  # for the schema of a field: it is set by sliding
# For the schema of a field: where a picture that is dragged is drawn to the middle or a third, in shares of the output.
SNAP_LINES, SNAP_WITHIN = (1 / 3, 1 / 2, 2 / 3), 0.015
SNAPS: JsonDict = {"snaps": list(SNAP_LINES), "snaps_within": SNAP_WITHIN}
PERCENT: JsonDict = {"slider": True, "percent": True}  # likewise, and is a share that is read in hundredths
APART: JsonDict = {"apart": True}  # for the schema of a field: what sets it is not in the form of all fields


def called(labels: dict[str, str]) -> JsonDict:
    """For the schema of a field: what its choices are called on the page, where that is not what they are kept as."""
    return {"labels": dict(labels)}


def when(*cases: dict[str, str]) -> JsonDict:
    """For the schema of a field: it matters only while other fields have these values, in one case or another."""
    return {"when": [dict(case) for case in cases]}


class Value(BaseModel):
    """A value: compared by what it holds, never changed, with nothing in it that it does not know."""

    model_config = ConfigDict(frozen=True, extra="forbid", use_attribute_docstrings=DOCUMENTED)


def with_changes(value: M, **fields: object) -> M:
    """A model with some fields otherwise, checked as if it were made anew. What it holds already was checked when that was
    made. Raises pydantic's ValidationError for what it may not hold."""
    own = {name: getattr(value, name) for name in type(value).model_fields}
    return type(value).model_validate(own | fields)
