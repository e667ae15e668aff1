"""A closer view in the plan."""

from hovvet.core.compile.contents.base import Placement
from hovvet.core.sheet.contents.punch import Punch


class PunchPlacement(Placement[Punch]):
    """Holds for the base picture of its frames (``compile/picture``)."""
