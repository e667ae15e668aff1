"""What is to be told of things that are made in the background."""

from typing import NamedTuple


class Making(NamedTuple):
    """What a person has to know of something that is not there yet ("" for nothing), and whether it soon ``comes``."""

    told: str = ""
    comes: bool = False
