"""Caption words in the plan."""

from hovvet.core.compile.contents.base import Placement
from hovvet.core.sheet.contents.wording import Wording


class WordingPlacement(Placement[Wording]):
    """Holds for the captions of its words (``compile/words``)."""
