"""Who runs a job: a lease names the machine, the process and the run."""

import os
import socket
import uuid
from pathlib import Path

_HOST = socket.gethostname()


def new_lease() -> str:
    """A lease for a run in this process."""
    return f"{_HOST}/{os.getpid()}/{_started(os.getpid())}/{uuid.uuid4().hex}"


def holder_lives(lease: str) -> bool | None:
    """Whether the process that holds a lease is alive; None when it is on another machine and cannot be told."""
    host, _, rest = lease.partition("/")
    process, _, rest = rest.partition("/")
    if host != _HOST or not process.isdecimal():
        return None
    return _started(int(process)) == rest.partition("/")[0] != ""


def _started(process: int) -> str:
    """When a process was started, in ticks since the machine was: a number that is used again names another process."""
    try:
        state = Path(f"/proc/{process}/stat").read_text().rpartition(")")[2].split()
    except OSError:
        return ""
    return "" if state[0] in "ZX" else state[19]
