"""Rows with files: what is deleted takes its files and its jobs along."""

import shutil
from functools import partial
from pathlib import Path
from typing import Any

from django.conf import settings
from django.core.files.storage import default_storage
from django.db import models, transaction
from django.db.models.signals import post_delete, pre_delete

from hovvet.server.jobs.running import cancel_jobs_of


class HasFiles(models.Model):
    """A row whose files stand at ``stored``: a folder, or one file."""

    class Meta:
        abstract = True

    def __init_subclass__(cls, **kwargs: Any) -> None:
        super().__init_subclass__(**kwargs)
        pre_delete.connect(_stop_jobs, sender=cls, dispatch_uid=f"stop jobs of {cls.__qualname__}")
        post_delete.connect(_take_along, sender=cls, dispatch_uid=f"take along files of {cls.__qualname__}")

    @property
    def stored(self) -> Path:
        """Where its files are."""
        raise NotImplementedError


def _stop_jobs(instance: HasFiles, **_: object) -> None:
    cancel_jobs_of(instance.pk)


def _take_along(instance: HasFiles, **_: object) -> None:
    """Remove the files once the row is gone for good."""
    transaction.on_commit(partial(remove, instance.stored))


def remove(path: Path) -> None:
    """Remove a file or a folder with all in it; what is gone already is no matter."""
    if path.is_dir():
        shutil.rmtree(path, ignore_errors=True)
    else:
        path.unlink(missing_ok=True)


def room() -> int:
    """How many bytes may still be written to the storage; less than 0 where there is less than has to stay free."""
    root = Path(default_storage.path(""))
    root.mkdir(parents=True, exist_ok=True)
    return shutil.disk_usage(root).free - settings.FREE_BYTES
