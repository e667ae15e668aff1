"""Slowing down who tries passwords, without keeping out who knows theirs."""

import time
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from hashlib import sha256
from math import ceil

from django.conf import settings
from django.core.cache import cache
from django.http import HttpRequest

from hovvet.server.problems import Problem
from hovvet.server.turns import Line

_FREE = {"name": 5, "address": 20}  # wrong tries in a row before the first pause
_FIRST, _LONGEST = 5.0, 300.0  # seconds: each pause is twice the one before, up to the longest
_FORGOTTEN = 3600  # seconds after the last wrong try
_AT_ONCE = 2  # passwords checked at the same time: each check costs a core for a while, and the others have work to do
_WAITING = 2  # more than these are sent away at once, so that they cannot fill all threads of the server
_PATIENCE = 10.0  # seconds to wait for one's turn

_line = Line(_AT_ONCE, _WAITING, _PATIENCE, "Many people are signing in right now. Try again in a moment.")


@dataclass(frozen=True)
class _Tries:
    wrong: int = 0
    until: float = 0.0  # when the pause ends, in seconds since the epoch


def address_of(request: HttpRequest) -> str:
    """Where a request came from: what the outermost of our own proxies says, or else the other end of the line."""
    said = [part.strip() for part in request.headers.get("X-Forwarded-For", "").split(",") if part.strip()]
    if settings.PROXIES and len(said) >= settings.PROXIES:
        return said[-settings.PROXIES]
    return str(request.META.get("REMOTE_ADDR", ""))


@contextmanager
def one_try(request: HttpRequest, name: str) -> Iterator["Try"]:
    """One try to sign in under a name. Raises Problem while a pause lasts, or when too many try at once."""
    attempt = Try(_key("name", name.lower()), _key("address", address_of(request)))
    if (wait := attempt.wait()) > 0:
        raise Problem(429, f"Too many wrong tries. Wait {_said(wait)}, then try again.", wait=ceil(wait))
    with _line.turn():
        yield attempt


class Try:
    """A try to sign in; tell it how it ended."""

    def __init__(self, *keys: tuple[str, str]) -> None:
        self._keys = keys

    def wait(self) -> float:
        """Seconds until the next try is let through."""
        return max(_tries(key).until for _, key in self._keys) - time.time()

    def failed(self) -> None:
        """Count a wrong try; from some number on each is followed by a pause."""
        for kind, key in self._keys:
            wrong = _tries(key).wrong + 1
            beyond = wrong - _FREE[kind]
            pause = min(_FIRST * 2**beyond, _LONGEST) if beyond >= 0 else 0.0
            cache.set(key, _Tries(wrong, time.time() + pause), _FORGOTTEN)

    def succeeded(self) -> None:
        """Forget the wrong tries under this name; those from this address may have been for others."""
        cache.delete_many([key for kind, key in self._keys if kind == "name"])


def _tries(key: str) -> _Tries:
    found: _Tries = cache.get(key, _Tries())
    return found


def _key(kind: str, value: str) -> tuple[str, str]:
    return kind, f"sign-in:{kind}:{sha256(value.encode(errors='replace')).hexdigest()}"


def _said(seconds: float) -> str:
    return f"{ceil(seconds)} s" if seconds <= 90 else f"{ceil(seconds / 60)} minutes"
