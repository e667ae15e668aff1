"""Who runs a job: a lease names the machine, its boot, the process and the run."""

import os
import socket
import uuid
from functools import cache
from pathlib import Path

_PARTS = 6  # of a lease: host, boot, namespace, process, when that was started, run


@cache
def _place() -> tuple[str, str, str]:
    """What tells this machine from another of the same name, from itself before it was started again, and from a container
    on it with process ids of its own."""
    boot = Path("/proc/sys/kernel/random/boot_id").read_text().strip()
    namespace = str(Path("/proc/self/ns/pid").readlink()).strip("pid:[]")
    return socket.gethostname()[:60].replace("/", "_"), boot, namespace


def new_lease() -> str:
    """A lease for a run in this process."""
    return "/".join((*_place(), str(os.getpid()), _started(os.getpid()), uuid.uuid4().hex))


def own_leases() -> str:
    """How all leases of this process begin."""
    return new_lease().rpartition("/")[0] + "/"


def holder_lives(lease: str) -> bool | None:
    """Whether the process that holds a lease lives; None when it is elsewhere, or was, and cannot be told."""
    parts = lease.split("/")
    if len(parts) != _PARTS or tuple(parts[:3]) != _place() or not parts[3].isdecimal():
        return None
    return _started(int(parts[3])) == parts[4] != ""


def _started(process: int) -> str:
    """When a process was started, in ticks since the machine was: a number that is used again names another process."""
    try:
        state = Path(f"/proc/{process}/stat").read_text().rpartition(")")[2].split()
    except OSError:
        return ""
    return "" if state[0] in "ZX" else state[19]
