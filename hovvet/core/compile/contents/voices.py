"""The level of what is heard, in the plan."""

from hovvet.core.compile.contents.base import Placement
from hovvet.core.sheet.contents.voices import Voices


class VoicesPlacement(Placement[Voices]):
    """Holds for the mix (``compile/mixing``)."""
