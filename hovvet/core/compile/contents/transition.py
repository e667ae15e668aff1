"""Transitions in the plan."""

from hovvet.core.compile.contents.base import Placement
from hovvet.core.sheet.contents.transition import Transition


class TransitionPlacement(Placement[Transition]):
    """Holds for the transitions before its words (``compile/blocks``)."""
