"""The level of what is heard, in the plan."""

from hovvet.core.compile.contents.base import Placement
from hovvet.core.sheet.contents.volume import Volume


class VolumePlacement(Placement[Volume]):
    """Holds for the mix (``compile/mixing``)."""
