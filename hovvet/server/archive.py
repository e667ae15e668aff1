"""Several files sent as one .zip, made while it is sent."""

import zipfile
from collections.abc import Iterable, Iterator
from pathlib import Path

_BLOCK = 1024 * 1024


class _Sent:
    """What a ZipFile writes into: kept until it is sent on. It cannot be sought, so that the sizes come after each file."""

    def __init__(self) -> None:
        self._parts: list[bytes] = []

    def write(self, data: bytes) -> int:
        self._parts.append(bytes(data))
        return len(data)

    def flush(self) -> None:
        """Nothing is held back."""

    def taken(self) -> bytes:
        """What was written since it was asked last."""
        parts, self._parts = self._parts, []
        return b"".join(parts)


def zipped(files: Iterable[tuple[str, Path]]) -> Iterator[bytes]:
    """Files under names (each once: later ones of a name are numbered), as the bytes of one .zip. Nothing is made smaller:
    films and sounds are already."""
    sent = _Sent()
    taken: set[str] = set()
    with zipfile.ZipFile(sent, "w", zipfile.ZIP_STORED, allowZip64=True) as archive:  # type: ignore[call-overload]
        for name, path in files:
            with path.open("rb") as file, archive.open(_free(name, taken), "w", force_zip64=True) as entry:
                while block := file.read(_BLOCK):
                    entry.write(block)
                    yield sent.taken()
    yield sent.taken()


def _free(name: str, taken: set[str]) -> str:
    stem, dot, kind = name.rpartition(".")
    count, free = 1, name
    while free in taken:
        count += 1
        free = f"{stem} ({count}){dot}{kind}"
    taken.add(free)
    return free
