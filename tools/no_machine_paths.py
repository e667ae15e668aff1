"""Refuse tracked files that hold an absolute path of one machine: a clone elsewhere would not have it."""

import re
import subprocess
import sys
from pathlib import Path

# Folders that only somebody's machine has; the few places every Debian has (/usr, /etc, /dev…) are no matter.
_PATH = re.compile(rb"(?<![\w.~/%-])/(?:(?:work|root)(?![\w-])|(?:home|Users|opt|mnt|srv|tmp)/\w)[\w./-]*")


def machine_paths(root: Path) -> list[str]:
    """``file:line: path`` for every path found in a tracked text file."""
    listed = subprocess.run(["git", "ls-files", "-z"], cwd=root, capture_output=True, check=True).stdout
    found = []
    for name in filter(None, listed.split(b"\0")):
        file = root / name.decode()
        if not file.is_file() or file.is_symlink():
            continue
        data = file.read_bytes()
        if b"\0" in data[:8192]:
            continue
        for number, line in enumerate(data.splitlines(), 1):
            found += [f"{name.decode()}:{number}: {match[0].decode()}" for match in _PATH.finditer(line)]
    return found


if __name__ == "__main__":
    rows = machine_paths(Path(__file__).parent.parent)
    for row in rows:
        print(row)
    sys.exit("Tracked files hold paths of one machine." if rows else 0)
