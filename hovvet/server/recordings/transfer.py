"""Reading from a host that may be slow, on purpose or not: in a thread of its own, so that whoever waits can give up."""

import queue
import socket
import threading
import time
from collections.abc import Callable, Iterator, Mapping
from contextlib import suppress
from urllib.parse import urlsplit

import urllib3
from urllib3.connection import HTTPConnection, HTTPSConnection

from hovvet.core.errors import CoreError

_BLOCK = 256 * 1024
_CONNECT, _READ = 10.0, 30.0  # seconds for one step of the network
_HEAD = 40.0  # seconds until a host has answered at all
_WINDOW, _SLOWEST = 60.0, 1_000  # seconds in which at least so many bytes a second have to come
_TICK = 0.25  # seconds between two looks at whether to go on
_AHEAD = 8  # blocks that are read before they are written
_LATE = "Fetching took too long and was stopped. Download the file and drop it on the page."

Progress = Callable[[float], None]


class Transfer:
    """One request under way. ``progress`` is asked again and again whether to go on: it raises when not. Raises CoreError."""

    def __init__(self, link: str, address: str, until: float, progress: Progress) -> None:
        self._link, self._address = link, address
        self._until, self._progress = until, progress
        self._came: queue.Queue[urllib3.BaseHTTPResponse | bytes | Exception | None] = queue.Queue(_AHEAD)
        self._stopped = threading.Event()
        self._socket: socket.socket | None = None
        self._part = 0.0
        threading.Thread(target=self._read, daemon=True).start()

    def head(self) -> tuple[int, Mapping[str, str]]:
        """The status and the headers of the answer."""
        self._since, self._bytes = time.monotonic(), 0
        until = min(self._until, self._since + _HEAD)
        try:
            answer = self._next(until)
        except urllib3.exceptions.HTTPError as error:
            raise CoreError("The host cannot be reached. Check the link, then retry.", repr(error)) from None
        assert isinstance(answer, urllib3.BaseHTTPResponse)
        return answer.status, answer.headers

    def blocks(self, length: int) -> Iterator[bytes]:
        """What is in the answer, ``length`` bytes (0: not known) as they come."""
        came = 0
        self._since, self._bytes = time.monotonic(), 0
        while True:
            try:
                block = self._next(self._until)
            except urllib3.exceptions.HTTPError as error:
                raise CoreError("The connection was lost while fetching. Retry.", repr(error)) from None
            if block is None:
                return
            assert isinstance(block, bytes)
            came += len(block)
            self._bytes += len(block)
            self._part = min(came / length, 1.0) if length else 0.0
            yield block
            self._go_on(self._until)

    def close(self) -> None:
        """Let go of the connection, also while something is awaited from it."""
        self._stopped.set()
        if self._socket is not None:
            with suppress(OSError):
                self._socket.shutdown(socket.SHUT_RDWR)

    def _next(self, until: float) -> urllib3.BaseHTTPResponse | bytes | None:
        while True:
            with suppress(queue.Empty):
                found = self._came.get(timeout=_TICK)
                if isinstance(found, Exception):
                    raise found
                return found
            self._go_on(until)

    def _go_on(self, until: float) -> None:
        """Raises when it is not worth waiting any longer."""
        now = time.monotonic()
        if now > until:
            raise CoreError(_LATE)
        if now - self._since > _WINDOW:
            if self._bytes < _SLOWEST * (now - self._since):
                raise CoreError(_LATE, f"{self._bytes} bytes in {now - self._since:.0f} s")
            self._since, self._bytes = now, 0
        self._progress(self._part)

    def _read(self) -> None:
        try:
            connection = self._connection()
            try:
                parts = urlsplit(self._link)
                target = (parts.path or "/") + (f"?{parts.query}" if parts.query else "")
                connection.request("GET", target, headers={"Host": parts.netloc}, preload_content=False)
                self._socket = connection.sock
                answer = connection.getresponse()
                self._tell(answer)
                while not self._stopped.is_set() and (block := answer.read1(_BLOCK)):
                    self._tell(block)
                self._tell(None)
            finally:
                connection.close()
        except urllib3.exceptions.HTTPError as error:
            self._tell(error)
        except Exception as error:  # what http.client and sockets raise, which urllib3 has no name for here
            self._tell(urllib3.exceptions.ProtocolError(repr(error)))

    def _connection(self) -> HTTPConnection:
        parts = urlsplit(self._link)
        timeout = urllib3.Timeout(connect=_CONNECT, read=_READ).connect_timeout
        if parts.scheme == "https":
            made: HTTPConnection = HTTPSConnection(
                self._address,
                parts.port or 443,
                timeout=timeout,
                server_hostname=parts.hostname,
                assert_hostname=parts.hostname,
                cert_reqs="CERT_REQUIRED",
            )
        else:
            made = HTTPConnection(self._address, parts.port or 80, timeout=timeout)
        return made

    def _tell(self, what: "urllib3.BaseHTTPResponse | bytes | Exception | None") -> None:
        while not self._stopped.is_set():
            with suppress(queue.Full):
                self._came.put(what, timeout=_TICK)
                return
