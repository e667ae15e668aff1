"""The shared files of the stand-in drive: a folder, and nothing outside it."""

from pathlib import Path

from django.conf import settings

from hovvet.core.errors import CoreError


def shared_files() -> list[Path]:
    """Every file that is shared, by name."""
    return sorted(path for path in settings.DRIVE_DIR.iterdir() if path.is_file() and not path.name.startswith("."))


def shared_file(name: str) -> Path:
    """The shared file of this name. Raises CoreError when there is none."""
    for path in shared_files():
        if path.name == name:
            return path
    raise CoreError("That file is no longer shared on the drive. Ask its owner to share it again.")
