"""What a recording is called when nobody has said."""

from pathlib import PurePosixPath

LONGEST_TITLE = 200  # characters


def title_of(file_name: str) -> str:
    """A title from a file name: without folder and ending, underscores (and hyphens that stand for spaces) opened."""
    name = PurePosixPath(file_name.replace("\\", "/")).name
    stem = (name.rsplit(".", 1)[0] or name).replace("_", " ").strip()
    if " " not in stem:
        stem = stem.replace("-", " ").strip()
    return (stem or "Recording")[:LONGEST_TITLE]
