"""What a recording is called when nobody has said."""

import re
from pathlib import PurePosixPath

from hovvet.core.text import clean, is_blank, without_direction

MOST_BYTES = 200  # of a name of a file: disks have 255, and some add to them
_NOWHERE = re.compile(r'[/\\:*?"<>|]')  # what some disk cannot have in a name
LONGEST_TITLE = 200  # characters


def saved_name(name: str, usual: str = "Hovvet") -> str:
    """The name of a file as any disk can keep it: at most 200 bytes, its ending among them, without what turns texts
    round; called as ``usual`` where there is nothing to be seen in it."""
    stem, dot, ending = name.rpartition(".")
    if not dot or not re.fullmatch(r"\w{1,8}", ending, re.ASCII):
        stem, dot, ending = name, "", ""
    stem = _NOWHERE.sub("_", without_direction(clean(stem)).replace("\n", " ")).strip(" .")
    stem = stem.encode()[: MOST_BYTES - len(ending) - 1].decode(errors="ignore").strip(" .")
    return f"{usual if is_blank(stem) else stem}{dot}{ending}"


def title_of(file_name: str) -> str:
    """A title from a file name: without folder and ending, underscores (and hyphens that stand for spaces) opened."""
    name = PurePosixPath(without_direction(clean(file_name)).replace("\n", " ").replace("\\", "/")).name
    stem = (name.rsplit(".", 1)[0] or name).replace("_", " ").strip()
    if " " not in stem:
        stem = stem.replace("-", " ").strip()
    return ("Recording" if is_blank(stem) else stem)[:LONGEST_TITLE]
