"""Tidying: what was left behind by broken-off work is removed, and what is over is forgotten."""

import time
import uuid
from collections.abc import Iterator
from dataclasses import dataclass
from datetime import timedelta
from pathlib import Path

from django.conf import settings
from django.contrib.sessions.models import Session
from django.core.files.storage import default_storage
from django.db.models import Q
from django.utils import timezone
from django_tasks_db.models import DBTaskResult

from hovvet.core.media.checked import PART
from hovvet.server.assets.models import Asset
from hovvet.server.delivery.models import Export, Package
from hovvet.server.delivery.packing import forget_old_packages
from hovvet.server.documents.prepared_sounds import unused
from hovvet.server.files import HasFiles, remove
from hovvet.server.jobs.models import Job
from hovvet.server.notices.models import Notice
from hovvet.server.outside.models import OutsidePost
from hovvet.server.recordings.models import Recording, Upload
from hovvet.server.recordings.tus import forget_expired
from hovvet.server.share.models import SharePage

_STRAY_AFTER = 24 * 3600.0  # seconds: longer than any attempt takes, so that none at work is touched
_HOLDERS: tuple[tuple[str, type[HasFiles]], ...] = (
    ("recordings", Recording), ("assets", Asset), ("exports", Export), ("uploads", Upload), ("packages", Package),
    ("shared", SharePage), ("outside", OutsidePost),
)  # fmt: skip


@dataclass
class Tidied:
    """What was removed: files and folders, their bytes, and rows."""

    files: int = 0
    bytes: int = 0
    uploads: int = 0
    jobs: int = 0
    sessions: int = 0

    def __str__(self) -> str:
        return (
            f"Removed {self.files} files and folders ({self.bytes / 1e6:.1f} MB), {self.uploads} unfinished uploads, "
            f"{self.jobs} finished jobs and {self.sessions} old sessions."
        )


def tidy(stray_after: float = _STRAY_AFTER) -> Tidied:
    """Remove attempts older than ``stray_after`` seconds, files without a row, expired uploads, finished jobs, sessions."""
    done = Tidied(uploads=forget_expired())
    forget_old_packages()
    for row in Recording.objects.filter(
        voiced=True, take=None, shown_in=None
    ):  # no text has it read, and no clip shows it
        row.delete()
    before = time.time() - stray_after
    forgotten = time.time() - settings.KEPT_DAYS * 24 * 3600
    for path in [*_attempts(), *_without_row(), *unused(forgotten)]:
        if _newest(path) < before:
            done.bytes += _size(path)
            done.files += 1
            remove(path)
    over = timezone.now() - timedelta(days=settings.KEPT_DAYS)
    # What failed or was stopped on something that is still there stays: it is how the person goes on with it.
    there = [pk for _, model in _HOLDERS for pk in model._default_manager.values_list("pk", flat=True)]
    done.jobs, _ = Job.objects.filter(Q(state=Job.State.DONE) | ~Q(target__in=there), finished__lt=over).delete()
    Notice.objects.filter(created__lt=over).delete()
    DBTaskResult.objects.finished().filter(finished_at__lt=over).delete()
    done.sessions, _ = Session.objects.filter(expire_date__lt=timezone.now()).delete()
    return done


def _attempts() -> Iterator[Path]:
    """Files and folders of attempts: whoever made them renamed them, removed them, or is gone."""
    root = Path(default_storage.path(""))
    for kind, _ in _HOLDERS:
        yield from root.glob(f"{kind}/*/.*{PART}")
        yield from root.glob(f"{kind}/*/.export-*")
        yield from root.glob(f"{kind}/*/.clearer-*")
    for kind in ("chunks", "prepared"):
        yield from root.glob(f"{kind}/*/.*{PART}")
        yield from root.glob(f"{kind}/*/.prepare-*")


def _without_row() -> Iterator[Path]:
    root = Path(default_storage.path(""))
    for kind, model in _HOLDERS:
        known = set(model._default_manager.values_list("pk", flat=True))
        for path in root.glob(f"{kind}/*"):
            if _named(path) not in known:
                yield path


def _named(path: Path) -> uuid.UUID | None:
    try:
        return uuid.UUID(path.name)
    except ValueError:
        return None


def _all(path: Path) -> list[Path]:
    return [path, *path.rglob("*")] if path.is_dir() else [path]


def _newest(path: Path) -> float:
    return max((each.lstat().st_mtime for each in _all(path) if each.exists()), default=0.0)


def _size(path: Path) -> int:
    return sum(each.lstat().st_size for each in _all(path) if each.is_file())
