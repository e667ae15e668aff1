"""The checks there are: each is a function of a module in ``checks``, registered by being defined."""

from collections.abc import Callable, Iterable, Iterator
from dataclasses import dataclass
from typing import Literal

from hovvet.core.proof.fault import Fault, Fix, Gravity, Where
from hovvet.core.proof.looked import Looked

Group = Literal["licences", "length", "words", "captions", "screen", "sound", "picture"]
GROUPS: dict[Group, str] = {
    "licences": "Licences", "length": "Length and size", "words": "Words", "captions": "Captions",
    "screen": "On screen", "sound": "Sound", "picture": "Picture",
}  # fmt: skip


@dataclass(frozen=True)
class Found:
    """What a check comes upon: what it is ``about`` (names it within the check), in words, where, and how to fix it."""

    about: str
    says: str
    where: Where | None = None
    fixes: tuple[Fix, ...] = ()
    gravity: Gravity | None = None  # None: that of the check


Look = Callable[[Looked], Iterable[Found]]


@dataclass(frozen=True)
class Check:
    """One check: its ``label`` stands over what it finds. One that ``hears`` or sees needs the finished file."""

    key: str
    label: str
    group: Group
    gravity: Gravity
    of_file: bool
    look: Look

    def faults(self, looked: Looked) -> Iterator[Fault]:
        """What it finds."""
        if self.of_file and looked.file is None:
            return
        for found in self.look(looked):
            yield Fault(
                check=self.key,
                key=f"{self.key}:{found.about}",
                says=found.says,
                gravity=found.gravity or self.gravity,
                where=found.where,
                fixes=found.fixes,
            )


CHECKS: dict[str, Check] = {}


def check(
    key: str, label: str, group: Group, gravity: Gravity = "wrong", of_file: bool = False
) -> Callable[[Look], Look]:
    """Register a function as a check."""

    def registered(look: Look) -> Look:
        CHECKS[key] = Check(key, label, group, gravity, of_file, look)
        return look

    return registered
