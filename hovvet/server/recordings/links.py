"""Bringing in from a link.

An importer takes the links it knows and fetches what they point at. ``WebLink`` contacts only
hosts that the administrator allowed, and only at public addresses, which are looked up once
and then kept, so that a name cannot change its mind between the check and the connection.
"""

import ipaddress
import re
import socket
import time
from collections.abc import Callable, Mapping
from pathlib import Path
from typing import BinaryIO, Protocol
from urllib.parse import unquote, urljoin, urlsplit

from django.conf import settings

from hovvet.core.errors import CoreError
from hovvet.server.drive.files import shared_file
from hovvet.server.recordings.transfer import Transfer
from hovvet.server.stock.stand_in import LIBRARY

Progress = Callable[[float], None]
Resolve = Callable[[str, int], list[str]]

STOCK = "stock:"  # how links to the stock library begin
_BLOCK = 256 * 1024
_REDIRECTS = 5


class Importer(Protocol):
    """Fetches what links of one kind point at."""

    def takes(self, link: str) -> bool:
        """Whether a link is of this importer's kind."""

    def name_of(self, link: str) -> str:
        """What the file is called, as far as the link tells."""

    def fetch(self, link: str, out: Path, progress: Progress, most: int | None = None) -> None:
        """Write the file to ``out``, no more than ``most`` bytes (None: what a recording may have); ``progress`` gets 0 to 1.
        Raises CoreError with a way on."""


def importer_for(link: str) -> Importer:
    """The importer for a link. Raises CoreError when there is none."""
    _check_readable(link)
    for importer in IMPORTERS:
        if importer.takes(link):
            return importer
    raise CoreError("This is not a link Hovvet can fetch from. Copy the whole address, from http to its end.")


def addresses_of(host: str, port: int) -> list[str]:
    """The addresses of a host. Raises CoreError when it has none."""
    try:
        return list(
            dict.fromkeys(str(found[4][0]) for found in socket.getaddrinfo(host, port, type=socket.SOCK_STREAM))
        )
    except OSError:
        raise CoreError(f"There is no host called {host}. Check the link.") from None


def _check_readable(link: str) -> None:
    """Raises CoreError for what the standard library cannot take apart, such as half a number in brackets."""
    try:
        parts = urlsplit(link)
        _ = parts.hostname, parts.port
    except ValueError:
        raise CoreError("This link cannot be read. Copy the whole address again, from http to its end.") from None


def _joined(link: str, location: str) -> str:
    """Where a redirect leads. Raises CoreError when that cannot be read."""
    try:
        led = urljoin(link, location)
    except ValueError:
        led = location
    _check_readable(led)
    return led


class SharedDrive:
    """The drive that ships with Hovvet as a stand-in: links that begin with its own address and ``/drive/``."""

    def takes(self, link: str) -> bool:
        """See Importer."""
        parts = urlsplit(link)
        own = parts.hostname in settings.ALLOWED_HOSTS or not parts.netloc
        return own and parts.path.startswith("/drive/files/")

    def name_of(self, link: str) -> str:
        """See Importer."""
        return shared_file(unquote(urlsplit(link).path.rsplit("/", 1)[-1])).name

    def fetch(self, link: str, out: Path, progress: Progress, most: int | None = None) -> None:
        """See Importer. Reads the file where it is: no connection is made."""
        file = shared_file(unquote(urlsplit(link).path.rsplit("/", 1)[-1]))
        _check_size(file.stat().st_size, most)
        with file.open("rb") as source, out.open("wb") as target:
            _copy(source, target, file.stat().st_size, progress)


class WebLink:
    """Plain http and https links to hosts the administrator allowed (``HOVVET_IMPORT_HOSTS``)."""

    def __init__(self, resolve: Resolve = addresses_of) -> None:
        self._resolve = resolve

    def takes(self, link: str) -> bool:
        """See Importer."""
        parts = urlsplit(link)
        return parts.scheme in ("http", "https") and bool(parts.hostname)

    def name_of(self, link: str) -> str:
        """See Importer."""
        return unquote(urlsplit(link).path.rsplit("/", 1)[-1]) or (urlsplit(link).hostname or "Recording")

    def check(self, link: str) -> str:
        """The address to connect to. Raises CoreError for a host that is not allowed, or not at public addresses."""
        parts = urlsplit(link)
        host = (parts.hostname or "").lower()
        if parts.scheme not in ("http", "https") or parts.username or parts.password:
            raise CoreError("Only plain http and https links can be fetched.")
        if host not in settings.IMPORT_HOSTS:
            raise CoreError(
                f"Fetching from {host or 'there'} is not allowed here. Ask whoever runs Hovvet to allow it, "
                "or download the file and drop it on the page."
            )
        try:
            found = self._resolve(host, parts.port or (443 if parts.scheme == "https" else 80))
        except ValueError:
            raise CoreError("This link has no proper port. Copy the whole address again.") from None
        for address in found:
            if not _is_public(address):
                raise CoreError(f"{host} is inside a private network. Hovvet fetches from public addresses only.")
        return found[0]

    def fetch(self, link: str, out: Path, progress: Progress, most: int | None = None) -> None:
        """See Importer."""
        until = time.monotonic() + settings.IMPORT_SECONDS
        for _ in range(_REDIRECTS + 1):
            address = self.check(link)  # every redirect is a new link, and checked like one
            transfer = Transfer(link, address, until, progress)
            try:
                status, headers = transfer.head()
                if status in (301, 302, 303, 307, 308):
                    link = _joined(link, headers.get("Location", ""))
                    continue
                if status != 200:
                    raise CoreError(f"The host answered {status}. Check that the file is shared with everybody.")
                self._take(transfer, headers, out, most)
                return
            finally:
                transfer.close()
        raise CoreError("The link leads from one page to the next without end. Copy the link of the file itself.")

    @staticmethod
    def _take(transfer: Transfer, headers: Mapping[str, str], out: Path, most: int | None) -> None:
        said = headers.get("Content-Length", "")
        length = int(said) if re.fullmatch(r"[0-9]{1,18}", said) else 0
        _check_size(length, most)
        if headers.get("Content-Type", "").startswith("text/html"):
            raise CoreError("This link leads to a page, not to a file. Copy the link of the file itself.")
        with out.open("wb") as target:
            for block in transfer.blocks(length):
                target.write(block)
                _check_size(target.tell(), most)
            if target.tell() == 0 or (length and target.tell() < length):
                raise CoreError("The file did not arrive whole. Retry.")


def _check_size(length: int, most: int | None = None) -> None:
    most = min(most or settings.UPLOAD_BYTES, settings.UPLOAD_BYTES)
    if length > most:
        large = f"{most / 1024**3:.1f} GB" if most >= 1024**3 else f"{most / 1e6:.0f} MB"
        raise CoreError(f"The file is larger than {large}, the most Hovvet takes.")


# IPv6 addresses behind which an IPv4 one is reached: NAT64 (RFC 6052, RFC 8215), 6to4 (RFC 3056), Teredo (RFC 4380).
_BEHIND = tuple(map(ipaddress.ip_network, ("64:ff9b::/96", "64:ff9b:1::/48", "2002::/16", "2001::/32")))


def _is_public(address: str) -> bool:
    found = ipaddress.ip_address(address.partition("%")[0])
    return found.is_global and not found.is_multicast and not any(found in behind for behind in _BEHIND)


def _copy(source: BinaryIO, target: BinaryIO, length: int, progress: Progress) -> None:
    while block := source.read(_BLOCK):
        target.write(block)
        progress(target.tell() / max(length, 1))


class StockLink:
    """Items of the stock library: links that begin with ``stock:``."""

    def takes(self, link: str) -> bool:
        """See Importer."""
        return link.startswith(STOCK)

    def name_of(self, link: str) -> str:
        """See Importer."""
        return LIBRARY.item(link.removeprefix(STOCK)).name

    def fetch(self, link: str, out: Path, progress: Progress, most: int | None = None) -> None:
        """See Importer."""
        LIBRARY.fetch(link.removeprefix(STOCK), out, progress)


IMPORTERS: tuple[Importer, ...] = (StockLink(), SharedDrive(), WebLink())


def checked_importer(link: str) -> Importer:
    """The importer for a link that a person gave; what can be told at once is not left to a job. Raises CoreError."""
    importer = importer_for(link)
    if isinstance(importer, StockLink):
        raise CoreError("What is in the stock library is taken from the Shelf.")
    if isinstance(importer, WebLink):
        importer.check(link)
    return importer
