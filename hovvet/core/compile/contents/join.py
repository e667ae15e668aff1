"""Joins in the plan."""

from hovvet.core.compile.contents.base import Placement
from hovvet.core.sheet.contents.join import Join


class JoinPlacement(Placement[Join]):
    """Holds for the joins before its words (``compile/blocks``)."""
