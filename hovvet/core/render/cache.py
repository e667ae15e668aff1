"""Chunks that were drawn before, and sounds, kept for the next export of the same clip."""

from collections.abc import Collection
from contextlib import suppress
from pathlib import Path

from hovvet.core.media.sealed import intact, remove

LIMIT = 4 * 1024**3  # bytes


class ChunkCache:
    """Files by the hash of what they show, in a folder of limited size: those not used for longest go first."""

    def __init__(self, folder: Path, limit: int = LIMIT) -> None:
        self._folder, self._limit = folder, limit

    def path(self, key: str) -> Path:
        """Where the chunk of a hash is, or is to be written."""
        return self._folder / key[:2] / f"{key}.chunk"

    def find(self, key: str) -> Path | None:
        """The chunk of a hash, if it is there as it was written; it counts as used now. A broken one is removed."""
        path = self.path(key)
        return path if intact(path) else None

    def trim(self, keep: Collection[Path] = ()) -> None:
        """Remove what has not been used for longest until the folder is within its limit; ``keep`` stays."""
        files = []
        for path in self._folder.glob("*/*.chunk"):
            with suppress(OSError):
                found = path.stat()
                files.append((found.st_mtime, found.st_size, path))
        total = sum(size for _, size, _ in files)
        for _, size, path in sorted(files):
            if total <= self._limit:
                return
            if path not in keep:
                remove(path)
                total -= size
