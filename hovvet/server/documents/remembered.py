"""What is kept in memory because reading it anew for each edit would be slow: so much of it, and no more."""

from collections import OrderedDict
from collections.abc import Callable, Hashable
from threading import Lock
from typing import Generic, TypeVar

K = TypeVar("K", bound=Hashable)
V = TypeVar("V")


class Remembered(Generic[K, V]):
    """Values by key, those used last, as long as their ``weight`` together is no more than ``most``. Safe in threads."""

    def __init__(self, most: int, weight: Callable[[V], int]) -> None:
        self._most, self._weight = most, weight
        self._held: OrderedDict[K, tuple[V, int]] = OrderedDict()
        self._total = 0
        self._lock = Lock()

    def get(self, key: K) -> V | None:
        """The value of a key; None where it is not kept (any more)."""
        with self._lock:
            found = self._held.get(key)
            if found is None:
                return None
            self._held.move_to_end(key)
            return found[0]

    def clear(self) -> None:
        """Forget all, as a server that is started again has."""
        with self._lock:
            self._held.clear()
            self._total = 0

    def keep(self, key: K, value: V) -> None:
        """Keep a value, and forget those that have not been used for longest; the newest is kept whatever its weight."""
        weight = self._weight(value)
        with self._lock:
            if (before := self._held.pop(key, None)) is not None:
                self._total -= before[1]
            self._held[key] = value, weight
            self._total += weight
            while self._total > self._most and len(self._held) > 1:
                _, (_, gone) = self._held.popitem(last=False)
                self._total -= gone
