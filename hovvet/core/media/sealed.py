"""Files that are believed only while they are what was written: length and SHA-256 stand beside each."""

import json
import os
from collections.abc import Callable, Iterator
from contextlib import contextmanager, suppress
from hashlib import file_digest
from pathlib import Path

from hovvet.core.media.checked import PART, no_check, published

SEAL = ".sum"


def seal_of(path: Path) -> Path:
    """Where the length and the digest of a file are."""
    return path.with_name(f"{path.name}{SEAL}")


@contextmanager
def sealed(out: Path, check: Callable[[Path], None] = no_check) -> Iterator[Path]:
    """As ``published``, for what can be made again: it need not outlive a failing machine, since it is looked at before it
    is used (``intact``)."""

    def finished(part: Path) -> None:
        check(part)
        seal = out.with_name(f"{part.name.removesuffix(PART)}{SEAL}{PART}")
        try:
            seal.write_text(json.dumps(_told(part)))
            seal.replace(seal_of(out))
        finally:
            seal.unlink(missing_ok=True)

    with published(out, finished, lasting=False) as part:
        yield part


def intact(path: Path) -> bool:
    """Whether a sealed file is there, whole and as it was written; then it counts as used now. Any other is removed."""
    try:
        wanted = json.loads(seal_of(path).read_bytes())
        if path.stat().st_size == wanted["bytes"] and _told(path) == wanted:
            os.utime(path)
            return True
    except (OSError, ValueError, KeyError, TypeError):
        pass
    remove(path)
    return False


def remove(path: Path) -> None:
    """Remove a sealed file; what is gone already is no matter."""
    for each in (path, seal_of(path)):
        with suppress(OSError):
            each.unlink()


def _told(path: Path) -> dict[str, object]:
    with path.open("rb") as file:
        return {"bytes": path.stat().st_size, "sha256": file_digest(file, "sha256").hexdigest()}
