"""What of the Shelf a clip uses."""

from typing import NamedTuple


class OnShelf(NamedTuple):
    """Something of the workspace that is shown or heard from a frame on: why it may not be (``refusal``, the end of a sentence;
    "" where it may), and the line that a post of it has to have ("" for none)."""

    media: str
    name: str
    frame: int
    refusal: str = ""
    credit: str = ""
