"""What has to be known to send posts somewhere."""

from collections.abc import Sequence
from datetime import datetime
from pathlib import Path
from typing import NamedTuple, Protocol

from hovvet.core.outbox.fitting import Limits, Outgoing
from hovvet.server.accounts.models import Workspace


class Refused(Exception):
    """The outlet will not take a post as it is; what it says of that."""


class ComeAgain(Exception):
    """The outlet takes nothing at present; ``seconds`` after which it wants to be asked again."""

    def __init__(self, seconds: float) -> None:
        super().__init__("come again later")
        self.seconds = seconds


class Account(NamedTuple):
    """An account at an outlet: what it is known by there, what people call it, the outlet (by key) whose editions are made for it,
    what it takes."""

    key: str
    name: str
    outlet: str
    limits: Limits


class Receipt(NamedTuple):
    """What an outlet says it has taken: the post's name there, and since when."""

    name: str
    at: datetime


class PostingEnd(Protocol):
    """One kind of outlet. All of it may raise OSError (TimeoutError among them) where nobody answers."""

    name: str

    def accounts(self, workspace: Workspace) -> Sequence[Account]:
        """The accounts that a workspace may post to."""
        ...

    def send(self, account: str, key: str, post: Outgoing, film: Path, cover: bytes | None) -> Receipt:
        """Send a post with its film and its cover (JPEG), once. ``key`` is that of this post alone, the same with every try.
        Raises Refused, ComeAgain; OSError where it is not known whether the post was taken."""
        ...

    def find(self, account: str, key: str) -> Receipt | None:
        """The post that was taken under a key, if it was: asked before anything is sent a second time."""
        ...


ENDS: dict[str, PostingEnd] = {}
