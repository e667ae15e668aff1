"""Uploads under way."""

import time
import uuid
from pathlib import Path

from django.conf import settings
from django.core.files.storage import default_storage
from django.db import models
from django.utils import timezone

from hovvet.server.accounts.models import Workspace
from hovvet.server.files import HasFiles
from hovvet.server.recordings.models.shows import Show


class Upload(HasFiles):
    """A file on its way in, by the open tus protocol. What is sent while it is being recorded has no ``length`` until it is over."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    workspace = models.ForeignKey(Workspace, models.CASCADE, related_name="uploads")
    user = models.ForeignKey(settings.AUTH_USER_MODEL, models.CASCADE, related_name="uploads")
    show = models.ForeignKey(Show, models.SET_NULL, null=True)
    for_shelf = models.BooleanField(default=False)
    file_name = models.CharField(max_length=255)
    length = models.BigIntegerField(null=True)
    begun = models.DateTimeField(default=timezone.now)
    angle_of = models.UUIDField(null=True)  # the recording that it is another camera of
    script = models.UUIDField(null=True)  # what is read in it, if it is a take
    line = models.PositiveIntegerField(default=0)  # of the script, with which it begins
    expires = models.DateTimeField()

    def __str__(self) -> str:
        return f"{self.file_name} ({self.offset} of {self.length or '?'} bytes)"

    @property
    def path(self) -> Path:
        """Where its bytes are gathered."""
        return Path(default_storage.path(f"uploads/{self.pk}"))

    stored = path

    @property
    def sent(self) -> float:
        """Seconds from its beginning until something of it arrived last: of what is sent while it is recorded about its length."""
        return max(self.path.stat().st_mtime - self.begun.timestamp(), 0.0) if self.path.exists() else 0.0

    @property
    def quiet(self) -> float:
        """Seconds since something of it arrived."""
        return time.time() - self.path.stat().st_mtime if self.path.exists() else 0.0

    @property
    def offset(self) -> int:
        """How many bytes have arrived."""
        return self.path.stat().st_size if self.path.exists() else 0
